/** How competitors are ordered and told: plain functions, so that they can be tested apart from drawing. */

import { figure, interval, plural, type Unit } from "../../lib/format";
import type { Column, Line, Place, Row, Work } from "./queries";

export const FIRST_COLUMNS = [
  "followers",
  "growth",
  "posts_per_week",
  "interactions_per_week",
  "interactions_per_post",
  "interactions_per_1000",
];

type Figure = Line["figures"][string]["now"];

/** Rows by a column, those without a value last either way; by name where the sort names no column. */
export function sorted<T extends Line>(rows: readonly T[], sort: string): T[] {
  const down = sort.startsWith("-");
  const key = sort.replace(/^-/, "");
  return [...rows].sort((a, b) => {
    if (key === "name") return (down ? -1 : 1) * a.name.localeCompare(b.name);
    const [x, y] = [a.figures[key]?.now.value ?? null, b.figures[key]?.now.value ?? null];
    if (x === null || y === null) return x === y ? a.name.localeCompare(b.name) : x === null ? 1 : -1;
    return down ? y - x : x - y;
  });
}

/** A place in short: 3, or 3 with the places that are not ruled out. */
export function placeText(place: Place | null): string {
  if (!place || place.of < 2) return "";
  return place.best === place.worst ? `${place.rank}.` : `${place.rank}. (${place.best}–${place.worst})`;
}

/** What there is to say of a figure of the table, for whoever stays over it or listens. */
export function figureTitle(figure_: Figure, place: Place | null, column: Column): string {
  const unit = column.unit as Unit;
  const parts: string[] = [];
  if (column.is_of_posts && figure_.n) parts.push(plural(figure_.n, "post"));
  if (column.is_of_posts && figure_.missing) parts.push(`${figure_.missing} too young or not read`);
  if (!column.is_of_posts && figure_.missing)
    parts.push(`without ${plural(figure_.missing, "profile")} that does not tell, so no place`);
  if (figure_.interval) parts.push(`${interval(figure_.interval.low, figure_.interval.high, unit)} (95 %)`);
  if (place && place.of > 1) {
    const sure = place.best === place.worst ? "" : `, ${place.best} to ${place.worst} not ruled out`;
    parts.push(`number ${place.rank} of ${place.of}${sure}`);
    if (place.to_next) parts.push(`${figure(place.to_next, unit)} to ${place.next_name}`);
  }
  return parts.join("; ");
}

/** Sentences on our place, only of what the intervals allow. */
export function headline(rows: readonly Row[], column: Column): string {
  const ours = rows.filter((row) => row.is_own);
  const place = ours.length === 1 ? ours[0]?.figures[column.key]?.place : null;
  if (!place || place.of < 2) return "Who has which audience, and what it does with a post";
  const name = column.name;
  if (place.best === place.worst) return `We are number ${place.rank} of ${place.of} by ${name}`;
  if (place.best === 1 && place.worst === place.of)
    return `By ${name} nobody stands apart from us: any of ${place.of} places could be chance`;
  return `By ${name} we are number ${place.rank} of ${place.of} (${place.best} to ${place.worst} not ruled out)`;
}

type Factor = { name: string; short: string; help: string; unit: Unit; metric: string; times: number };

export const FACTORS: Record<string, Factor> = {
  audience: {
    name: "Audience of a post",
    short: "Audience",
    help: "Followers of the profile that a post was on, on average over posts",
    unit: "count",
    metric: "followers",
    times: 1,
  },
  posts: {
    name: "Posts a week",
    short: "Posts",
    help: "Days without posts included",
    unit: "per_week",
    metric: "posts_per_week",
    times: 1,
  },
  reaction: {
    name: "Reaction",
    short: "Reaction",
    help: "Interactions of a post for 1,000 followers",
    unit: "per_1000",
    metric: "interactions_per_1000",
    times: 1000,
  },
};

/** What a target for a lever is, in the metric that follows it. The audience of a post is followed by the sum of our
 * followers, which grows in the same measure; null where that is not known.
 */
export function aimedAt(lever: { factor: string; ours: number; needed: number }, followers: number | null) {
  if (lever.factor === "audience") return followers === null ? null : (followers * lever.needed) / lever.ours;
  return lever.needed * (FACTORS[lever.factor]?.times ?? 1);
}

/** A factor as it is shown. */
export const shown = (factor: string, value: number) => {
  const of = FACTORS[factor];
  return of ? figure(value * of.times, of.unit) : figure(value);
};

/** How we use what works: a share of our posts beside its share of theirs. */
export function usageWords(work: Work, oursOf: number, theirsOf: number): string {
  if (!oursOf) return "we published nothing";
  const ours = work.ours / oursOf;
  const theirs = theirsOf ? work.n / theirsOf : 0;
  const percent = (v: number) => `${Math.round(100 * v)} %`;
  return `${percent(ours)} of our posts, ${percent(theirs)} of theirs`;
}

/** Where labels go so that none covers another or a dot: each at its dot, moved up or down as little as it takes; null
 * where there is no room. boxes: each dot with its radius and its label's width, in the order of importance.
 */
export function placed(
  boxes: readonly { x: number; y: number; width: number; r?: number }[],
  area: { width: number; height: number },
  lineHeight = 14,
): ({ x: number; y: number; anchor: "start" | "end" } | null)[] {
  const taken: { left: number; right: number; top: number }[] = [];
  const dots = boxes.map(({ x, y, r = 4 }) => ({ x, y, r }));
  return boxes.map((box) => {
    const away = (box.r ?? 4) + 4;
    for (const step of [0, 1, -1, 2, -2, 3, -3]) {
      for (const anchor of ["start", "end"] as const) {
        const left = anchor === "start" ? box.x + away : box.x - away - box.width;
        const top = box.y + step * lineHeight * 0.75 - lineHeight / 2;
        const isInside = left >= 0 && left + box.width <= area.width && top >= 0 && top + lineHeight <= area.height;
        const isFree = taken.every(
          (t) => t.right < left || t.left > left + box.width || Math.abs(t.top - top) >= lineHeight,
        );
        const isClear = dots.every(
          (d) =>
            d.x + d.r < left || d.x - d.r > left + box.width || d.y + d.r < top + 2 || d.y - d.r > top + lineHeight - 2,
        );
        if (isInside && isFree && isClear) {
          taken.push({ left, right: left + box.width, top });
          return { x: anchor === "start" ? left : left + box.width, y: top + lineHeight - 3, anchor };
        }
      }
    }
    return null;
  });
}
