/** Rules of Site in the browser: pure, tested on their own. */

import type { Schemas } from "../../api/client";
import { figure, plural } from "../../lib/format";

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

type Credited = { name: string; counts: Record<string, number>; cents: Record<string, number> };

/** What the models say together, of conversions or of their value: whether the answer depends on whom one asks. */
export function attributionTitle(rows: Credited[], conversions: number, told: "counts" | "cents"): string {
  if (conversions === 0 || rows.length === 0) return "No conversions in these days";
  if (rows.every((row) => MODELS.every((m) => !row[told][m.key]))) return "These conversions are worth nothing yet";
  const winners = MODELS.map((m) =>
    rows.reduce((best, row) => ((row[told][m.key] ?? 0) > (best[told][m.key] ?? 0) ? row : best)),
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
