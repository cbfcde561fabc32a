/** What made the difference, in words. */

import { figure, type Unit } from "../../../lib/format";

export type FactorKey = "number" | "mix" | "size" | "older" | "weight" | "rate";

/** Each way in which a figure changed: what it is, and what was held still to tell it. */
export const FACTORS: Record<FactorKey, { name: string; means: string }> = {
  number: { name: "Number of posts", means: "each bringing the mean of both periods" },
  size: { name: "What a post brought", means: "network and format held the same" },
  mix: { name: "Where they went", means: "other shares of networks and formats" },
  older: { name: "Posts of earlier days", means: "what posts from before each period still brought in it" },
  rate: { name: "The rate itself", means: "within each network and format" },
  weight: { name: "Weight of networks and formats", means: "more or less of it where the rate is high" },
};

/** What a factor counts on both sides: "38 against 47"; nothing where it counts nothing of its own. */
export function against(now: number | null, before: number | null, unit: Unit): string {
  if (now === null && before === null) return "";
  return `${figure(now, unit)} against ${figure(before, unit)}`;
}

/** The largest size among some parts: their bars share one scale. */
export function largest(parts: { contribution: number }[]): number {
  return parts.reduce((most, part) => Math.max(most, Math.abs(part.contribution)), 0);
}
