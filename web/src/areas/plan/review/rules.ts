/** What is to be said about a post under review. Pure. */

import type { LogEntry, Review } from "./queries";

type Seen = Review["now"];
export type SeenVersion = Seen["versions"][number];

const STEPS: Record<string, string> = {
  analyst: "an analyst",
  approver: "an approver",
  admin: "an admin",
  guest: "a guest",
};

/** Where a post stands, in a sentence. */
export function standingWords(review: Pick<Review, "state" | "steps" | "step">): string {
  const { state, steps, step } = review;
  if (state === "in_review" && step !== null) {
    const which = steps.length > 1 ? ` (${step + 1} of ${steps.length})` : "";
    return `It waits for the yes of ${STEPS[steps[step] ?? ""] ?? "somebody"}${which}.`;
  }
  if (state === "idea") return "An idea: say what you think of it.";
  if (state === "approved") return "All have said yes; it is not scheduled yet.";
  if (state === "scheduled") return "It goes out at its minute.";
  if (state === "published") return "It is out.";
  if (steps.length === 0) return "Nobody has to say yes to posts of this brand.";
  return "Nobody is asked for a yes yet.";
}

const ACTS: Record<string, string> = {
  plan_post: "wrote it",
  change_planned_post: "changed it",
  schedule_post: "set it to go out",
  move_post: "moved it",
  take_back: "took it back",
  submit_post: "asked for a yes",
  say_yes: "said yes",
  ask_for_change: "asked for a change",
  back_to_review: "changed it after the yes, so that it waits for one anew",
  remark: "said something about it",
  settle_remark: "took a remark as done, or opened it again",
  settle_version: "settled what did not go out",
  published_by_hand: "published it by hand",
  write_idea: "wrote it from an idea",
  keep_idea: "kept it as an idea",
  change_idea: "changed the idea",
  shut_idea: "put the idea away, or took it out again",
};

/** "Ed set it to go out Tue 1 Dec, 10:00"; what the worker sent by itself; what nobody knows the name of any more. */
export function logWords(one: LogEntry, momentOf: (at: string) => string): string {
  if (one.action === "published") return `It went out on ${one.network}`;
  const who = one.who ? `${one.who}${one.is_guest ? " (guest)" : ""}` : "Somebody";
  return [who, ACTS[one.action] ?? one.action.replaceAll("_", " "), one.at && momentOf(one.at)]
    .filter(Boolean)
    .join(" ");
}

/** Versions that read the same, together: what is seen once, and on which networks. */
export function alike(versions: SeenVersion[]): { version: SeenVersion; of: SeenVersion[] }[] {
  const found = new Map<string, SeenVersion[]>();
  for (const one of versions) {
    const key = JSON.stringify([one.text, one.headline, one.first_comment, one.media]);
    found.set(key, [...(found.get(key) ?? []), one]);
  }
  return [...found.values()].map((of) => ({ version: of[0] as SeenVersion, of }));
}

/** What of a version changed since one looked, beside its words; in words. */
export function changedBeside(before: SeenVersion | undefined, now: SeenVersion): string[] {
  if (!before) return ["This version is new."];
  const said: string[] = [];
  if (before.headline !== now.headline) said.push(`The title was “${before.headline || "nothing"}”.`);
  if (before.first_comment !== now.first_comment) said.push("The first comment is another.");
  if (JSON.stringify(before.media) !== JSON.stringify(now.media)) said.push("The pictures are others.");
  return said;
}

type About = { quote?: string; asset?: number | null; profile_id?: number | null };

/** What of a post something is said about, beside words that are quoted; nothing where it is all of it. */
export function aboutWords(review: Pick<Review, "now">, about: About, networks: Record<string, string>): string {
  const of = review.now.versions.find((one) => one.profile === about.profile_id);
  const on = of ? ` for ${networks[of.network] ?? of.name}` : "";
  if (about.asset != null) {
    const at = (of?.media ?? review.now.versions.flatMap((one) => one.media)).indexOf(about.asset);
    return at < 0 ? "about a picture that is gone" : `about picture ${at + 1}${on}`;
  }
  return about.quote || !of || alike(review.now.versions).length === 1 ? "" : `about the version${on}`;
}

type Entry =
  | { kind: "verdict"; at: string; one: Review["verdicts"][number] }
  | { kind: "remark"; at: string; one: Review["remarks"][number] };

/** What was said, in its order. */
export function inOrder(review: Pick<Review, "verdicts" | "remarks">): Entry[] {
  const told: Entry[] = [
    ...review.verdicts.map((one) => ({ kind: "verdict" as const, at: one.at, one })),
    ...review.remarks.map((one) => ({ kind: "remark" as const, at: one.at, one })),
  ];
  return told.sort((a, b) => a.at.localeCompare(b.at));
}
