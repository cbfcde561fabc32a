/** The calendar's and the composer's rules, apart from drawing. */

import type { Schemas } from "../../api/client";
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
  by_hand: { word: "by hand now", tone: "busy" },
};
export const EDITABLE = new Set(["idea", "draft", "in_review", "approved", "scheduled", "failed", "missed", "by_hand"]);

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

/** What a version has of its own; what is not there follows what is common. */
export type Own = {
  text?: string;
  headline?: string;
  comment?: string;
  media?: number[];
  when?: { day: Day; time: string };
};
export type Part = "text" | "headline" | "comment" | "media";
/** A version's tracked link: it stands in the words where the page's address stands in what is common. */
export type LinkIn = { id: number; short: string; destination: string };

/** A post as it is written: what is common, and what single versions have of their own. */
export type Draft = {
  title: string;
  text: string;
  headline: string;
  comment: string;
  media: number[];
  own: Record<number, Own>;
  options: Record<number, Record<string, string>>;
  profiles: number[];
  campaign?: number;
  /** Tags that it is to have when it is out; none said leaves them as they are. */
  tags?: number[];
  /** Whether it also appears in the brand's own feed; none said leaves it as it is. */
  feed?: boolean;
  /** Whether it is also sent to browsers as a message; none said leaves it as it is. */
  push?: boolean;
  links: Record<number, LinkIn>;
  day: Day;
  time: string;
  /** Which edition of the planned post this was begun from; none for a new one. */
  edition?: number;
};

export const EMPTY = { title: "", text: "", headline: "", comment: "", media: [], own: {}, options: {}, links: {} };

const ADDRESS = /https?:\/\/[^\s<>"]+[^\s<>".,;:!?)\]'»”’]/gi;

/** The whole addresses in a text, in their order. */
export function addressesIn(text: string): string[] {
  return text.match(ADDRESS) ?? [];
}

function linked(text: string, link: LinkIn | undefined): string {
  return link ? text.replace(ADDRESS, (found) => (found === link.destination ? link.short : found)) : text;
}

/** A part of a version: its own, or what is common with its own link in it. */
export function partOf<P extends Part>(draft: Draft, profile: number, part: P): Draft[P] {
  const own = draft.own[profile]?.[part] as Draft[P] | undefined;
  const found = own ?? draft[part];
  return (typeof found === "string" ? linked(found, draft.links[profile]) : found) as Draft[P];
}

export function textFor(draft: Draft, profile: number): string {
  return partOf(draft, profile, "text");
}

/** The page that a version leads to: that of its link, else the first address in its words. */
export function addressOf(draft: Draft, profile: number): string | undefined {
  return draft.links[profile]?.destination ?? addressesIn(partOf(draft, profile, "text"))[0];
}

/** What a version says itself on the card of its link; what is empty is left to the page. */
export function cardOf(draft: Draft, profile: number) {
  const said = draft.options[profile] ?? {};
  const [title, text, picture] = [said.card_title ?? "", said.card_text ?? "", Number(said.card_picture) || undefined];
  return { title, text, picture, isOwn: title !== "" || text !== "" || picture !== undefined };
}

/** A draft in which a version's part is changed; what is the same as the common part again is not its own. */
export function withPart<P extends Part>(
  draft: Draft,
  profile: number | null,
  part: P,
  value: Draft[P],
): Partial<Draft> {
  if (profile === null) return { [part]: value } as Partial<Draft>;
  const { [part]: _, ...rest } = draft.own[profile] ?? {};
  const common = partOf({ ...draft, own: {} }, profile, part);
  const isSame = JSON.stringify(common) === JSON.stringify(value);
  return { own: { ...draft.own, [profile]: isSame ? rest : { ...rest, [part]: value } } };
}

/** What of a version differs from what is common, in words. */
export function ownParts(draft: Draft, profile: number): string[] {
  const own = draft.own[profile] ?? {};
  const words = { text: "text", headline: "title", comment: "first comment", media: "files", when: "time" };
  return (Object.keys(words) as (keyof typeof words)[])
    .filter((part) => own[part] !== undefined)
    .map((part) => words[part]);
}

/** Put a page into a text: on a line of its own at the end, once. */
export function withPage(text: string, page: string): string {
  if (addressesIn(text).includes(page)) return text;
  return text.trim() ? `${text.trimEnd()}\n${page}` : page;
}

/** A text without the addresses in it. */
export function withoutAddresses(text: string): string {
  return text
    .replace(ADDRESS, "")
    .replace(/[ \t]+$/gm, "")
    .replace(/\n{3,}/g, "\n\n")
    .trimEnd();
}

