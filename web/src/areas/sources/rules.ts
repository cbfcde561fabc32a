/** Words for how collection stands, the fields of files, and what a row of days says. */

import type { Schemas } from "../../api/client";
import { figure } from "../../lib/format";

type Tone = "good" | "wrong" | "busy" | "quiet";

export const RUN_WORDS: Record<string, { word: string; tone: Tone }> = {
  waiting: { word: "waiting", tone: "busy" },
  running: { word: "running", tone: "busy" },
  complete: { word: "complete", tone: "good" },
  partial: { word: "partial", tone: "wrong" },
  failed: { word: "failed", tone: "wrong" },
};

export const FILE_WORDS: Record<string, { word: string; tone: Tone }> = {
  looking: { word: "being looked into", tone: "busy" },
  waiting: { word: "waits for you", tone: "busy" },
  running: { word: "coming in", tone: "busy" },
  done: { word: "in", tone: "good" },
  failed: { word: "broke off", tone: "wrong" },
  undoing: { word: "being taken out", tone: "busy" },
  undone: { word: "taken out", tone: "quiet" },
};

export const KIND_NAMES: Record<string, string> = {
  posts: "Posts",
  post_readings: "Metrics of posts over time",
  profile_readings: "Metrics of profiles over time",
  audience: "Make-up of an audience",
  clicks: "Clicks on tracked links",
  conversions: "Conversions",
};

/** What belongs to the brand itself, to no profile. */
export const OF_NO_PROFILE = ["clicks", "conversions"];

export const TABLE_NAMES: Record<string, string> = {
  all: "Everything",
  ...KIND_NAMES,
  profiles: "Profiles",
  comments: "Comments",
  links: "Tracked links",
};

export const FIELD_NAMES: Record<string, string> = {
  published_at: "Published at",
  external_id: "Identifier",
  text: "Text",
  url: "Address",
  format: "Format",
  time: "Time of day",
  has_time: "Whether the time is known",
  impressions: "Impressions",
  reach: "Reach",
  reactions: "Reactions",
  comments: "Comments",
  shares: "Shares",
  saves: "Saves",
  link_clicks: "Link clicks",
  profile_visits: "Profile visits",
  video_views: "Video views",
  video_seconds: "Seconds watched",
  video_completions: "Watched to the end",
  calls: "Calls",
  directions: "Direction requests",
  negative: "Negative",
  reactions_like: "Likes alone",
  reactions_warmth: "Warm reactions",
  reactions_amusement: "Amused reactions",
  reactions_wonder: "Wondering reactions",
  reactions_dismay: "Dismayed reactions",
  shares_with_words: "Shares with own words",
  follows: "New followers",
  unfollows: "Followers lost",
  bookings: "Bookings",
  taken_at: "Read at",
  profile_network: "Network",
  profile_handle: "Handle",
  day: "Day",
  followers: "Followers",
  following: "Following",
  posts_total: "Posts in all",
  gained: "Gained",
  lost: "Lost",
  dimension: "Dimension",
  segment: "Group",
  share: "Share or count",
  at: "When",
  code: "Short code",
  key: "Identifier",
  goal: "Goal",
  amount: "Worth",
  currency: "Currency",
  click: "Click's identifier",
  contact: "Contact",
  stage: "Stage",
  referrer: "Referrer",
  device: "Device",
  is_bot: "Bot",
};

export const DIMENSION_NAMES: Record<string, string> = {
  age: "Age",
  gender: "Gender",
  country: "Country",
  language: "Language",
  city: "City",
  source: "How they came",
};

type FileField = { key: string; adds_up: boolean };

/** A mapping with one column given to another field, or to nothing. Columns of a count add up; else a field has one. */
export function remapped(
  mapping: Record<string, number[]>,
  fields: FileField[],
  column: number,
  field: string,
): Record<string, number[]> {
  const next = Object.fromEntries(
    Object.entries(mapping)
      .map(([key, places]) => [key, places.filter((place) => place !== column)] as const)
      .filter(([, places]) => places.length > 0),
  );
  if (!field) return next;
  const adds = fields.find((one) => one.key === field)?.adds_up;
  return { ...next, [field]: adds ? [...(next[field] ?? []), column].sort((a, b) => a - b) : [column] };
}

