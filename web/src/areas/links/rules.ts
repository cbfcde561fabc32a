/** Rules of Links in the browser: pure, tested on their own. */

import type { Schemas } from "../../api/client";
import { figure, plural } from "../../lib/format";
import type { Figures } from "./queries";

export const DIMENSIONS = [
  { key: "referrer", name: "referrer" },
  { key: "network", name: "network" },
  { key: "campaign", name: "campaign" },
  { key: "destination", name: "page" },
  { key: "country", name: "country" },
  { key: "language", name: "language" },
  { key: "device", name: "device" },
  { key: "browser", name: "browser" },
  { key: "reason", name: "bots' reason" },
] as const;
export type Dimension = (typeof DIMENSIONS)[number]["key"];

export const REASONS: Record<string, string> = {
  agent: "known crawlers",
  no_agent: "no agent given",
  method: "looked without opening",
  prefetch: "fetched ahead by a browser",
  burst: "bursts from one visitor",
  round: "went round many links in seconds",
};

export const sum = (counts: number[]) => counts.reduce((a, b) => a + b, 0);

const times = (value: number) => figure(value, "index");

/** What a period's clicks say, with their certainty. */
export function clicksTitle(figures: Figures): string {
  // Whole days are held against whole days; what came since is told apart.
  const clicks = sum(figures.people.slice(0, figures.whole_days));
  const since = sum(figures.people.slice(figures.whole_days));
  if (clicks + since === 0) return "No clicks in these days";
  const { value, low, high, is_sure } = figures.ratio;
  if (clicks === 0) return `${plural(since, "click")} today so far`;
  const said = `${plural(clicks, "click")}${since > 0 ? ` and ${since} today so far` : ""}`;
  if (value === null) return said;
  if (!is_sure) return `${said}; the difference to the days before may be chance`;
  const range = low !== null && high !== null ? ` (${times(low)} to ${times(high)})` : "";
  return value >= 1
    ? `${said}, ${times(value)} times${range} as many a day as before`
    : `${said}, fewer a day than before: ${times(value)} times${range}`;
}

/** Where most of a link's clicks came: how much of them within its first hours. */
export function ageTitle(ages: { hours: number; count: number }[], total: number): string {
  const day = ages.find((a) => a.hours === 24);
  if (!day || total === 0) return "Clicks by the link's age";
  const share = day.count / total;
  if (share >= 0.75) return "Nearly all came in its first day";
  return share >= 0.4 ? "About half came in its first day" : "It lives on: most came after its first day";
}

export function hoursName(hours: number): string {
  return hours < 24 ? plural(hours, "hour") : plural(hours / 24, "day");
}

/** A day and hour of the week whose clicks are most, in words; none where there are few. */
export function busiest(hours: number[][]): { weekday: number; hour: number; count: number } | null {
  let best: { weekday: number; hour: number; count: number } | null = null;
  hours.forEach((day, weekday) => {
    day.forEach((count, hour) => {
      if (count > (best?.count ?? 4)) best = { weekday, hour, count };
    });
  });
  return best;
}

export const MODELS = [
  { key: "last", name: "Last", means: "the last visit before it gets all" },
  { key: "last_non_direct", name: "Last not direct", means: "the last visit that was brought gets all" },
  { key: "first", name: "First", means: "the first visit gets all" },
  { key: "linear", name: "Even", means: "each visit gets the same" },
  { key: "position", name: "40/20/40", means: "the first and the last get 40% each, those between share the rest" },
  { key: "decay", name: "Decay", means: "a visit a week earlier gets half" },
  { key: "shapley", name: "Shapley", means: "each channel on the way gets the same, however often it was there" },
  { key: "markov", name: "Removal", means: "by how many conversions would be missing without it" },
] as const;

/** What the models say together: whether the answer depends on whom one asks. */
export function attributionTitle(
  rows: { name: string; counts: Record<string, number> }[],
  conversions: number,
): string {
  if (conversions === 0 || rows.length === 0) return "No conversions in these days";
  const winners = MODELS.map((m) =>
    rows.reduce((best, row) => ((row.counts[m.key] ?? 0) > (best.counts[m.key] ?? 0) ? row : best)),
  );
  const names = [...new Set(winners.map((w) => w.name))];
  const first = names[0] ?? "";
  return names.length === 1
    ? `${first} brought the most, whichever way one counts`
    : `Who brought the most depends on how one counts: ${names.slice(0, 3).join(", ")}`;
}

export function money(cents: number, currency: string): string {
  return new Intl.NumberFormat("en-GB", {
    style: "currency",
    currency,
    maximumFractionDigits: Math.abs(cents) >= 100_000 ? 0 : 2,
  }).format(cents / 100);
}

/** What conversions are worth in currencies that no sum holds, in words; empty where there are none. */
export function besides(others: { currency: string; cents: number; conversions: number }[]): string {
  const told = others.map((o) => `${money(o.cents, o.currency)} from ${plural(o.conversions, "conversion")}`);
  return told.length > 0 ? `Kept apart, in other currencies: ${told.join(", ")}.` : "";
}

/** A channel in words: a network by its name, a source or host as it is written. */
export function channelName(networks: { key: string; name: string }[], channel: string): string {
  return (
    networks.find((n) => n.key === channel)?.name ??
    channel.replace(/^word (.*)$/, "\u201c$1\u201d, as an address says")
  );
}

/** What came of an access log so far, or what it waits for. */
export function logLine(
  log: Pick<Schemas["AccessLog"], "state" | "lines" | "visits" | "new_visits" | "not_pages" | "bots" | "unreadable">,
): string {
  if (log.state === "waiting") return "Waits for a worker.";
  const came = `${plural(log.lines, "line")}, ${plural(log.visits, "visit")}`;
  if (log.state === "reading") return `Being read: ${came} so far.`;
  const left = [
    log.not_pages > 0 && `${plural(log.not_pages, "request")} for no page`,
    log.bots > 0 && `${figure(log.bots)} of bots`,
    log.unreadable > 0 && `${figure(log.unreadable)} that cannot be read`,
  ].filter(Boolean);
  return `${came}, ${figure(log.new_visits)} of them new${left.length > 0 ? `; left out ${left.join(", ")}` : ""}.`;
}
