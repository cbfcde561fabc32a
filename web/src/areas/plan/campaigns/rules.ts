/** How a campaign stands, in words and numbers. Pure. */

import { daysBetween } from "../../../lib/days";
import type { Campaign, Counts } from "./queries";

/** Which metric of Results tells of each goal, and what it is called. */
export const GOALS: Record<string, { metric: string; name: string }> = {
  posts: { metric: "posts", name: "posts" },
  interactions: { metric: "interactions", name: "interactions" },
  clicks: { metric: "tracked_clicks", name: "clicks on tracked links" },
  conversions: { metric: "conversions", name: "conversions" },
  value: { metric: "value", name: "of value" },
};

/** The share of a campaign's days that are over: 0 before it, 1 after it. */
export function shareOver(campaign: Pick<Campaign, "first_day" | "last_day">, today: string): number {
  const all = daysBetween(campaign.first_day, campaign.last_day) + 1;
  return Math.min(1, Math.max(0, daysBetween(campaign.first_day, today) / all));
}

/** How far a goal is reached beside how much of the time is gone; no word of "on course" where no goal is set. */
export function progressWords(
  campaign: Pick<Campaign, "first_day" | "last_day" | "goal_metric" | "goal_amount">,
  reached: number | null,
  today: string,
): string {
  const goal = GOALS[campaign.goal_metric ?? ""];
  if (!goal || !campaign.goal_amount) return "No goal is set.";
  const number = (n: number) => Math.round(n).toLocaleString("en-GB");
  const of = `of ${number(campaign.goal_amount)} ${goal.name}`;
  if (reached === null) return `How many ${of} are reached is not known.`;
  const share = Math.round((reached / campaign.goal_amount) * 100);
  const over = Math.round(shareOver(campaign, today) * 100);
  const when = over === 0 ? "it has not begun" : over === 100 ? "it is over" : `${over} % of its days are over`;
  return `${number(reached)} ${of} (${share} %); ${when}.`;
}

/** Counts by format, each network a column; only networks and formats that have any. */
export function byKind(kinds: Counts["kinds"]) {
  const networks = [...new Set(kinds.map((one) => one.network))].sort();
  const formats = [...new Set(kinds.map((one) => one.format))].sort();
  const at = (format: string, network: string) => kinds.find((k) => k.format === format && k.network === network);
  return { networks, formats, at };
}
