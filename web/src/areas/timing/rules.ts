/** What the week says, by rule. */

import { WEEKDAYS } from "../../lib/days";
import { figure, plural } from "../../lib/format";
import type { Week } from "./queries";

export function hourName(hour: number): string {
  const whole = Math.floor(hour % 24);
  const minutes = Math.round((hour % 1) * 60);
  return `${WEEKDAYS[Math.floor(hour / 24) % 7]} ${String(whole).padStart(2, "0")}:${String(minutes).padStart(2, "0")}`;
}

/** One sentence on top: a statement only where an effect of the hour may be claimed. */
export function headline(week: Week): string {
  if (week.hours.length === 0) return `Too few posts to say anything: ${week.posts_used} of the 30 that it takes`;
  if (!week.has_effect) return "No hour can be told from chance yet";
  const best = week.hours.reduce((a, hour, i) => ((week.hours[a]?.low80 ?? 0) >= hour.low80 ? a : i), 0);
  const hour = week.hours[best];
  if (!hour || hour.certainty === "open")
    return "Hours make a difference here, but no single one stands out from chance";
  const [level, low, high] = hour.certainty === "sure" ? [95, hour.low95, hour.high95] : [80, hour.low80, hour.high80];
  const range = `${figure(low, "index")} to ${figure(high, "index")}, ${level} %`;
  return `Around ${hourName(best)} a post gets ${figure(hour.index, "index")} times the usual (${range})`;
}

/** Hours of the waking week at which many are there and none of the last half-year's posts was. */
export function missedHours(week: Week, most = 3): { hour: number; presence: number }[] {
  if (!week.presence) return [];
  const used = new Set(week.ticks.map((tick) => Math.floor(tick.hour)));
  return week.presence
    .map((presence, hour) => ({ presence, hour }))
    .filter(({ hour, presence }) => presence >= 0.7 && !used.has(hour))
    .sort((a, b) => b.presence - a.presence)
    .slice(0, most);
}

/** How far the axis reaches either way from 1.00: it holds nearly all bands, at least a third up or down. */
export function axisReach(week: Week): number {
  const ends = week.hours
    .flatMap((h) => [Math.abs(Math.log(h.high80)), Math.abs(Math.log(h.low80))])
    .sort((a, b) => a - b);
  return Math.max(Math.log(4 / 3), ends[Math.floor(ends.length * 0.97)] ?? 0);
}

/** What the estimate rests on: a profile's own posts, and those of the profiles it is estimated with. */
export function postsBehind(week: Week): string {
  const others = week.pooled_posts - week.posts_used;
  const own = plural(week.posts_used, "post");
  if (week.pooled < 2 || others <= 0) return own;
  return `${own} of its own and ${plural(others, "post")} of ${plural(week.pooled - 1, "profile")} more`;
}

/** Whether the profile goes along with the others, where there is anything to say of it. */
export function ownWay(week: Week): string {
  if (week.pooled < 2) return "";
  if (week.alone > 0.5) return " Its hours go their own way: what the other profiles say counts for little here.";
  return week.alone < 0.2 ? " Its hours are much like those of the other profiles, which is used." : "";
}
