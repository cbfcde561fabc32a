/** Rules of Links in the browser: pure, tested on their own. */

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
