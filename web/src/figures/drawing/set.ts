/** What is drawn: a set of figures as the server tells it, whichever kind it is of. Plain functions over it. */

import type { Schemas } from "../../api/client";

export type Cell = Schemas["Cell"];
export type Series = Schemas["Series"];
export type DrawnSet = { cells: Cell[]; series: Series[]; title: string; note: string };
export type Drawing = "tiles" | "course" | "bars" | "table" | "grid" | "axes";

/** In which ways a set can be drawn, the best first. */
export function drawingsOf(set: DrawnSet): Drawing[] {
  const columns = columnsOf(set);
  const rows = rowsOf(set);
  const found: Drawing[] = [];
  if (columns.length === 24 && rows.length === 7) found.push("grid");
  if (set.series.some((one) => one.places.length > 1)) found.push("course");
  if (rows.length > 1) found.push("bars");
  if (rows.length > 2 && columns.length > 1 && columns.length !== 24) found.push("axes");
  if (totalsOf(set).length > 0) found.push("tiles");
  found.push("table");
  return found;
}

/** How a set is drawn that somebody asked to be drawn so: as asked where it can be, else in its best way. */
export function drawnAs(set: DrawnSet, asked: Drawing): Drawing {
  const can = drawingsOf(set);
  return can.includes(asked) ? asked : (can[0] ?? "table");
}

/** Its figures that stand in no table. */
export const totalsOf = (set: DrawnSet) => set.cells.filter((cell) => cell.row === "");
/** Rows of its table, in order. */
export const rowsOf = (set: DrawnSet) => [...new Set(set.cells.map((cell) => cell.row).filter((row) => row !== ""))];
/** Columns of its table, in order. */
export const columnsOf = (set: DrawnSet) => [
  ...new Set(set.cells.filter((cell) => cell.row !== "").map((cell) => cell.column)),
];

/** The figure of a row and column. */
export function cellAt(set: DrawnSet, row: string, column: string): Cell | undefined {
  return set.cells.find((cell) => cell.row === row && cell.column === column);
}

/** The column that a set is ordered and drawn by: the first that has intervals, else the first. */
export function leadingColumn(set: DrawnSet): string {
  const columns = columnsOf(set);
  const whole = (column: string) =>
    set.cells.filter((cell) => cell.row !== "" && cell.column === column).every((cell) => cell.now.interval !== null);
  return columns.find(whole) ?? columns[0] ?? "";
}

/** The cells of one column, largest first, by size alone where some are below zero; what is unknown comes last. */
export function ranked(set: DrawnSet, column: string, most: number): Cell[] {
  const cells = set.cells.filter((cell) => cell.row !== "" && cell.column === column);
  const size = cells.some((cell) => (cell.now.value ?? 0) < 0) ? Math.abs : (value: number) => value;
  const of = (cell: Cell) => (cell.now.value === null ? -Infinity : size(cell.now.value));
  return cells.sort((a, b) => of(b) - of(a)).slice(0, most);
}

/** Courses in pairs: each with the one that it is held against, by its key ("reach", "reach before"). */
export function pairsOf(set: DrawnSet): { now: Series; before?: Series }[] {
  const of = new Map(set.series.map((one) => [one.key, one]));
  return set.series
    .filter((one) => !one.key.endsWith(" before"))
    .map((now) => ({ now, before: of.get(`${now.key} before`) }));
}

/** How far a figure is from the one before, as a share of it. */
export function relative(cell: Cell): number | null {
  const [now, before] = [cell.now.value, cell.before?.value];
  return now === null || before === null || before === undefined || before === 0
    ? null
    : (now - before) / Math.abs(before);
}
