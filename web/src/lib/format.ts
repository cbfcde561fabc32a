/** Numbers as words on a screen. Missing is a dash, never a zero. */

export type Unit =
  | "count"
  | "rate"
  | "per_1000"
  | "per_week"
  | "per_post"
  | "index"
  | "seconds"
  | "number"
  | "change"
  | "money";

const whole = new Intl.NumberFormat("en-GB", { maximumFractionDigits: 0 });
const one = new Intl.NumberFormat("en-GB", { maximumFractionDigits: 1 });
/** In a column or beside its like, a figure keeps its decimal: 26.0 under 26.2. */
const tenths = new Intl.NumberFormat("en-GB", { minimumFractionDigits: 1, maximumFractionDigits: 1 });
const two = new Intl.NumberFormat("en-GB", { minimumFractionDigits: 2, maximumFractionDigits: 2 });
const twoDigits = new Intl.NumberFormat("en-GB", { minimumSignificantDigits: 2, maximumSignificantDigits: 2 });
const threeDigits = new Intl.NumberFormat("en-GB", { minimumSignificantDigits: 2, maximumSignificantDigits: 3 });
const TIMES_FROM = 9;
export const MISSING = "–";

/** Significant digits of a rate: two, three where it is 10 % or more. */
export function percent(value: number): string {
  const shown = value * 100;
  return `${(Math.abs(shown) >= 10 ? threeDigits : twoDigits).format(shown)}%`;
}

/** Parts of a whole in a column: each with its one decimal. */
export function share(value: number): string {
  return `${tenths.format(value * 100)}%`;
}

export function figure(value: number | null | undefined, unit: Unit = "count"): string {
  if (value === null || value === undefined || Number.isNaN(value)) return MISSING;
  if (unit === "rate") return percent(value);
  if (unit === "change") return signed(percent(Math.abs(value)), value);
  if (unit === "index") return two.format(value);
  if (unit === "money") return Math.abs(value) >= 1000 ? whole.format(value) : two.format(value);
  if (unit === "per_1000" || unit === "per_week" || unit === "per_post") return tenths.format(value);
  if (unit === "seconds") return `${tenths.format(value)} s`;
  if (unit === "number") return value.toLocaleString("en-GB", { maximumSignificantDigits: 3 });
  return whole.format(value);
}

/** A figure on an axis or in a narrow cell: 12k, 1.3M. */
export function short(value: number, unit: Unit = "count"): string {
  if (unit === "rate") return percent(value);
  if (unit === "change") return signed(percent(Math.abs(value)), value);
  const size = Math.abs(value);
  if (size >= 1e6) return `${one.format(value / 1e6)}M`;
  if (size >= 1e4) return `${whole.format(value / 1e3)}k`;
  if (size >= 1e3) return `${one.format(value / 1e3)}k`;
  return size < 10 && size !== Math.round(size) ? two.format(value) : whole.format(value);
}

export function signed(text: string, value: number): string {
  return value > 0 ? `+${text}` : value < 0 ? `−${text.replace(/^[-−]/, "")}` : text;
}

/** A change as relative and in the figure's own unit: "+5.0%" and "+41,361" or "+0.8 pp". */
export function delta(change: { difference: number | null; relative: number | null }, unit: Unit): string {
  const { difference, relative } = change;
  if (difference === null) return "no comparison";
  if (Math.abs(difference) < 1e-12) return "no change";
  // From a tiny base a percentage says nothing: how many times it is.
  if (relative !== null && relative >= TIMES_FROM) return `${whole.format(relative + 1)} times`;
  if (relative !== null) return signed(`${tenths.format(Math.abs(relative * 100))}%`, difference);
  return absolute(difference, unit);
}

export function absolute(difference: number, unit: Unit): string {
  const size = Math.abs(difference);
  const text = unit === "rate" || unit === "change" ? `${two.format(size * 100)} pp` : figure(size, unit);
  return signed(text, difference);
}

export function interval(low: number, high: number, unit: Unit): string {
  return `${figure(low, unit)} to ${figure(high, unit)}`;
}

export function plural(count: number, singular: string, many = `${singular}s`): string {
  return `${whole.format(count)} ${count === 1 ? singular : many}`;
}

/** How long ago, or how long until, in one unit. */
export function since(then: string | null | undefined, now: Date): string {
  if (!then) return "never";
  const minutes = Math.round((now.getTime() - new Date(then).getTime()) / 60000);
  const size = Math.abs(minutes);
  const text =
    size < 1
      ? "now"
      : size < 60
        ? `${size} min`
        : size < 48 * 60
          ? `${Math.round(size / 60)} h`
          : `${Math.round(size / 1440)} d`;
  return text === "now" ? text : minutes >= 0 ? `${text} ago` : `in ${text}`;
}

/** How old a post was when it was last seen: 5 h, 3 d. */
export function ageSoFar(hours: number): string {
  return hours < 48 ? `at ${Math.max(1, Math.round(hours))} h` : `at ${Math.round(hours / 24)} d`;
}

export const formatNames: Record<string, string> = {
  text: "Text",
  link: "Link",
  image: "Image",
  album: "Album",
  short_video: "Short video",
  long_video: "Long video",
  other: "Not said",
};
