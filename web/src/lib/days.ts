/** Days and instants in a time zone, as the brand counts them. Days are ISO 8601 strings, 2026-03-01. */

import { Temporal } from "temporal-polyfill";

export type Day = string;
export const DAY_MS = 86_400_000;

export function dayOf(instant: string | number | Date, zone: string): Day {
  return Temporal.Instant.fromEpochMilliseconds(new Date(instant).getTime())
    .toZonedDateTimeISO(zone)
    .toPlainDate()
    .toString();
}

/** First instant of a day; a day that the zone skipped starts where the next one does. */
export function startOf(day: Day, zone: string): number {
  return Temporal.PlainDate.from(day).toZonedDateTime(zone).epochMilliseconds;
}

export function addDays(day: Day, count: number): Day {
  return Temporal.PlainDate.from(day).add({ days: count }).toString();
}

/** First day of the month after a day's. */
export function nextMonth(day: Day): Day {
  return Temporal.PlainDate.from(day).with({ day: 1 }).add({ months: 1 }).toString();
}

export function lastOfMonth(day: Day): Day {
  return addDays(nextMonth(day), -1);
}

export function daysBetween(first: Day, last: Day): number {
  return Temporal.PlainDate.from(first).until(Temporal.PlainDate.from(last)).days;
}

/** 1 = Monday. */
export function weekday(day: Day): number {
  return Temporal.PlainDate.from(day).dayOfWeek;
}

export function mondayOf(day: Day): Day {
  return addDays(day, 1 - weekday(day));
}

/** Wall-clock time on a day in a zone as an instant; a time that the clocks skip moves on (RFC 9557, compatible). */
export function at(day: Day, time: string, zone: string): string {
  return Temporal.PlainDate.from(day)
    .toZonedDateTime({ timeZone: zone, plainTime: Temporal.PlainTime.from(time) })
    .toInstant()
    .toString();
}

export function timeOf(instant: string, zone: string): string {
  return Temporal.Instant.from(instant).toZonedDateTimeISO(zone).toPlainTime().toString({ smallestUnit: "minute" });
}

/** By how many hours a zone's clock is ahead of another's on a day at noon of the other; behind it is negative. */
export function hoursAhead(day: Day, zone: string, other: string): number {
  const noon = Temporal.PlainDate.from(day).toZonedDateTime({
    timeZone: other,
    plainTime: Temporal.PlainTime.from("12:00"),
  });
  return (noon.withTimeZone(zone).offsetNanoseconds - noon.offsetNanoseconds) / 3.6e12;
}

/** The next instant, after `now`, of an hour of week in a zone. */
export function nextHourOfWeek(hour: number, zone: string, now: Date): string {
  const local = Temporal.Instant.fromEpochMilliseconds(now.getTime()).toZonedDateTimeISO(zone);
  const day = Math.floor(hour / 24);
  const clock = `${String(Math.floor(hour % 24)).padStart(2, "0")}:${String(Math.round((hour % 1) * 60)).padStart(2, "0")}`;
  let date = local.toPlainDate().add({ days: (day - (local.dayOfWeek - 1) + 7) % 7 });
  let found = at(date.toString(), clock, zone);
  if (Date.parse(found) <= now.getTime()) {
    date = date.add({ days: 7 });
    found = at(date.toString(), clock, zone);
  }
  return found;
}

const MONTHS = ["Jan", "Feb", "Mar", "Apr", "May", "Jun", "Jul", "Aug", "Sep", "Oct", "Nov", "Dec"];
export const WEEKDAYS = ["Mon", "Tue", "Wed", "Thu", "Fri", "Sat", "Sun"];

// The year that goes without saying: that of the clock which the whole screen speaks of. Dates of others carry theirs.
let thisYear = new Date().getUTCFullYear();

export function setToday(today: Day): void {
  thisYear = Number(today.slice(0, 4));
}

function withYear(text: string, year: number): string {
  return year === thisYear ? text : `${text} ${year}`;
}

/** 3 Mar; with its year where that is not this one. */
export function shortDay(day: Day): string {
  const [year, month, date] = day.split("-").map(Number) as [number, number, number];
  return withYear(`${date} ${MONTHS[month - 1]}`, year);
}

/** March; with its year where that is not this one. */
export function monthName(day: Day): string {
  const name = new Intl.DateTimeFormat("en-GB", { month: "long", timeZone: "UTC" }).format(new Date(`${day}T12:00Z`));
  return withYear(name, Number(day.slice(0, 4)));
}

// Kept by zone: lists tell hundreds of moments, and making one of these takes ten times as long as using it.
const clocks = new Map<string, Intl.DateTimeFormat>();

