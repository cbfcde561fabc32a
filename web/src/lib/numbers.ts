/** Numbers as another language writes them: for what is shown to others, in their language. See format.ts for ours. */

import { MISSING, type Unit } from "./format";

export type Numbers = {
  locale: string;
  figure: (value: number | null | undefined, unit: Unit) => string;
  short: (value: number, unit: Unit) => string;
  day: (day: string) => string;
  weekday: (day: string) => string;
  /** A local day, or a day with its minute, as the server tells it. */
  moment: (at: string) => string;
};

const made = new Map<string, Numbers>();

/** The ways of a locale; the same object each time. */
export function numbersIn(locale: string): Numbers {
  const known = made.get(locale);
  if (known) return known;
  const numbers = { locale, ...ways(locale) };
  made.set(locale, numbers);
  return numbers;
}

function ways(locale: string) {
  const of = (options: Intl.NumberFormatOptions) => new Intl.NumberFormat(locale, options);
  const whole = of({ maximumFractionDigits: 0 });
  const tenths = of({ minimumFractionDigits: 1, maximumFractionDigits: 1 });
  const hundredths = of({ minimumFractionDigits: 2, maximumFractionDigits: 2 });
  const digits = of({ maximumSignificantDigits: 3 });
  const low = of({ style: "percent", maximumSignificantDigits: 2 });
  const high = of({ style: "percent", maximumSignificantDigits: 3 });
  const compact = of({ notation: "compact", maximumSignificantDigits: 3 });
  const days = new Intl.DateTimeFormat(locale, { day: "numeric", month: "short", timeZone: "UTC" });
  const percent = (value: number) => (Math.abs(value) >= 0.1 ? high : low).format(value);
  const minus = (text: string) => text.replace("-", "−");
  const figure = (value: number | null | undefined, unit: Unit): string => {
    if (value === null || value === undefined || Number.isNaN(value)) return MISSING;
    if (unit === "rate") return minus(percent(value));
    if (unit === "change") return `${value > 0 ? "+" : ""}${minus(percent(value))}`;
    if (unit === "index") return minus(hundredths.format(value));
    if (unit === "money") return minus((Math.abs(value) >= 1000 ? whole : hundredths).format(value));
    if (unit === "per_1000" || unit === "per_week" || unit === "per_post") return minus(tenths.format(value));
    if (unit === "seconds") return `${minus(tenths.format(value))} s`;
    if (unit === "number") return minus(digits.format(value));
    return minus(whole.format(value));
  };
  const short = (value: number, unit: Unit) =>
    unit === "rate" || unit === "change" || Math.abs(value) < 1000
      ? figure(value, unit === "count" && !Number.isInteger(value) ? "number" : unit)
      : minus(compact.format(value));
  const day = (text: string) => (/^\d{4}-\d\d-\d\d$/.test(text) ? days.format(new Date(`${text}T00:00Z`)) : text);
  const weekdays = new Intl.DateTimeFormat(locale, { weekday: "short", timeZone: "UTC" });
  const moments = new Intl.DateTimeFormat(locale, {
    day: "numeric",
    month: "short",
    hour: "2-digit",
    minute: "2-digit",
    hour12: false,
    timeZone: "UTC",
  });
  const weekday = (text: string) => weekdays.format(new Date(`${text}T00:00Z`));
  const moment = (at: string) => (at.length > 10 ? moments.format(new Date(`${at}Z`)) : day(at));
  return { figure, short, day, weekday, moment };
}
