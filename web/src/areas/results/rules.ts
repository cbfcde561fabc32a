/** What Results shows, by rule. */

import type { Of } from "../../figures/queries";
import { figure, interval, plural, type Unit } from "../../lib/format";
import type { Measured } from "./queries";

/** The figures of the strip until somebody chooses others. */
export const STRIP = ["followers", "posts", "reach", "interactions", "er_reach", "clicks", "visits", "conversions"];
export const MOST_IN_STRIP = 9;
export const COLUMNS = ["interactions", "impressions", "reach", "comments", "shares", "clicks", "er_impressions"];
export const MOST_COLUMNS = 9;

/** A name where there is little room: two that begin alike must still be told apart. */
export function stripName(name: string): string {
  return name
    .replace(/^Engagement by /, "Eng. by ")
    .replace(/^Interactions per /, "Inter. per ")
    .replace(/^(.)(.*) of the median post$/, (_, first: string, rest: string) => `Median ${first.toLowerCase()}${rest}`)
    .replace(/^Most (.*) of one post$/, "Most $1")
    .replace(/^Part of all /, "Part of ")
    .replace(/^Change in /, "Change, ")
    .replace(/ per 1,000 followers$/, " per 1,000");
}

/** What traffic came of links, in one sentence: clicks, then what is known of what they became. */
export function trafficTitle(clicks: number, visits: number, conversions: number): string {
  const said = `${plural(clicks, "click")} on tracked links`;
  if (visits === 0) return said;
  const came = `${said}, ${plural(visits, "visit")} by links and networks`;
  return conversions === 0 ? came : `${came}, ${plural(conversions, "conversion")}`;
}

export type Form = "line" | "bar";

/** Levels are drawn as they are; what arrives by the day can also be bars, and is where somebody says so. */
export function formOf(key: string, chosen: Record<string, Form> = {}): Form {
  return chosen[key] ?? (key === "posts" || key === "net_followers" ? "bar" : "line");
}

/** What the marks of a course are, and what a day opens. */
export function courseCaption(
  metric: Pick<Measured, "name" | "over" | "counted" | "adds_up">,
  age: string,
  form: Form,
  isByDay: boolean,
): string {
  if (metric.adds_up === "change")
    return `${metric.name}, from the first day up to each, solid; what the comparison period came to by then, dashed.`;
  const of = metric.over === "published" ? `of the posts of each day, ${age}` : "per day";
  const behind = metric.over === "brought" ? "links and referrers" : "posts";
  const days = isByDay
    ? `A day opens the ${behind} behind it; triangles mark days that stand out.`
    : "Short marks on the axis are posts.";
  const what = metric.over === "published" || !metric.counted ? metric.name : `${metric.name} ${metric.counted}`;
  return `${what} ${of}, ${form === "bar" ? "bars" : "solid"}; the comparison period, dashed. ${days}`;
}

/** Share of each part in the whole, for parts that add up. */
export function shares(parts: { value: number | null }[]): (number | null)[] {
  const total = parts.reduce((sum, part) => sum + (part.value ?? 0), 0);
  return parts.map((part) => (part.value === null || total === 0 ? null : part.value / total));
}

/** Whether the networks' parts of a metric make up its whole. */
export function addsUp(metric: Pick<Measured, "unit" | "adds_up">): boolean {
  return metric.adds_up === "sum" || metric.adds_up === "last" || metric.unit === "per_week";
}

/** The rows between two places, whichever was marked first. */
export function span(from: number, to: number): number[] {
  const first = Math.min(from, to);
  return Array.from({ length: Math.abs(to - from) + 1 }, (_, i) => first + i);
}

/** How a ratio is written with its interval: 1.31 (1.08–1.60). */
export function ratioText(ratio: { value: number; interval: { low: number; high: number } } | null): string {
  if (!ratio) return "–";
  const two = (n: number) => n.toFixed(2);
  return `${two(ratio.value)} (${two(ratio.interval.low)}–${two(ratio.interval.high)})`;
}

export const VERDICTS = {
  better: "better",
  worse: "worse",
  open: "may be chance",
  few: "too few to judge",
} as const;

/** What raw and adjusted say together: the answer to "what if it were the format?". */
export function secondLook(
  raw: { value: number; interval: { low: number; high: number } } | null,
  adjusted: { value: number; interval: { low: number; high: number } } | null,
  held: string,
): string {
  if (!raw || !adjusted) return "";
  const isSure = (r: NonNullable<typeof raw>) => r.interval.low > 1 || r.interval.high < 1;
  if (isSure(raw) && !isSure(adjusted)) return `goes away once ${held} is held the same`;
  if (!isSure(raw) && isSure(adjusted)) return `shows once ${held} is held the same`;
  if (isSure(raw) && isSure(adjusted) && raw.value > 1 !== adjusted.value > 1) return "turns round once held the same";
  return "";
}

/** What is to be said of a day beside its posts. */
export function behindText(b: {
  is_spike: boolean;
  is_explained: boolean;
  explained: number;
  z: number | null;
  published: number;
  usually_published: number;
  unusual: { index: number }[];
}): string {
  const post = b.unusual[0];
  if (post && !b.is_spike)
    return `The day's total lies within what is usual; a post of it does not: ${figure(post.index, "index")} times its typical.`;
  if (b.z === null) return "There are too few days around it to say what is usual.";
  if (!b.is_spike) return "The day lies within what is usual.";
  if (b.z < 0) {
    const few = b.published < b.usually_published;
    return few
      ? `${plural(b.published, "post was", "posts were")} published on it or the day before; usually ${b.usually_published}.`
      : "As many posts were published as usual; what brought less than such posts do stands below.";
  }
  if (!b.is_explained) return "No post explains this.";
  return `The posts below make up ${Math.round(b.explained * 100)}% of what is beyond the usual.`;
}

type Seen = { id: number; interactions: number | null; values: Record<string, number | null> };

/**
 * Posts with much attention and hardly a click, and posts with little attention and many: ranks apart.
 * A post is judged only where both are known.
 */
export function attentionApart(posts: Seen[], most = 8): { quiet: Seen[]; busy: Seen[] } {
  const known = posts.filter((p) => p.interactions !== null && p.values.clicks != null);
  const rank = (by: (p: Seen) => number) => {
    const order = [...known].sort((a, b) => by(a) - by(b));
    return new Map(order.map((p, i) => [p.id, known.length > 1 ? i / (known.length - 1) : 0.5]));
  };
  const attention = rank((p) => p.interactions ?? 0);
  const clicks = rank((p) => p.values.clicks ?? 0);
  const apart = known
    .map((p) => ({ post: p, gap: (attention.get(p.id) ?? 0) - (clicks.get(p.id) ?? 0) }))
    .filter(({ gap }) => Math.abs(gap) >= 0.4);
  return {
    quiet: apart
      .filter((a) => a.gap > 0)
      .sort((a, b) => b.gap - a.gap)
      .slice(0, most)
      .map((a) => a.post),
    busy: apart
      .filter((a) => a.gap < 0)
      .sort((a, b) => a.gap - b.gap)
      .slice(0, most)
      .map((a) => a.post),
  };
}

export function intervalText(low: number | null, high: number | null, unit: Unit): string {
  return low === null || high === null ? "" : interval(low, high, unit);
}

/** A figure of the summary, as its basis is asked for. */
export const courseOf = (metric: string | null): Of | null =>
  metric ? { kind: "results.course", cell: metric } : null;
