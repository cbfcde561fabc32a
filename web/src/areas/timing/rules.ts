/** What the week says, by rule. */

import { addDays, hoursAhead, WEEKDAYS } from "../../lib/days";
import { figure, interval, percent, plural } from "../../lib/format";
import type { Held, Stretch, Week } from "./queries";

export function hourName(hour: number): string {
  const whole = Math.floor(hour % 24);
  const minutes = Math.round((hour % 1) * 60);
  return `${WEEKDAYS[Math.floor(hour / 24) % 7]} ${clockName(whole + minutes / 60)}`;
}

export function clockName(hour: number): string {
  const minutes = Math.round((hour % 24) * 60);
  return `${String(Math.floor(minutes / 60) % 24).padStart(2, "0")}:${String(minutes % 60).padStart(2, "0")}`;
}

/** Wed 20:15 of a minute of the week. */
export const minuteName = (minute: number): string => hourName(minute / 60);

/** What stands in, in words; nothing where posts tell it. */
export const STANDS_IN: Record<string, string> = {
  others: "By the other profiles' posts, until 30 of its own are there",
  presence: "By when its audience is there, until 30 posts tell more",
  network: "By the network's usual hours, until 30 posts tell more",
  nothing: "Nothing is known of its hours yet: post at different ones",
};

export const isByPosts = (week: Week): boolean => week.stands_by === "posts" || week.stands_by === "others";

/** One sentence on top: a statement only where an effect of the hour may be claimed, and no more than its interval. */
export function headline(week: Week): string {
  const wanted = week.wanted.find((one) => one.key === week.of);
  if (wanted && wanted.least > week.counted)
    return `Too few ${wanted.name} to tell hours by: ${figure(week.counted)} of the ${wanted.least} that it takes`;
  if (!isByPosts(week)) return `Too few posts to claim anything: ${week.posts_used} of the 30 that it takes`;
  if (!week.has_effect) return "No hour can be told from chance yet";
  const best = week.hours.reduce((a, hour, i) => ((week.hours[a]?.low80 ?? 0) >= hour.low80 ? a : i), 0);
  const hour = week.hours[best];
  if (!hour || hour.certainty === "open")
    return "Hours make a difference here, but no single one stands out from chance";
  const [level, low, high] = hour.certainty === "sure" ? [95, hour.low95, hour.high95] : [80, hour.low80, hour.high80];
  const range = `${figure(low, "index")} to ${figure(high, "index")}, ${level} %`;
  return `Around ${hourName(best)} a post gets ${figure(hour.index, "index")} times the usual (${range})`;
}

/** Thu 20:00–23:00 of a stretch of hours. */
export function stretchName(stretch: { first: number; hours: number }): string {
  return `${hourName(stretch.first)}–${clockName((stretch.first + stretch.hours) % 24)}`;
}

/** What a missed or crowded stretch would bring, with how sure. */
export function stretchWords(stretch: Stretch): string {
  const there = stretch.presence === null ? "" : `, ${percent(stretch.presence)} of the busiest hour are there`;
  if (stretch.index === null || stretch.low == null || stretch.high == null)
    return `what it brings is not known${there}`;
  return `${figure(stretch.index, "index")} times the usual (${interval(stretch.low, stretch.high, "index")}, 80 %)${there}`;
}

/** Whether it held on newer weeks: one sentence that claims no more than its interval. */
export function heldSentence(held: Held | null): string {
  if (!held || held.gain === null)
    return "Too little was published of late to try it on: it takes 20 posts over five weeks.";
  const range = held.low === null || held.high === null ? "" : ` (${interval(held.low, held.high, "index")}, 95 %)`;
  const tried = `${plural(held.newer, "post")} of the last ${plural(held.weeks, "week")}`;
  if (held.is_shown)
    return `It held: of ${tried}, those at the hours that the weeks before put highest did ${figure(held.gain, "index")} times as well as all${range}.`;
  return `No gain can be shown: of ${tried}, those at the hours that the weeks before put highest did ${figure(held.gain, "index")} times as well as all${range}.`;
}

/** How many in ten of the audience live by which clock. */
export function groupsWords(groups: readonly { zone: string; share: number }[]): string {
  return groups.map((g) => `${Math.round(g.share * 10) || "under 1"} in 10 ${cityOf(g.zone)}`).join(", ");
}

/** The town that a zone is named after. */
export const cityOf = (zone: string): string => (zone.split("/").at(-1) ?? zone).replaceAll("_", " ");

/** The clocks of the audience beside the one that is shown: by how many hours each is ahead, day by day of the week. */
export function otherClocks(week: Week): { zone: string; ahead: number[] }[] {
  const monday = week.presence_week;
  if (!monday) return [];
  return week.groups
    .filter((group) => group.zone !== week.zone)
    .map((group) => ({
      zone: group.zone,
      ahead: [0, 1, 2, 3, 4, 5, 6].map((day) => hoursAhead(addDays(monday, day), group.zone, week.zone)),
    }))
    .filter(({ ahead }) => ahead.some((hours) => hours !== 0));
}

/** Sao Paulo, 3 h behind; and when its distance changes within the week. */
export function clockWords({ zone, ahead }: { zone: string; ahead: number[] }): string {
  const words = (hours: number) =>
    hours === 0 ? "the same clock" : `${Math.abs(hours)} h ${hours < 0 ? "behind" : "ahead"}`;
  const first = ahead[0] ?? 0;
  const changes = ahead.findIndex((hours) => hours !== first);
  const then = changes > 0 ? `, ${words(ahead[changes] ?? 0)} from ${WEEKDAYS[changes]}` : "";
  return `${cityOf(zone)}, ${words(first)}${then}`;
}

/** Where posts gather and where the audience does, told when they are two hours apart or more. */
export function apartWords(week: Week): string {
  if (week.posts_at === null || week.audience_at === null) return "";
  const apart = Math.abs(((week.posts_at - week.audience_at + 36) % 24) - 12);
  if (apart < 2) return "";
  return `Posts gather around ${clockName(week.posts_at)}, the audience around ${clockName(week.audience_at)}.`;
}

/** Hours in the order of what they are worth: the lower end of the interval first, so that little evidence ranks low. */
export function ranked(week: Week, most = 24): number[] {
  return week.hours
    .map((_, hour) => hour)
    .sort((a, b) => (week.hours[b]?.low80 ?? 0) - (week.hours[a]?.low80 ?? 0))
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
  if (week.pooled < 2 || week.chosen.length !== 1) return "";
  if (week.alone > 0.5) return " Its hours go their own way: what the other profiles say counts for little here.";
  return week.alone < 0.2 ? " Its hours are much like those of the other profiles, which is used." : "";
}

/** A gain in words: +12 % expected (2 to 23 %). */
export function gainWords(gain: { ratio: number; low: number; high: number }): string {
  const part = (value: number) => `${value < 1 ? "−" : ""}${Math.round(Math.abs(value - 1) * 100)}`;
  return `${gain.ratio >= 1 ? "+" : ""}${part(gain.ratio)} % expected (${part(gain.low)} to ${part(gain.high)} %, 80 %)`;
}
