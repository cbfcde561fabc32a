/** What the week says, by rule. */

import { WEEKDAYS } from "../../lib/days";
import { figure } from "../../lib/format";
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
  const sure = { sure: "surely", likely: "likely", open: "perhaps" }[hour?.certainty ?? "open"];
  return `Around ${hourName(best)} a post ${sure} gets ${figure(hour?.index, "index")} times the usual`;
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
