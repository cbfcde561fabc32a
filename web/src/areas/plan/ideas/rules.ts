/** Words of ideas, places of templates, and the address with which a browser hands over a page. */

import { shortDay } from "../../../lib/days";
import { figure, plural, type Unit } from "../../../lib/format";
import type { Idea, IdeaContent, Pattern } from "./queries";

export const ORIGINS: Record<Idea["origin"], string> = {
  own: "thought of here",
  post: "from a post",
  feed: "from a feed",
  page: "from a page",
  day: "from a day of the year",
  finding: "from a finding",
  hour: "from a missed hour",
};

const KEPT: Record<Idea["figures"][number]["key"], [name: string, unit: Unit]> = {
  index: ["times typical", "index"],
  interactions: ["interactions", "count"],
  comments: ["comments", "count"],
  shares: ["shares", "count"],
  saves: ["saves", "count"],
  link_clicks: ["link clicks", "count"],
  impressions: ["impressions", "count"],
  followers: ["followers then", "count"],
};

/** A figure as it was when the idea was kept: "2.41 times typical". */
export function keptWords({ key, value }: Idea["figures"][number]): string {
  const [name, unit] = KEPT[key];
  return `${figure(value, unit)} ${name}`;
}

export function originWords(idea: Pick<Idea, "origin" | "feed" | "day">): string {
  if (idea.origin === "feed" && idea.feed) return `from ${idea.feed}`;
  if (idea.origin === "day" && idea.day) return `for ${shortDay(idea.day)}`;
  return ORIGINS[idea.origin];
}

/** What an idea came to: its drafts by where they stand, the furthest first. */
export function writtenWords(written: Idea["written"]): string {
  if (written.length === 0) return "";
  const out = written.filter((one) => one.state === "published").length;
  const set = written.filter((one) => ["scheduled", "publishing", "approved", "in_review"].includes(one.state)).length;
  const rest = written.length - out - set;
  return [out && `${out} out`, set && `${set} on the way`, rest && plural(rest, "draft")].filter(Boolean).join(", ");
}

export const contentOf = (idea: Idea): IdeaContent => ({
  title: idea.title,
  note: idea.note,
  group: idea.group,
  page: idea.page,
  wishes: idea.wishes,
  campaign: idea.campaign,
  media: idea.media,
});

/** What a post of it would be about: of an idea from a post, its first words without whose they are. */
export function subjectOf({ title, origin }: Pick<Idea, "title" | "origin">): string {
  const plain = origin === "post" ? title.replace(/, by [^,]*$/, "") : title;
  return plain.split(/[.!?\u2026]\s/)[0]?.slice(0, 300) ?? "";
}

const PARTS: Record<Pattern["kind"], string> = { opening: "Opens with", close: "Closes with", hashtag: "Has" };

/** What a part of a wording rests on. "Better" is said where the interval and many comparisons leave no doubt. */
export function patternWords(pattern: Pattern): string {
  const what = `${PARTS[pattern.kind]} “${pattern.words}”, as ${plural(pattern.posts, "post")} of yours`;
  const { times, low, high } = pattern;
  if (times === null || low === null || high === null) return `${what}; how they did cannot be told.`;
  const held = `${figure(times, "index")} times the others (${figure(low, "index")} to ${figure(high, "index")})`;
  if (pattern.verdict === "better") return `${what}: they did better, ${held}.`;
  // Of many patterns some look so by chance: what stands alone is not yet a finding.
  if (low > 1) return `${what}: perhaps better, but among so many it may be chance, ${held}.`;
  return `${what}; not told apart from the others, ${held}.`;
}

/** A template with its places filled in, by their names; what has no value stays to be seen. */
export function filled(text: string, values: Record<string, string>): string {
  const told = Object.entries(values).filter(([, value]) => value.trim());
  const names = told.map(([name]) => name.replace(/[.*+?^${}()|[\]\\]/g, "\\$&")).join("|");
  if (!names) return text;
  const byName = new Map(told.map(([name, value]) => [name.toLowerCase(), value]));
  return text.replace(
    new RegExp(`\\{\\s*(${names})\\s*\\}`, "giu"),
    (place, name: string) => byName.get(name.toLowerCase()) ?? place,
  );
}

/** What a browser's mark runs on the page that one is reading: its title, what is marked, its picture, its address. */
export function bookmarklet(origin: string): string {
  const share = JSON.stringify(`${origin}/share?`);
  return `javascript:(()=>{const m=n=>document.querySelector('meta[property="'+n+'"]')?.content||"";const p=new URLSearchParams({title:m("og:title")||document.title,text:String(getSelection()).slice(0,1500),url:location.href,picture:m("og:image")});window.open(${share}+p,"_blank","noopener")})()`;
}

/** A page as it is handed over; some programs put its address into the text. */
export function sharedIn(params: URLSearchParams): { title: string; text: string; page: string; picture: string } {
  const text = params.get("text") ?? "";
  const inText = /https?:\/\/\S+/.exec(text)?.[0] ?? "";
  const page = isPage(params.get("url")) ? (params.get("url") as string) : inText;
  const picture = isPage(params.get("picture")) ? (params.get("picture") as string) : "";
  const rest = (page === inText ? text.replace(inText, "") : text).trim();
  return { title: (params.get("title") ?? "").trim().slice(0, 200), text: rest.slice(0, 9000), page, picture };
}

const isPage = (told: string | null) => told !== null && told.length <= 2000 && /^https?:\/\/\S+$/.test(told);
