/** What Results shows, by rule. */

import type { Measured } from "./queries";

/** The figures of the strip, in its order; those that are wholly missing stay, and say so. */
export const STRIP = ["followers", "posts", "reach", "interactions", "er_reach", "er_followers", "clicks"];

export function stripOf(metrics: Measured[]): Measured[] {
  return STRIP.map((key) => metrics.find((m) => m.key === key)).filter((m): m is Measured => m !== undefined);
}

/** Levels are drawn as they are; what arrives by the day can also be bars. */
export function formOf(key: string): "line" | "bar" {
  return key === "posts" || key === "net_followers" ? "bar" : "line";
}

/** Share of each part in the whole, for parts that add up. */
export function shares(parts: { value: number | null }[]): (number | null)[] {
  const total = parts.reduce((sum, part) => sum + (part.value ?? 0), 0);
  return parts.map((part) => (part.value === null || total === 0 ? null : part.value / total));
}
