/** A rule to repeat by, as RFC 5545 writes it and as people say it; and how posts did that came again. */

import { figure, plural } from "../../../lib/format";
import type { NthTime } from "./queries";

export const UNITS = { DAILY: "day", WEEKLY: "week", MONTHLY: "month" } as const;
export type Unit = keyof typeof UNITS;
export const WEEKDAYS = [
  ["MO", "Mon"],
  ["TU", "Tue"],
  ["WE", "Wed"],
  ["TH", "Thu"],
  ["FR", "Fri"],
  ["SA", "Sat"],
  ["SU", "Sun"],
] as const;

export type Rhythm = { every: number; unit: Unit; days: string[] };

/** "FREQ=WEEKLY;INTERVAL=2;BYDAY=MO,TH"; days say something of weeks alone. */
export function ruleOf({ every, unit, days }: Rhythm): string {
  const chosen = WEEKDAYS.map(([key]) => key).filter((key) => days.includes(key));
  const parts = [`FREQ=${unit}`, `INTERVAL=${every}`];
  if (unit === "WEEKLY" && chosen.length > 0) parts.push(`BYDAY=${chosen.join(",")}`);
  return parts.join(";");
}

/** The same in words, of whatever rule; of one that was not made here, its text. */
export function ruleWords(rule: string): string {
  const parts = new Map(rule.split(";").map((part) => part.split("=") as [string, string]));
  const unit = UNITS[parts.get("FREQ") as Unit];
  const known = [...parts.keys()].every((key) => ["FREQ", "INTERVAL", "BYDAY"].includes(key));
  if (!unit || !known) return rule;
  const every = Number(parts.get("INTERVAL") ?? 1);
  const days = (parts.get("BYDAY") ?? "").split(",").flatMap((key) => WEEKDAYS.find(([one]) => one === key)?.[1] ?? []);
  return `every ${every === 1 ? unit : plural(every, unit)}${days.length > 0 ? ` on ${days.join(", ")}` : ""}`;
}

const TIMES = ["first", "second", "third", "fourth or later"];

/** "the third time 0.62 of the usual (0.50 to 0.77), 12 posts". */
export function nthWords(one: NthTime): string {
  const name = `the ${TIMES[one.number - 1] ?? `${one.number}th`} time`;
  if (one.index === null || one.posts === 0) return `${name}: no post`;
  const span =
    one.low === null || one.high === null ? "" : ` (${figure(one.low, "index")} to ${figure(one.high, "index")})`;
  return `${name} ${figure(one.index, "index")} times the usual${span}, ${plural(one.posts, "post")}`;
}

/** A warning where repeating wears out beyond chance; nothing else is said to. */
export function wearWords(nth: NthTime[]): string | null {
  const worn = nth.find((one) => one.is_worn);
  return worn ? `Repeating wears out here: ${nthWords(worn)}. Turn other texts in, or repeat less often.` : null;
}
