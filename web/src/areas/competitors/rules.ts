/** How profiles are ordered, and what may be said of where we stand. */

import type { Standing } from "./queries";

export type Column = "followers" | "growth" | "posts_per_week" | "interactions_per_post" | "interactions_per_1000";

export function sorted(rows: Standing[], sort: string): Standing[] {
  const down = sort.startsWith("-");
  const key = sort.replace(/^-/, "");
  const value = (row: Standing) =>
    key === "name" ? row.name : key === "network" ? row.network : row[key as Column].value;
  return [...rows].sort((a, b) => {
    const [x, y] = [value(a), value(b)];
    if (x === null || y === null) return x === y ? 0 : x === null ? 1 : -1;
    const order = typeof x === "string" ? x.localeCompare(y as string) : x - (y as number);
    return down ? -order : order;
  });
}

/** A sentence on our place per network, only where the intervals say that it is not chance. */
export function place(rows: Standing[], network: string, name: string): string | null {
  const here = rows.filter((row) => row.network === network && row.interactions_per_1000.value !== null);
  const ours = here.find((row) => row.is_own);
  const range = ours?.interactions_per_1000.interval;
  if (!ours || !range || here.length < 3) return null;
  const others = here.filter((row) => !row.is_own);
  const above = others.filter((row) => (row.interactions_per_1000.interval?.low ?? 0) > range.high);
  const below = others.filter((row) => (row.interactions_per_1000.interval?.high ?? Infinity) < range.low);
  if (above.length)
    return `On ${name}, ${above.map((row) => row.name).join(" and ")} ${above.length > 1 ? "get" : "gets"} more reactions per follower than we do, and the intervals lie apart`;
  if (below.length === others.length)
    return `On ${name} we get more reactions per follower than all others, and the intervals lie apart`;
  return null;
}