function clockOf(zone: string): Intl.DateTimeFormat {
  const kept = clocks.get(zone);
  if (kept) return kept;
  const made = new Intl.DateTimeFormat("en-GB", {
    timeZone: zone,
    weekday: "short",
    day: "numeric",
    month: "numeric",
    year: "numeric",
    hour: "2-digit",
    minute: "2-digit",
    hourCycle: "h23",
  });
  clocks.set(zone, made);
  return made;
}

/** Tue 3 Mar, 19:30; with its year where that is not this one. */
export function moment(instant: string, zone: string): string {
  const told: Partial<Record<Intl.DateTimeFormatPartTypes, string>> = {};
  for (const part of clockOf(zone).formatToParts(new Date(instant))) told[part.type] = part.value;
  const day = withYear(`${told.weekday} ${Number(told.day)} ${MONTHS[Number(told.month) - 1]}`, Number(told.year));
  return `${day}, ${told.hour}:${told.minute}`;
}

/** When a post was published: its minute, or its day alone where no more is known of it. */
export function published(post: { published_at: string; has_time: boolean }, zone: string): string {
  return post.has_time ? moment(post.published_at, zone) : shortDay(dayOf(post.published_at, zone));
}

/** Saturday 31 October; with its year where that is not this one. */
export function longDay(day: Day): string {
  const names = { weekday: "long", day: "numeric", month: "long", timeZone: "UTC" } as const;
  const text = new Intl.DateTimeFormat("en-GB", names).format(new Date(`${day}T12:00Z`)).replace(",", "");
  return withYear(text, Number(day.slice(0, 4)));
}

/** 3 – 9 of two days of one year: the year once, at the end. */
export function spanText(first: Day, last: Day): string {
  if (first === last) return shortDay(first);
  const isSameYear = first.slice(0, 4) === last.slice(0, 4);
  const begin = isSameYear ? shortDay(first).replace(/ \d{4}$/, "") : shortDay(first);
  return `${begin} – ${shortDay(last)}`;
}

/** 27 Nov 2026, with its year always: for fields. */
export function fullDay(day: Day): string {
  const [year, month, date] = day.split("-").map(Number) as [number, number, number];
  return `${date} ${MONTHS[month - 1]} ${year}`;
}

/**
 * A day as somebody writes it: 2026-11-27, 27.11.2026, 27/11/26, 27 Nov, 27 November 2026; the day comes first, as it
 * does wherever Dakika writes one. Without a year the one of `today`. Null where it is no day that exists.
 */
export function readDay(text: string, today: Day): Day | null {
  const told = text.trim().toLowerCase();
  const iso = /^(\d{4})-(\d{1,2})-(\d{1,2})$/.exec(told);
  const named = /^(\d{1,2})\.?\s*([a-z]{3,9})\.?,?(?:\s+(\d{4}|\d{2}))?$/.exec(told);
  const plain = /^(\d{1,2})[./\s](\d{1,2})(?:[./\s](\d{4}|\d{2})?)?$/.exec(told);
  const parts = iso
    ? [iso[1], iso[2], iso[3]]
    : named
      ? [named[3], monthOf(named[2] ?? ""), named[1]]
      : plain
        ? [plain[3], plain[2], plain[1]]
        : null;
  if (!parts) return null;
  const [year = today.slice(0, 4), month, date] = parts;
  const whole = year.length === 2 ? `20${year}` : year;
  try {
    const found = { year: Number(whole), month: Number(month), day: Number(date) };
    return Temporal.PlainDate.from(found, { overflow: "reject" }).toString();
  } catch {
    return null;
  }
}

function monthOf(word: string): string {
  const place = MONTHS.findIndex((name) => name.toLowerCase() === word.slice(0, 3));
  const whole =
    place < 0
      ? ""
      : monthName(`2001-${String(place + 1).padStart(2, "0")}-01`)
          .split(" ")[0]
          ?.toLowerCase();
  return whole?.startsWith(word) || word === "sept" ? String(place + 1) : "";
}

/** A time of a 24-hour clock as somebody writes it: 19:30, 19.30, 1930, 9. Null where it is none. */
export function readTime(text: string): string | null {
  const told = /^(\d{1,2})(?:[:.h]?(\d{2}))?$/.exec(text.trim());
  if (!told || Number(told[1]) > 23 || Number(told[2] ?? 0) > 59) return null;
  return `${(told[1] as string).padStart(2, "0")}:${told[2] ?? "00"}`;
}

/** Whether a text is a day that exists, as addresses write it. */
export function isDay(text: string | null | undefined): text is Day {
  return !!text && /^\d{4}-\d{2}-\d{2}$/.test(text) && readDay(text, text) === text;
}
