/** The calendar's and the composer's rules, apart from drawing. */

import { addDays, type Day, dayOf, mondayOf, timeOf } from "../../lib/days";

export const STATE_WORDS: Record<string, { word: string; tone: "good" | "wrong" | "busy" | "quiet" }> = {
  idea: { word: "idea", tone: "quiet" },
  draft: { word: "draft", tone: "quiet" },
  in_review: { word: "in review", tone: "busy" },
  approved: { word: "approved", tone: "good" },
  scheduled: { word: "scheduled", tone: "busy" },
  publishing: { word: "publishing", tone: "busy" },
  published: { word: "published", tone: "good" },
  failed: { word: "failed", tone: "wrong" },
  missed: { word: "missed", tone: "wrong" },
};
export const EDITABLE = new Set(["idea", "draft", "scheduled", "failed", "missed"]);

export function weekDays(day: Day, firstWeekday: number): Day[] {
  const monday = mondayOf(day);
  const first = addDays(monday, firstWeekday === 0 ? 0 : firstWeekday - 7 * (firstWeekday > 3 ? 1 : 0));
  return Array.from({ length: 7 }, (_, i) => addDays(first, i));
}

export type Placed<T> = { item: T; top: number; column: number; columns: number };

/** Places of a day's entries on its hours: those nearer than `gap` minutes share the width. */
export function place<T>(
  items: { item: T; instant: string }[],
  zone: string,
  hourHeight: number,
  gap = 41,
): Placed<T>[] {
  const timed = items
    .map(({ item, instant }) => {
      const [h, m] = timeOf(instant, zone).split(":").map(Number) as [number, number];
      return { item, minute: h * 60 + m };
    })
    .sort((a, b) => a.minute - b.minute);
  const placed: (Placed<T> & { minute: number })[] = [];
  let group: typeof placed = [];
  for (const { item, minute } of timed) {
    const last = group.at(-1);
    if (last && minute - last.minute >= gap) group = [];
    group.push({ item, minute, top: (minute / 60) * hourHeight, column: group.length, columns: 1 });
    placed.push(group.at(-1) as (typeof placed)[number]);
    for (const one of group) one.columns = group.length;
  }
  return placed;
}

export function onDay<T>(
  items: T[],
  instantOf: (item: T) => string | null,
  day: Day,
  zone: string,
): { item: T; instant: string }[] {
  return items.flatMap((item) => {
    const instant = instantOf(item);
    return instant && dayOf(instant, zone) === day ? [{ item, instant }] : [];
  });
}

/** A whole text for all versions until one is changed by itself. */
export type Draft = {
  title: string;
  shared: string;
  own: Record<number, string>;
  profiles: number[];
  campaign?: number;
  links: Record<number, number>;
  day: Day;
  time: string;
  /** Which edition of the planned post this was begun from; none for a new one. */
  edition?: number;
};

export function textFor(draft: Draft, profile: number): string {
  return draft.own[profile] ?? draft.shared;
}

/** Put a link into a text: on a line of its own at the end, once. */
export function withLink(text: string, link: string): string {
  if (text.includes(link)) return text;
  return text.trim() ? `${text.trimEnd()}\n${link}` : link;
}

/** What went out, or is on its way: nothing of it can be changed here. */
export const SENT = new Set(["publishing", "published"]);

export type Difference = { what: string; mine: string; theirs: string };

/** In what two drafts of one post differ, in words; nothing where they are the same. */
export function differences(
  mine: Draft,
  theirs: Draft,
  names: { profiles: Record<number, string>; campaigns: Record<number, string> },
): Difference[] {
  const campaign = (draft: Draft) => (draft.campaign ? (names.campaigns[draft.campaign] ?? "a campaign") : "none");
  const every = [...new Set([...theirs.profiles, ...mine.profiles])];
  const version = (draft: Draft, profile: number) =>
    draft.profiles.includes(profile) ? textFor(draft, profile) : "not published there";
  const rows = [
    { what: "Working title", mine: mine.title, theirs: theirs.title },
    { what: "Campaign", mine: campaign(mine), theirs: campaign(theirs) },
    { what: "When", mine: `${mine.day} ${mine.time}`.trim(), theirs: `${theirs.day} ${theirs.time}`.trim() },
    ...every.map((p) => ({
      what: names.profiles[p] ?? "A profile",
      mine: version(mine, p),
      theirs: version(theirs, p),
    })),
  ];
  return rows.filter((row) => row.mine !== row.theirs);
}
