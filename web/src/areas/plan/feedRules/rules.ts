/** Rules for feeds in words. */

import { plural } from "../../../lib/format";
import type { FeedRule, FeedRuleContent, FeedRuleItem } from "./queries";

export const BECOMES = {
  idea: "ideas",
  draft: "drafts",
  scheduled: "posts that go out",
} as const satisfies Record<FeedRule["becomes"], string>;

export const EMPTY: FeedRuleContent = {
  name: "",
  feed: 0,
  becomes: "draft",
  template: null,
  profiles: [],
  campaign: null,
  group: null,
  any_of: [],
  none_of: [],
  most_a_day: 3,
  minutes_after: 0,
  minutes_apart: 60,
  quiet_from: "21:00",
  quiet_to: "08:00",
  makes_links: true,
  is_on: true,
};

/** What of a rule is written, without what is told of it. */
export function contentOf(rule: FeedRule): FeedRuleContent {
  return Object.fromEntries(Object.keys(EMPTY).map((name) => [name, rule[name as keyof FeedRule]])) as FeedRuleContent;
}

/** Words and phrases, parted by commas or lines. */
export function wordsIn(typed: string): string[] {
  return [...new Set(typed.split(/[,\n]/).map((word) => word.trim()))].filter(Boolean);
}

/** What a rule did in thirty days and what waits. */
export function didWords(rule: FeedRule): string {
  const made = rule.becomes === "idea" ? plural(rule.made, "idea") : plural(rule.made, "post");
  const parts = [`${made} in 30 days`];
  if (rule.left_out > 0) parts.push(`${rule.left_out} left out`);
  if (rule.failed > 0) parts.push(`${rule.failed} failed`);
  if (rule.waiting > 0) parts.push(`${rule.waiting} to go out`);
  return parts.join(", ");
}

export function outcomeWords(item: FeedRuleItem): string {
  if (item.outcome === "left_out") return "left out";
  if (item.outcome === "failed") return "failed";
  if (!item.state) return "thrown away";
  return item.state === "idea" ? "an idea" : item.state.replaceAll("_", " ");
}

/** What comes of a feed by its pace: whether a limit will leave many out. */
export function paceWords(itemsADay: number, most: number): string {
  const pace =
    itemsADay >= 1
      ? `About ${Math.round(itemsADay)} a day came lately`
      : `About ${Math.round(itemsADay * 7)} a week came lately`;
  if (itemsADay === 0) return "Nothing came in the last 30 days.";
  return itemsADay > most ? `${pace}: more than ${most} a day, so that some are left out.` : `${pace}.`;
}
