/** Drafts kept in the browser: by person, brand and post, and each tab in a slot of its own, so that two tabs never
 * write over each other. What a tab left behind when it was closed is offered to the next one. */

import { type Draft, EMPTY } from "./rules";

export type Kept = { slot: string; draft: Draft; at: number };

const PREFIX = "dakika.draft";
const TAB = "dakika.tab";
const LONGEST_DAYS = 30;

/** Of one person's writing at one post of one brand; `post` is "new" before there is one. */
export function placeOf(person: string, brand: string, post: string): string {
  return [PREFIX, person, brand, post].map(encodeURIComponent).join("/");
}

/** This tab's name, kept over a reload. */
export function tabName(): string {
  return sessionStorage.getItem(TAB) ?? newTabName();
}

/** Another name: a tab that was doubled takes its session with it, and both would write to one slot. */
export function newTabName(): string {
  // randomUUID is there on secure addresses only.
  const name = [...crypto.getRandomValues(new Uint8Array(9))].map((n) => n.toString(36)).join("");
  sessionStorage.setItem(TAB, name);
  return name;
}

export function slotOf(place: string, tab: string): string {
  return `${place}/${tab}`;
}

export function keep(slot: string, draft: Draft) {
  try {
    localStorage.setItem(slot, JSON.stringify({ draft, at: Date.now() }));
    return true;
  } catch {
    return false; // full, or forbidden by the person's settings
  }
}

/** A draft as it is written now; one that an earlier version of the application kept loses nothing. */
export function asNow(kept: Draft & { shared?: string }): Draft {
  if (kept.shared === undefined) return { ...EMPTY, ...kept };
  const { shared, own, links: _, ...rest } = kept as Draft & { shared: string };
  const texts = Object.entries(own as unknown as Record<string, string>).map(([id, text]) => [id, { text }]);
  return { ...EMPTY, ...rest, text: shared, own: Object.fromEntries(texts), links: {} };
}

export function forget(slot: string) {
  localStorage.removeItem(slot);
}

export function read(slot: string): Kept | null {
  try {
    const kept = JSON.parse(localStorage.getItem(slot) ?? "null") as Omit<Kept, "slot"> | null;
    if (kept && typeof kept.at === "number" && kept.draft && Array.isArray(kept.draft.profiles)) {
      return { slot, draft: asNow(kept.draft), at: kept.at };
    }
  } catch {
    // What cannot be read was not ours.
  }
  return null;
}

/** What other tabs keep at a place, the newest first. What is older than a month goes. */
export function othersAt(place: string, own: string): Kept[] {
  const found: Kept[] = [];
  for (const slot of Object.keys(localStorage)) {
    if (!slot.startsWith(`${place}/`) || slot === own) continue;
    const kept = read(slot);
    if (!kept || Date.now() - kept.at > LONGEST_DAYS * 86_400_000) forget(slot);
    else found.push(kept);
  }
  return found.sort((a, b) => b.at - a.at);
}
