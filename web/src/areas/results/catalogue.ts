/** The catalogue as people look through it: headings, what is counted under each, and the ways of counting it. */

import type { Schemas } from "../../api/client";
import type { Metric } from "./queries";

export type Catalogue = Schemas["Catalogue"];
export type OfMeasure = { key: string; name: string; definition: string; metrics: Metric[] };
export type Subject = { name: string; measures: OfMeasure[] };

/** So many are told of a search; whoever wants another writes more of its name. */
export const MOST_FOUND = 60;

/** Whether a search for some words finds a metric: each of them in its name, key, definition or formula. */
export function matches(metric: Pick<Metric, "name" | "key" | "definition" | "formula">, text: string): boolean {
  const all = `${metric.name} ${metric.key} ${metric.definition} ${metric.formula}`.toLowerCase();
  return wordsOf(text).every((word) => all.includes(word));
}

/** What a search finds: those first whose name holds all its words, the shortest name first. */
export function found<M extends Pick<Metric, "name" | "key" | "definition" | "formula">>(
  metrics: M[],
  text: string,
): M[] {
  const words = wordsOf(text);
  const inName = (m: M) => words.every((word) => m.name.toLowerCase().includes(word));
  const rank = (m: M) => (inName(m) ? m.name.length : 1000 + m.name.length);
  return metrics.filter((m) => matches(m, text)).sort((a, b) => rank(a) - rank(b));
}

const wordsOf = (text: string) => text.toLowerCase().split(/\s+/).filter(Boolean);

/** Headings with their base measures, each with its metrics in the order of the ways; what has none is left out. */
export function bySubject(catalogue: Pick<Catalogue, "measures" | "ways">, metrics: Metric[]): Subject[] {
  const order = new Map(catalogue.ways.map((way, i) => [way.key, i]));
  const of = new Map<string, Metric[]>();
  for (const metric of metrics) of.set(metric.measure, [...(of.get(metric.measure) ?? []), metric]);
  const subjects = new Map<string, OfMeasure[]>();
  for (const { key, name, definition, subject } of catalogue.measures) {
    const ways = of.get(key);
    if (!ways) continue;
    const sorted = [...ways].sort((a, b) => (order.get(a.way) ?? 99) - (order.get(b.way) ?? 99));
    subjects.set(subject, [...(subjects.get(subject) ?? []), { key, name, definition, metrics: sorted }]);
  }
  return [...subjects].map(([name, measures]) => ({ name, measures }));
}

/** Who tells it, in words. */
export function toldBy(
  metric: Pick<Metric, "over" | "own_networks">,
  networks: { key: string; name: string }[],
): string {
  if (metric.over === "brought") return "counted here";
  const names = networks.filter((n) => metric.own_networks.includes(n.key)).map((n) => n.name);
  if (names.length === 0) return "no network tells it; a file may";
  if (names.length === networks.length) return "told by every network";
  if (names.length > 4) return `told by ${names.length} networks`;
  return `told by ${[names.slice(0, -1).join(", "), names.at(-1)].filter(Boolean).join(" and ")}`;
}
