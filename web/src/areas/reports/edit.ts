/** What can be done to a report while it is edited: plain functions from one state to the next, and the way back. */

import type { Schemas } from "../../api/client";
import { freePlace, isOnPage, type Place, touches } from "./geometry";

// What a report holds is always told whole; its description allows to leave out what has a default when it is sent.
export type Segment = Required<Schemas["ReportSegment"]>;
export type Look = Required<Schemas["ReportLook"]>;
export type Item = Required<Omit<Schemas["ReportItem"], "study" | "words">> & {
  study: Record<string, string> | null;
  words: Segment[][];
};
export type Page = Required<Omit<Schemas["ReportPage"], "items" | "words">> & {
  items: Item[];
  words: Segment[][] | null;
};
export type Content = {
  title: string;
  label: string;
  language: string;
  study: Record<string, string>;
  look: Look;
  pages: Page[];
};

const MOST_STEPS = 100;
export type History = { past: Content[]; now: Content; future: Content[]; step: string };

export const begin = (now: Content): History => ({ past: [], now, future: [], step: "" });

/** Another state; changes of one kind in a row (typing a title) are one step back. */
export function changed(history: History, now: Content, step = ""): History {
  const goesOn = step !== "" && step === history.step;
  const past = goesOn ? history.past : [...history.past, history.now].slice(-MOST_STEPS);
  return { past, now, future: [], step };
}

export function undone(history: History): History {
  const before = history.past.at(-1);
  if (!before) return history;
  return { past: history.past.slice(0, -1), now: before, future: [history.now, ...history.future], step: "" };
}

export function redone(history: History): History {
  const [next, ...future] = history.future;
  if (!next) return history;
  return { past: [...history.past, history.now], now: next, future, step: "" };
}

/** A name that nothing in the report has. */
export function newName(): string {
  return Array.from(crypto.getRandomValues(new Uint8Array(4)), (b) => (b + 256).toString(16).slice(1)).join("");
}

export function withPage(content: Content, id: string, change: (page: Page) => Page): Content {
  return { ...content, pages: content.pages.map((page) => (page.id === id ? change(page) : page)) };
}

export function withItem(content: Content, id: string, change: (item: Item) => Item): Content {
  const pages = content.pages.map((page) =>
    page.items.some((item) => item.id === id)
      ? { ...page, items: page.items.map((item) => (item.id === id ? change(item) : item)) }
      : page,
  );
  return { ...content, pages };
}

export function withoutItem(content: Content, id: string): Content {
  return {
    ...content,
    pages: content.pages.map((page) => ({ ...page, items: page.items.filter((i) => i.id !== id) })),
  };
}

export const pageOf = (content: Content, item: string) =>
  content.pages.find((page) => page.items.some((one) => one.id === item));

/** A place moved and sized by cells; null where it would leave the page or cover another figure. */
export function placed(page: Page, id: string, by: Partial<Place>): Place | null {
  const item = page.items.find((one) => one.id === id);
  if (!item) return null;
  const place = {
    x: item.x + (by.x ?? 0),
    y: item.y + (by.y ?? 0),
    w: item.w + (by.w ?? 0),
    h: item.h + (by.h ?? 0),
  };
  const isFree = page.items.every((one) => one.id === id || !touches(one, place));
  return isOnPage(place) && isFree ? place : null;
}

export type Alignment = "left" | "right" | "top" | "bottom" | "width" | "height";

/** Figures put in line with the first of them, or made as large; null where one would leave the page or cover another. */
export function aligned(page: Page, ids: string[], how: Alignment): Page | null {
  const first = page.items.find((one) => one.id === ids[0]);
  if (!first || ids.length < 2) return null;
  const to: Record<Alignment, (item: Item) => Partial<Place>> = {
    left: () => ({ x: first.x }),
    right: (item) => ({ x: first.x + first.w - item.w }),
    top: () => ({ y: first.y }),
    bottom: (item) => ({ y: first.y + first.h - item.h }),
    width: () => ({ w: first.w }),
    height: () => ({ h: first.h }),
  };
  const items = page.items.map((item) => (ids.includes(item.id) ? { ...item, ...to[how](item) } : item));
  const isFree = items.every((a, i) => isOnPage(a) && items.slice(i + 1).every((b) => !touches(a, b)));
  return isFree ? { ...page, items } : null;
}

/** A figure put on a page where there is room, or on a new page after it: the content, and the page. */
export function added(content: Content, page: string, item: Omit<Item, "x" | "y">): { content: Content; page: string } {
  const on = content.pages.find((one) => one.id === page);
  const place = on ? freePlace(on.items, item.w, item.h) : null;
  if (on && place)
    return {
      content: withPage(content, page, (one) => ({ ...one, items: [...one.items, { ...item, ...place }] })),
      page,
    };
  const made = emptyPage();
  const first = freePlace([], item.w, item.h) as Place;
  const at = content.pages.findIndex((one) => one.id === page) + 1;
  const pages = content.pages.toSpliced(at || content.pages.length, 0, { ...made, items: [{ ...item, ...first }] });
  return { content: { ...content, pages }, page: made.id };
}

export const emptyPage = (): Page => ({
  id: newName(),
  title: "",
  words: null,
  has_words: true,
  notes: "",
  ground: "",
  items: [],
});

/** A page once more, after itself, with names of its own; words that are bound to its figures follow them. */
export function copiedPage(content: Content, id: string): { content: Content; page: string } {
  const at = content.pages.findIndex((one) => one.id === id);
  const page = content.pages[at];
  if (!page) return { content, page: id };
  const names = new Map(page.items.map((item) => [item.id, newName()]));
  const follow = (words: Page["words"]) =>
    words?.map((row) => row.map((one) => (one.item ? { ...one, item: names.get(one.item) ?? one.item } : one))) ?? null;
  const copy: Page = {
    ...page,
    id: newName(),
    words: follow(page.words),
    items: page.items.map((item) => ({
      ...item,
      id: names.get(item.id) as string,
      words: follow(item.words) ?? [],
    })),
  };
  return { content: { ...content, pages: content.pages.toSpliced(at + 1, 0, copy) }, page: copy.id };
}

export function movedPage(content: Content, id: string, by: number): Content {
  const at = content.pages.findIndex((one) => one.id === id);
  const to = at + by;
  const page = content.pages[at];
  if (!page || to < 0 || to >= content.pages.length) return content;
  return { ...content, pages: content.pages.toSpliced(at, 1).toSpliced(to, 0, page) };
}

/** A page taken out; the last one is emptied instead, for a report has at least one. */
export function withoutPage(content: Content, id: string): Content {
  const pages = content.pages.filter((page) => page.id !== id);
  return { ...content, pages: pages.length > 0 ? pages : [emptyPage()] };
}
