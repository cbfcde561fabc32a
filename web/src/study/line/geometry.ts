/** The minute line's geometry: days to pixels and back, and what a drag does to a period. */

import { addDays, DAY_MS, type Day, dayOf, daysBetween, lastOfMonth, nextMonth, startOf } from "../../lib/days";

export type View = { from: number; to: number };
export type Span = { first: Day; last: Day };
export type Grip = "first" | "last" | "whole";
export const ZOOMS = [
  { key: "6m", label: "6 months", days: 204 },
  { key: "3m", label: "3 months", days: 102 },
  { key: "6w", label: "6 weeks", days: 50 },
] as const;
/** Share of the view that lies ahead of now. */
const AHEAD = { past: 0.1, future: 0.45 };

export function viewAround(now: number, days: number, turned: "past" | "future", panDays = 0): View {
  const ahead = days * AHEAD[turned];
  const to = now + (ahead + panDays) * DAY_MS;
  return { from: to - days * DAY_MS, to };
}

/** The view with a period in it: around now, unless the period begins before that; then around the period. */
export function viewWith(
  now: number,
  days: number,
  turned: "past" | "future",
  panDays: number,
  span: { begin: number; end: number } | null,
): View {
  const usual = viewAround(now, days, turned, 0);
  const shift = panDays * DAY_MS;
  if (!span || span.begin >= usual.from) return { from: usual.from + shift, to: usual.to + shift };
  const length = Math.max(days * DAY_MS, (span.end - span.begin) * 1.25);
  const from = (span.begin + span.end - length) / 2 + shift;
  return { from, to: from + length };
}

/** Posts in the months that end before a view and in those that begin after it, with the nearest month of each. */
export function postsBeyond(months: { month: Day; posts: number }[], view: View, zone: string) {
  const before = months.filter((m) => startOf(nextMonth(m.month), zone) <= view.from);
  const after = months.filter((m) => startOf(m.month, zone) >= view.to);
  const count = (some: typeof months) => some.reduce((sum, m) => sum + m.posts, 0);
  return {
    before: before.length
      ? { posts: count(before), nearest: before.at(-1)?.month as Day, far: before[0]?.month as Day }
      : null,
    after: after.length
      ? { posts: count(after), nearest: after[0]?.month as Day, far: after.at(-1)?.month as Day }
      : null,
  };
}

/** The days to ask for where a view reaches back beyond the half-year that the line has; whole months, so that they repeat. */
export function farSpan(view: View, now: number, zone: string): Span | null {
  if (view.from >= now - 190 * DAY_MS || view.to - view.from > 1100 * DAY_MS) return null;
  const first = `${dayOf(view.from, zone).slice(0, 7)}-01`;
  return { first, last: lastOfMonth(dayOf(view.to, zone)) };
}

export function toX(instant: number, view: View, width: number): number {
  return ((instant - view.from) / (view.to - view.from)) * width;
}

export function toInstant(x: number, view: View, width: number): number {
  return view.from + (x / width) * (view.to - view.from);
}

/** Left and right edge of a span of days, in pixels. */
export function edges(span: Span, view: View, width: number, zone: string): [number, number] {
  return [toX(startOf(span.first, zone), view, width), toX(startOf(addDays(span.last, 1), zone), view, width)];
}

/** A span after one of its grips was moved by whole days. It keeps at least one day and does not turn over. */
export function moved(span: Span, grip: Grip, days: number): Span {
  if (grip === "whole") return { first: addDays(span.first, days), last: addDays(span.last, days) };
  if (grip === "first") {
    const first = addDays(span.first, days);
    return { first: first > span.last ? span.last : first, last: span.last };
  }
  const last = addDays(span.last, days);
  return { first: span.first, last: last < span.first ? span.first : last };
}

export function pixelsToDays(pixels: number, view: View, width: number): number {
  return Math.round(((pixels / width) * (view.to - view.from)) / DAY_MS);
}

/** The first days of the months in view, with the pixel they begin at. */
export function months(view: View, width: number, zone: string): { day: Day; x: number }[] {
  const found = [];
  let day = `${dayOf(view.from, zone).slice(0, 7)}-01`;
  while (startOf(day, zone) < view.to) {
    found.push({ day, x: toX(startOf(day, zone), view, width) });
    day = nextMonth(day);
  }
  return found;
}

/** Where labels of the two spans go without lying on one another. */
export function labelPlaces(
  own: [number, number],
  other: [number, number],
  ownWidth: number,
  otherWidth: number,
  width: number,
): { own: number; other: number | null } {
  const ownX = Math.max(0, Math.min(own[0], width - ownWidth));
  let otherX: number | null = Math.max(0, Math.min(other[0], width - otherWidth));
  const apart = (x: number) => x + otherWidth + 10 <= ownX || x >= ownX + ownWidth + 10;
  if (!apart(otherX)) otherX = ownX - otherWidth - 12;
  if (otherX < 0) otherX = ownX + ownWidth + 12;
  if (otherX + otherWidth > width || !apart(otherX)) otherX = null;
  return { own: ownX, other: otherX };
}

/** Presets by today. */
export function presets(today: Day): { label: string; span: Span }[] {
  const firstOfMonth = `${today.slice(0, 7)}-01`;
  const endOfLast = addDays(firstOfMonth, -1);
  const back = (days: number): Span => ({ first: addDays(today, 1 - days), last: today });
  return [
    { label: "Last 7 days", span: back(7) },
    { label: "Last 14 days", span: back(14) },
    { label: "Last 28 days", span: back(28) },
    { label: "Last 90 days", span: back(90) },
    { label: "This month", span: { first: firstOfMonth, last: today } },
    { label: "Last month", span: { first: `${endOfLast.slice(0, 7)}-01`, last: endOfLast } },
  ];
}

export function lengthOf(span: Span): number {
  return daysBetween(span.first, span.last) + 1;
}

/** Index of the post nearest to x, within `reach` pixels, or -1. Posts are in order of time. */
export function nearest(xs: number[], x: number, reach = 4): number {
  let low = 0;
  let high = xs.length;
  while (low < high) {
    const middle = (low + high) >> 1;
    if ((xs[middle] ?? 0) < x) low = middle + 1;
    else high = middle;
  }
  let best = -1;
  for (const i of [low - 1, low]) {
    const at = xs[i];
    if (at !== undefined && Math.abs(at - x) <= reach && (best < 0 || Math.abs(at - x) < Math.abs((xs[best] ?? 0) - x)))
      best = i;
  }
  return best;
}
