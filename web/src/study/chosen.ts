/** Some of many, as an address has it: "3,7" is any of the two, "!3,7" none of them. The server reads it the same way. */

export type Chosen = { values: readonly string[]; isNot: boolean };

const NONE: Chosen = { values: [], isNot: false };

/** What an address chose; values that are none are left out, and a choice of nothing is no choice. */
export function readChosen(text: string | null | undefined, isValue: (value: string) => boolean = Boolean): Chosen {
  if (!text) return NONE;
  const isNot = text.startsWith("!");
  const parts = (isNot ? text.slice(1) : text).split(",").map((part) => part.trim());
  const values = [...new Set(parts.filter(isValue))].sort();
  return values.length > 0 ? { values, isNot } : NONE;
}

export function writeChosen({ values, isNot }: Chosen): string | undefined {
  return values.length > 0 ? (isNot ? "!" : "") + [...values].sort().join(",") : undefined;
}

/** The choice with a value more, or without it. */
export function toggled(chosen: Chosen, value: string): Chosen {
  const has = chosen.values.includes(value);
  return { ...chosen, values: has ? chosen.values.filter((v) => v !== value) : [...chosen.values, value] };
}

/** Names in a row: "a, b or c"; of many the first two and how many more. */
export function listed(names: readonly string[], last = "or"): string {
  const shown = names.length > 3 ? [...names.slice(0, 2), `${names.length - 2} more`] : names;
  return shown.length > 1 ? `${shown.slice(0, -1).join(", ")} ${last} ${shown.at(-1)}` : (shown[0] ?? "");
}
