/** The question of hours as the address carries it: whose, for what, of which posts, by whose clock. */

const PARTS = ["whose", "set", "profile", "network", "format", "tag", "of", "first", "last", "zone"] as const;
export type Question = {
  whose?: "brand" | "competitors";
  /** A peer set: the competitors in it. */
  set?: number;
  profile?: string;
  network?: string;
  format?: string;
  tag?: string;
  of?: "interactions";
  first?: string;
  last?: string;
  zone?: string;
};

/** The ways of saying whose hours. */
const WHO = ["whose", "set", "profile", "network"] as const;

export function questionIn(params: URLSearchParams): Question {
  const found: Record<string, string | number> = {};
  for (const part of PARTS) {
    const value = params.get(part);
    if (value) found[part] = part === "set" ? Number(value) : value;
  }
  return found as Question;
}

/** An address with some parts of the question changed; whoever is asked about anew leaves the other ways of saying so. */
export function withQuestion(
  params: URLSearchParams,
  change: Partial<Record<keyof Question, string>>,
): URLSearchParams {
  const next = new URLSearchParams(params);
  if (WHO.some((name) => name in change)) for (const name of WHO) next.delete(name);
  for (const [name, value] of Object.entries(change)) {
    if (value) next.set(name, value);
    else next.delete(name);
  }
  return next;
}

/** Periods that can be chosen, as days back from today; nothing is half a year. */
export const SPANS = [
  { weeks: 26, words: "26 weeks" },
  { weeks: 13, words: "13 weeks" },
  { weeks: 52, words: "a year" },
] as const;

/** A choice of several in an address, by its parts: "!3,7". */
export function chosenIn(text: string | undefined): { isNot: boolean; values: string[] } {
  const isNot = text?.startsWith("!") ?? false;
  const values = (isNot ? text?.slice(1) : text)?.split(",").filter(Boolean) ?? [];
  return { isNot, values };
}

export function choiceText(isNot: boolean, values: readonly string[]): string {
  return values.length === 0 ? "" : `${isNot ? "!" : ""}${[...values].sort().join(",")}`;
}