/** Hashtags put at the end of a text, those that stand in it already left out. */
export function withHashtags(text: string, tags: string[]): string {
  const there = new Set((text.match(/#[\p{L}\p{N}_]+/gu) ?? []).map((tag) => tag.toLowerCase()));
  const more = tags.map((tag) => `#${tag}`).filter((tag) => !there.has(tag.toLowerCase()));
  if (more.length === 0) return text;
  return text.trim() ? `${text.trimEnd()}\n${more.join(" ")}` : more.join(" ");
}

/** What is sent to the server of a draft. instantOf: a day and time as an instant. */
export function contentOf(draft: Draft, profiles: number[], instantOf: (day: Day, time: string) => string | null) {
  return {
    common: { text: draft.text, headline: draft.headline, first_comment: draft.comment, media: draft.media },
    versions: profiles.map((id) => {
      const own = draft.own[id] ?? {};
      return {
        profile_id: id,
        text: own.text ?? null,
        headline: own.headline ?? null,
        first_comment: own.comment ?? null,
        media: own.media ?? null,
        options: draft.options[id] ?? {},
        link_id: draft.links[id]?.id ?? null,
        scheduled_at: own.when ? instantOf(own.when.day, own.when.time) : null,
      };
    }),
  };
}

/** What went out, or is on its way: nothing of it can be changed here. */
export const SENT = new Set(["publishing", "published"]);

const OPTION_NAMES: Record<string, string> = {
  card_title: "on the link's card",
  card_text: "words on the card",
  card_picture: "picture on the card",
  shown_in: "shown to people in",
};

export type Difference = { what: string; mine: string; theirs: string };

/** In what two drafts of one post differ, in words; nothing where they are the same. */
export function differences(
  mine: Draft,
  theirs: Draft,
  names: { profiles: Record<number, string>; campaigns: Record<number, string>; tags?: Record<number, string> },
): Difference[] {
  const tags = (draft: Draft) =>
    (draft.tags ?? []).map((tag) => names.tags?.[tag] ?? `no. ${tag}`).join(", ") || "none";
  const campaign = (draft: Draft) => (draft.campaign ? (names.campaigns[draft.campaign] ?? "a campaign") : "none");
  const every = [...new Set([...theirs.profiles, ...mine.profiles])];
  const files = (media: number[]) =>
    media.length === 0 ? "none" : `${media.length}: ${media.map((n) => `no. ${n}`).join(", ")}`;
  const version = (draft: Draft, profile: number) => {
    if (!draft.profiles.includes(profile)) return "not published there";
    const own = draft.own[profile] ?? {};
    const told = [
      own.text !== undefined && own.text,
      own.headline !== undefined && `Title: ${own.headline}`,
      own.comment !== undefined && `First comment: ${own.comment}`,
      own.media !== undefined && `Files: ${files(own.media)}`,
      own.when !== undefined && `At ${own.when.day} ${own.when.time}`,
      ...Object.entries(draft.options[profile] ?? {}).map(
        ([key, value]) => value && `${OPTION_NAMES[key] ?? key}: ${value}`,
      ),
    ].filter(Boolean);
    return told.length ? told.join("\n") : "as for all";
  };
  const rows = [
    { what: "Working title", mine: mine.title, theirs: theirs.title },
    { what: "Text for all", mine: mine.text, theirs: theirs.text },
    { what: "Title", mine: mine.headline, theirs: theirs.headline },
    { what: "First comment", mine: mine.comment, theirs: theirs.comment },
    { what: "Files", mine: files(mine.media), theirs: files(theirs.media) },
    { what: "Campaign", mine: campaign(mine), theirs: campaign(theirs) },
    { what: "Tags", mine: tags(mine), theirs: tags(theirs) },
    { what: "In the site’s feed", mine: mine.feed ? "yes" : "no", theirs: theirs.feed ? "yes" : "no" },
    { what: "As a message", mine: mine.push ? "yes" : "no", theirs: theirs.push ? "yes" : "no" },
    { what: "When", mine: `${mine.day} ${mine.time}`.trim(), theirs: `${theirs.day} ${theirs.time}`.trim() },
    ...every.map((p) => ({
      what: names.profiles[p] ?? "A profile",
      mine: version(mine, p),
      theirs: version(theirs, p),
    })),
  ];
  return rows.filter((row) => row.mine !== row.theirs);
}

export const VIEWS = ["month", "week", "day", "list", "slots"] as const;
export type View = (typeof VIEWS)[number];
const LIST_DAYS = 28;

/** The days that a view shows: whole weeks of a month, a week, a day, or four weeks as a list; slots are a week's. */
export function daysOf(view: View, anchor: Day, firstWeekday: number): Day[] {
  if (view === "day") return [anchor];
  if (view === "week" || view === "slots") return weekDays(anchor, firstWeekday);
  if (view === "list") return Array.from({ length: LIST_DAYS }, (_, i) => addDays(anchor, i));
  const first = `${anchor.slice(0, 7)}-01`;
  const start = weekDays(first, firstWeekday)[0] as Day;
  const shown: Day[] = [];
  for (let day = start; shown.length % 7 !== 0 || shown.length === 0 || day.slice(0, 7) <= anchor.slice(0, 7); ) {
    shown.push(day);
    day = addDays(day, 1);
  }
  return shown;
}

/** What the address chooses of the plan. */
export function chosenIn(params: URLSearchParams) {
  const some = (name: string) => (params.get(name) ?? "").split(",").filter(Boolean);
  const numbers = (name: string) =>
    some(name)
      .map(Number)
      .filter((one) => Number.isSafeInteger(one) && one > 0);
  const states = some("states").filter((one): one is keyof typeof STATE_WORDS & PlanState => one in STATE_WORDS);
  const [profiles, networks, campaigns, text] = [
    numbers("profiles"),
    some("networks"),
    numbers("campaigns"),
    params.get("text"),
  ];
  return {
    ...(profiles.length && { profiles }),
    ...(networks.length && { networks }),
    ...(campaigns.length && { campaigns }),
    ...(states.length && { states }),
    ...(text && { text }),
  };
}

type PlanState =
  | "idea"
  | "draft"
  | "in_review"
  | "approved"
  | "scheduled"
  | "publishing"
  | "published"
  | "failed"
  | "missed"
  | "by_hand";

/** A clash in words; titles by planned post. */
export function clashWords(kind: "at_once" | "same_link" | "same_text" | "gap", hours: number): string {
  const apart =
    hours < 1
      ? `${Math.round(hours * 60)} minutes`
      : hours < 48
        ? `${Math.round(hours)} hours`
        : `${Math.round(hours / 24)} days`;
  if (kind === "at_once") return hours === 0 ? "in the same minute" : `only ${apart} apart`;
  if (kind === "same_link") return `the same link twice within ${apart}`;
  if (kind === "same_text") return `the same words twice within ${apart}`;
  return `the campaign is silent for ${apart} between`;
}

/** The instant on another day, or at another hour of it, that the clocks of a zone show. */
export function shifted(day: Day, minutes: number): { day: Day; time: string } {
  const whole = Math.floor(minutes / 1440);
  const rest = minutes - whole * 1440;
  const two = (n: number) => String(n).padStart(2, "0");
  return { day: addDays(day, whole), time: `${two(Math.floor(rest / 60))}:${two(Math.floor(rest % 60))}` };
}

/** Whether a planned post can still be put elsewhere. */
export const isMovable = (state: string) => ["draft", "in_review", "approved", "scheduled"].includes(state);

/** Something that stands on a profile at an instant: a planned version or a post that is out. */
export type Standing = { profile: number; at: string; id: number; title: string; isOut: boolean };

/** What stands on each profile: planned versions, and posts that were not planned here. */
export function standingIn(plan: Schemas["Plan"] | undefined): Standing[] {
  const planned = (plan?.planned ?? []).flatMap((entry) =>
    entry.versions.flatMap(({ profile, at }) =>
      at ? [{ profile, at, id: entry.id, title: entry.title || entry.text, isOut: false }] : [],
    ),
  );
  const out = (plan?.published ?? [])
    .filter((post) => post.planned === null)
    .map(({ profile, at, id, text }) => ({ profile, at, id, title: text, isOut: true }));
  return [...planned, ...out];
}

/** A standing slot is taken by what stands on its profile within half an hour of it, as on the server. */
const TAKEN_WITHIN = 30 * 60_000;

/** What takes a slot of a profile at an instant, the nearest of several. */
export function takenBy(standing: Standing[], profile: number, instant: string): Standing | undefined {
  const away = (one: Standing) => Math.abs(Date.parse(one.at) - Date.parse(instant));
  return standing
    .filter((one) => one.profile === profile && away(one) <= TAKEN_WITHIN)
    .sort((a, b) => away(a) - away(b))[0];
}

/** What part of the audience a choice of its segments is, where it was read; none chosen is everybody. */
export function audienceWords(chosen: readonly string[], shares: Record<string, number>): string {
  if (chosen.length === 0) return "Everybody";
  const known = Object.keys(shares).length > 0;
  if (!known) return "What part of its audience that is was not read.";
  const part = chosen.reduce((sum, one) => sum + (shares[one] ?? 0), 0);
  return `About ${Math.round(part * 100)}% of its audience; nobody else sees it there.`;
}
