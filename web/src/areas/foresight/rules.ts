/** What is said of young and planned posts, by rule; never more than the interval. */

import { figure, interval, percent, plural } from "../../lib/format";
import type { CalibrationRow, Expectation, ExpectedWeek, UnderWay } from "./queries";

/** 40 min, 5 h, 2 d of an age in hours. */
export function ageWords(hours: number): string {
  if (hours < 1) return `${Math.max(1, Math.round(hours * 60))} min`;
  return hours < 48 ? `${Math.round(hours)} h` : `${Math.floor(hours / 24)} d`;
}

type Heading = { heading: number; heading_low: number; heading_high: number };

/** heading for 900 (640 to 1,300); or that hardly anything is still to come. */
export function headingWords(one: Heading): string {
  if (Math.round(one.heading_low) === Math.round(one.heading_high)) return `at about ${figure(one.heading)} for good`;
  return `heading for ${figure(one.heading)} (${interval(one.heading_low, one.heading_high, "count")})`;
}

type Young = Heading & { count: number; index: number | null; age_hours: number };

/** now 212, 1.40 times typical at 5 h, heading for 900 (640 to 1,300). */
export function youngWords(one: Young): string {
  const index =
    one.index === null
      ? `at ${ageWords(one.age_hours)}`
      : `${figure(one.index, "index")} times typical at ${ageWords(one.age_hours)}`;
  return `now ${figure(one.count)}, ${index}, ${headingWords(one)}`;
}

/** From then on nearly everything has come: it is said of what was. */
const GROWN_HOURS = 72;

/** How it stands to what is usual of its profile at its age; nothing to say of most. */
export function stateOf(post: { state: UnderWay["state"]; age_hours: number }): {
  word: string;
  tone: "good" | "wrong" | "quiet";
} {
  const isGrown = post.age_hours >= GROWN_HOURS;
  if (post.state === "rising") return { word: isGrown ? "took off" : "taking off", tone: "good" };
  if (post.state === "flat") return { word: isGrown ? "fell flat" : "falling flat", tone: "wrong" };
  return { word: "", tone: "quiet" };
}

/** One sentence over what is under way. */
export function underWayTitle(posts: readonly UnderWay[]): string {
  const words = ["taking off", "falling flat", "took off", "fell flat"];
  const told = words
    .map((word) => ({ word, count: posts.filter((p) => stateOf(p).word === word).length }))
    .filter(({ count }) => count > 0)
    .map(({ word, count }) => `${count} ${word}`);
  const parts = told.length > 0 ? told : ["all within what is usual at their age"];
  return posts.length === 0
    ? "Nothing is under way"
    : `Under way: ${plural(posts.length, "post")}, ${parts.join(", ")}`;
}

/** 640 (410 to 980). */
export function expectationWords(one: Expectation | null | undefined): string {
  return one ? `${figure(one.value)} (${interval(one.low, one.high, "count")})` : "not known";
}

/** 14 planned posts, 9,800 interactions expected (7,100 to 13,600); the week before had 8,950. */
export function weekWords(week: ExpectedWeek): string {
  const sum = week.together.interactions;
  if (!sum) return `${plural(week.posts, "planned post")}; too few posts before them to say what they will bring`;
  const some = week.told < week.posts ? ` from ${week.told} of them` : "";
  const before =
    week.came === null ? "" : `; the ${plural(week.came_posts, "post")} of the week before had ${figure(week.came)}`;
  return `${plural(week.posts, "planned post")}, ${figure(sum.value)} interactions expected${some}, ${interval(sum.low, sum.high, "count")}${before}`;
}

/** Before publishing, at 6 h. */
export function horizonWords(hours: number | null): string {
  if (hours === null) return "all ages";
  return hours === 0 ? "before publishing" : `at ${ageWords(hours)}`;
}

/** Whether we were right: the headline over all that is known. */
export function calibrationTitle(row: CalibrationRow | undefined): string {
  if (!row || row.coverage === null || row.low == null || row.high == null)
    return "Too little is known to say whether we were right";
  const share = `${percent(row.coverage)} of ${plural(row.n, "projection")} held what came (${percent(row.low)} to ${percent(row.high)})`;
  if (row.is_honest) return `As promised: ${share}, where 80 % was said`;
  return row.coverage > 0.8
    ? `More careful than said: ${share}, where 80 % was said`
    : `Too sure of ourselves: ${share}, where 80 % was said`;
}

const RIVALS = { last: "the last post's count", median: "the median of the last ten" } as const;

/** Against a plain rival, and plainly so when it is the better one. */
export function versusWords(one: CalibrationRow["versus"][number]): string {
  const by = `${figure(one.ratio, "index")} times its error${one.high === null ? "" : ` (${interval(one.low, one.high, "index")})`}`;
  const name = RIVALS[one.rival];
  if (one.is_worse) return `${name} would have been nearer: ours is ${by}`;
  if (one.is_better) return `nearer than ${name}: ${by}`;
  return `no better than ${name} as far as can be told: ${by}`;
}
