/** Whom one can mean with an at sign: profiles that are known, and what is being written of a handle. */

import type { Schemas } from "../../api/client";

type Profile = Schemas["Profile"];
const MOST = 8;
const BEGUN = /(?:^|[\s([{"'\u201c\u2018])@([\p{L}\p{N}_.-]{0,60})$/u;

/** The letters behind an at sign that ends at the caret, and where that sign stands; nothing elsewhere. */
export function begunAt(text: string, caret: number): { from: number; letters: string } | null {
  const letters = BEGUN.exec(text.slice(0, caret))?.[1];
  return letters === undefined ? null : { from: caret - letters.length - 1, letters };
}

/** Profiles whose name or handle holds the letters, those that begin so first; on a network only those that are there. */
export function matching(profiles: Profile[], letters: string, network?: string, most = MOST): Profile[] {
  const asked = letters.toLowerCase();
  const rank = (one: Profile) => {
    const [name, handle] = [one.name.toLowerCase(), one.handle.toLowerCase()];
    if (handle.startsWith(asked) || name.startsWith(asked)) return 0;
    return handle.includes(asked) || name.includes(asked) ? 1 : 2;
  };
  return profiles
    .filter((one) => (network === undefined || one.network === network) && rank(one) < 2)
    .sort((a, b) => rank(a) - rank(b) || a.name.localeCompare(b.name))
    .slice(0, most);
}
