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

/** Somebody by one handle, and the networks on which they are called so. */
export type Meant = { id: number; name: string; handle: string; networks: string[] };

/** Those whose name or handle holds the letters: who begins so first, then who is called so on most networks. On a network
 * only those who are there. */
export function matching(profiles: Profile[], letters: string, network?: string, most = MOST): Meant[] {
  const asked = letters.toLowerCase();
  const rank = (one: Meant | Profile) => {
    const [name, handle] = [one.name.toLowerCase(), one.handle.toLowerCase()];
    if (handle.startsWith(asked) || name.startsWith(asked)) return 0;
    return handle.includes(asked) || name.includes(asked) ? 1 : 2;
  };
  const found = new Map<string, Meant>();
  for (const one of profiles) {
    if ((network !== undefined && one.network !== network) || rank(one) > 1) continue;
    const key = `${one.competitor_id} ${one.name} ${one.handle}`;
    const meant = found.get(key) ?? { id: one.id, name: one.name, handle: one.handle, networks: [] };
    found.set(key, { ...meant, networks: [...meant.networks, one.network] });
  }
  return [...found.values()]
    .sort((a, b) => rank(a) - rank(b) || b.networks.length - a.networks.length || a.name.localeCompare(b.name))
    .slice(0, most);
}
