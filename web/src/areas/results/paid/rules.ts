/** What was paid for, in words. Money comes in cents. */

import { figure, plural } from "../../../lib/format";
import type { Boost } from "./queries";

export const STATES: Record<Boost["state"], string> = {
  asked: "being asked for",
  running: "runs",
  stopping: "being stopped",
  ended: "over",
  refused: "refused",
};

export const isOpen = (boost: Boost) =>
  boost.state === "asked" || boost.state === "running" || boost.state === "stopping";

export function money(cents: number | null | undefined, currency: string): string {
  if (cents === null || cents === undefined) return "–";
  return `${figure(cents / 100, "money")} ${currency}`;
}

/** An amount as people type it, in cents; null for what is none. */
export function centsIn(typed: string): number | null {
  const told = typed.trim().replace(/\s/g, "").replace(",", ".");
  if (!/^\d{1,9}(\.\d{1,2})?$/.test(told)) return null;
  return Math.round(Number(told) * 100);
}

/** A cost with the interval that chance leaves; nothing where nothing came of it. */
export function costWords(
  cents: number | null,
  interval: { low: number; high: number } | null | undefined,
  currency: string,
): string {
  if (cents === null) return "–";
  const within = interval ? `, ${figure(interval.low / 100, "money")} to ${figure(interval.high / 100, "money")}` : "";
  return `${figure(cents / 100, "money")} ${currency}${within}`;
}

/** What part was paid for, 0 to 1; null where nothing is known of one of them. */
export function paidPart(organic: number | null | undefined, paid: number | null | undefined): number | null {
  if (organic === null || organic === undefined || paid === null || paid === undefined) return null;
  return organic + paid > 0 ? paid / (organic + paid) : null;
}

/** What the days of the study cost and brought, as a sentence. Amounts come as they are told, not in cents. */
export function paidTitle(
  of: (key: string) => number | null | undefined,
  currency: string,
  others: readonly string[] = [],
): string {
  const spend = of("spend");
  if (!spend) {
    return others.length > 0 ? "What was paid for, and what it brought" : "Nothing was paid for in these days";
  }
  const brought = [
    [of("paid_clicks"), "click"],
    [of("paid_conversions"), "conversion"],
  ] as const;
  const known = brought.filter(([count]) => count !== null && count !== undefined);
  const told = known.map(([count, name]) => plural(count ?? 0, name)).join(" and ");
  return `${money(spend * 100, currency)} were paid${told ? ` and brought ${told}` : ""}`;
}

/** Which boost's clicks cost less than those of every other, where the intervals bear it; else nothing. */
export function cheapestWords(boosts: readonly Boost[]): string {
  const known = boosts.filter((one) => one.per_click !== null && one.per_click_interval);
  const [cheapest, ...others] = [...known].sort((a, b) => (a.per_click ?? 0) - (b.per_click ?? 0));
  if (!cheapest || others.length === 0) return "";
  const isSure = others.every(
    (one) =>
      one.currency === cheapest.currency &&
      (one.per_click_interval?.low ?? 0) > (cheapest.per_click_interval?.high ?? 0),
  );
  if (!isSure) return "";
  const words = cheapest.text.split(/\s+/).slice(0, 6).join(" ") || "One boost";
  return `“${words}…” had the cheapest clicks, ${money(cheapest.per_click, cheapest.currency)} each.`;
}

/** How much of a budget is spent, 0 to 1. */
export const spentPart = (boost: Boost) => (boost.cents > 0 ? Math.min(1, boost.spent / boost.cents) : 0);

/** What came by a boost's link and what one of each cost. */
export function broughtWords(boost: Boost): string {
  if (boost.clicks === null) return "It leads nowhere.";
  const clicks = `${figure(boost.clicks)} clicks${boost.clicks ? `, one for ${costWords(boost.per_click, boost.per_click_interval, boost.currency)}` : ""}`;
  if (!boost.conversions) return `${clicks}; no conversion.`;
  return `${clicks}; ${figure(boost.conversions)} conversions, one for ${costWords(boost.per_conversion, boost.per_conversion_interval, boost.currency)}.`;
}
