/** In which order brands stand. */

import type { Overview } from "./queries";

/** Brands differ in size, so that they are compared by how they changed; or by their size after all. */
export const MODES = { change: "how it changed", size: "its size" } as const;
export type Mode = keyof typeof MODES;
export type Row = { slug: string; name: string; overview: Overview | undefined };

/** What a brand is sorted by in a column; null where that is not known, which stands last either way. */
export function sortValue(row: Row, column: string, mode: Mode): number | string | null {
  if (column === "name") return row.name.toLowerCase();
  if (!row.overview) return null;
  if (column === "hands") return row.overview.hands.length;
  if (column === "findings") return row.overview.findings;
  if (column === "planned") return row.overview.planned?.count ?? null;
  const figure = row.overview.figures.find((one) => one.key === column);
  if (!figure) return null;
  return mode === "size" ? figure.value : (figure.relative ?? figure.difference);
}

/** Sorted by a column, "-reach" from the most down; alike ones by name. */
export function sorted(rows: Row[], sort: string, mode: Mode): Row[] {
  const column = sort.replace(/^-/, "");
  const sign = sort.startsWith("-") ? -1 : 1;
  return [...rows].sort((a, b) => {
    const [one, other] = [sortValue(a, column, mode), sortValue(b, column, mode)];
    if (one === null || other === null) return Number(one === null) - Number(other === null) || byName(a, b);
    if (one === other) return byName(a, b);
    return one < other ? -sign : sign;
  });
}

const byName = (a: Row, b: Row) => a.name.localeCompare(b.name);

/** The page in a sentence: how many need a hand. */
export function brandsTitle(rows: Row[]): string {
  const asking = rows.filter((row) => (row.overview?.hands.length ?? 0) > 0);
  if (rows.some((row) => row.overview === undefined)) return "All brands";
  if (asking.length === 0) return "No brand needs a hand";
  return asking.length === 1
    ? `${asking[0]?.name} needs a hand`
    : `${asking.length} of ${rows.length} brands need a hand`;
}
