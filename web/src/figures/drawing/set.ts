/** What is drawn: a set of figures as the server tells it, whichever kind it is of. Plain functions over it. */

import type { Schemas } from "../../api/client";

export type Cell = Schemas["Cell"];
export type Series = Schemas["Series"];
export type RowAbout = Schemas["RowAbout"];
/** rows: what its rows are about, or such as have no figure; reports that were kept long ago do not tell it. */
export type DrawnSet = { cells: Cell[]; series: Series[]; rows?: RowAbout[]; title: string; note: string };
export type Drawing = "tiles" | "course" | "bars" | "table" | "grid" | "axes" | "cards" | "steps" | "calendar";

/** In which ways a set can be drawn, the best first. */
export function drawingsOf(set: DrawnSet): Drawing[] {
  const columns = columnsOf(set);
  const rows = rowsOf(set);
  const found: Drawing[] = [];
  const isOfDays = rows.length > 0 && rows.length % 7 === 0 && rows.every((row) => /^\d{4}-\d\d-\d\d$/.test(row));
  if (isOfDays) found.push("calendar");
  else if ((set.rows ?? []).length > 0) found.push("cards");
  if (columns.length === 24 && rows.length === 7) found.push("grid");
  if (set.series.some((one) => one.places.length > 1)) found.push("course");
  if (rows.length > 1 && !isOfDays) found.push("bars");
  if (stepsOf(set)) found.push("steps");
  if (rows.length > 2 && (set.rows ?? []).length === 0 && columns.length > 1 && columns.length !== 24)
    found.push("axes");
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

/** What a figure is called in its set. */
export const nameOf = (cell: Cell) => cell.row || cell.column || cell.name;

/** The parts that a change or a gap is made of, and the whole; nothing where no parts add up to one. */
export function stepsOf(set: DrawnSet): { steps: Cell[]; whole: Cell } | null {
  const whole = set.cells.find((cell) => cell.key === "change" || cell.key === "whole");
  const value = whole?.now.value;
  if (!whole || value === null || value === undefined) return null;
  const groups = new Map<string, Cell[]>();
  for (const cell of set.cells) {
    if (cell === whole) continue;
    const group = cell.key.includes(".") ? cell.key.split(".", 1)[0] : "";
    groups.set(group as string, [...(groups.get(group as string) ?? []), cell]);
  }
  for (const steps of groups.values()) {
    const sum = steps.reduce((so, cell) => so + (cell.now.value ?? 0), 0);
    const size = steps.reduce((so, cell) => so + Math.abs(cell.now.value ?? 0), 0);
    if (steps.length > 1 && Math.abs(sum - value) <= 1e-6 * Math.max(size, 1e-9)) return { steps, whole };
  }
  return null;
}

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