export const SURE_WORDS: Record<string, string> = {
  name: "by its name",
  part: "by a part of its name",
  content: "by what stands in it",
  told: "as you told",
};

export const LAYOUT_NAMES: Record<string, string> = {
  rows: "a row for each post or day",
  long: "a row for each figure",
  wide: "a column for each day",
};

export const ORDER_NAMES: Record<string, string> = {
  dmy: "the day comes first",
  mdy: "the month comes first",
  ymd: "the year comes first",
};

export const AS_OF_WHY: Record<string, string> = {
  name: "the day in the file's name",
  newest: "the day of its newest row",
  now: "just now",
  "same file": "as when it came first",
};

/** What a note says, with the row where it is met first. */
export function noteText(note: { message: string; row: number }): string {
  return note.row > 0 ? `${note.message} (first in row ${figure(note.row)})` : note.message;
}

export const DELIMITERS: Record<string, string> = { ",": "comma", ";": "semicolon", "\t": "tab", "|": "bar" };

/** How a file was read, in words. */
export function readAs(form: string, encoding: string, delimiter: string, sheet = ""): string {
  if (form === "xlsx" || form === "ods") return sheet ? `workbook, sheet ${sheet}` : "workbook";
  if (form === "zip") return `archive, ${sheet}`;
  if (form === "json") return `JSON in ${encoding}`;
  return `${encoding}, separated by ${DELIMITERS[delimiter] ?? delimiter}`;
}

/** Runs of the same state in a strip of days, as [state, from, length]: what is drawn. */
export function spans(days: string): [string, number, number][] {
  const found: [string, number, number][] = [];
  [...days].forEach((state, i) => {
    const last = found.at(-1);
    if (last && last[0] === state) last[2] += 1;
    else found.push([state, i, 1]);
  });
  return found;
}

/** What a strip of days says aloud. */
export function coverageText(days: string): string {
  const count = (letter: string) => [...days].filter((d) => d === letter).length;
  const parts = [
    [count("c"), "complete"],
    [count("p"), "partial"],
    [count("m"), "missing"],
    [count("b"), "before it was known"],
  ] as const;
  return parts
    .filter(([n]) => n > 0)
    .map(([n, word]) => `${n} ${word}`)
    .join(", ");
}

/** How far a file is, 0 to 1; the rows are an estimate until they are counted. */
export function progress(item: Pick<Schemas["Import"], "rows_read" | "row_count" | "state">): number {
  if (item.state === "done" || item.state === "undone") return 1;
  return item.row_count > 0 ? Math.min(0.99, item.rows_read / item.row_count) : 0;
}

/** Change of a share between two dates, in percentage points; nothing where there is no before. */
export function sharePoints(share: number, before: number | null | undefined): string {
  if (before === null || before === undefined) return "";
  const points = (share - before) * 100;
  return Math.abs(points) < 0.05 ? "±0 pp" : `${points > 0 ? "+" : "−"}${Math.abs(points).toFixed(1)} pp`;
}

/** What a run did, in one line. */
export function runLine(run: Schemas["Run"]): string {
  const parts = [`${figure(run.posts_seen)} posts read`, `${figure(run.posts_new)} new`];
  parts.push(`${figure(run.readings_new)} new readings`);
  if (run.comments_new > 0) parts.push(`${figure(run.comments_new)} new comments`);
  if (run.requests > 0) parts.push(`${figure(run.requests)} requests`);
  if (run.slow > 0) parts.push(`${figure(run.slow)} slow`);
  if (run.refused > 0) parts.push(`${figure(run.refused)} turned away`);
  if (run.calls_left !== null) parts.push(`${figure(run.calls_left)} left this minute`);
  return parts.join(", ");
}

export type Group = { name: string; profiles: Schemas["Profile"][] };

/** Competitors' profiles under their competitor's name, in the order in which they come. */
export function byCompetitor(profiles: Schemas["Profile"][]): Group[] {
  const found = new Map<string, Group>();
  for (const profile of profiles) {
    const name = profile.competitor ?? profile.name;
    const group = found.get(name) ?? { name, profiles: [] };
    group.profiles.push(profile);
    found.set(name, group);
  }
  return [...found.values()];
}
