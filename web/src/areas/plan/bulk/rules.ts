/** What a table of posts is called, and how its rows are told. Pure. */

import type { Row } from "./queries";

export const FIELDS: Record<string, string> = {
  at: "Day (or day and time)",
  time: "Time",
  profiles: "Profiles or networks",
  text: "Text",
  title: "Working title",
  headline: "Title",
  link: "Link",
  media: "Files",
  words: "Alternative text",
  first_comment: "First comment",
  campaign: "Campaign",
  note: "Note for the team",
};

export const ORDERS: Record<string, string> = {
  dmy: "day, month, year",
  mdy: "month, day, year",
  ymd: "year, month, day",
};

export const blockingOf = (row: Row) => row.problems.filter((one) => one.is_blocking);

/** Fields of a row that are wrong, each with what is said of it, in the order of the table. */
export function wrongFields(row: Row): [string, string[]][] {
  const found = new Map<string, string[]>();
  for (const one of blockingOf(row)) found.set(one.field, [...(found.get(one.field) ?? []), one.message]);
  return [...found];
}

/** What a field of a row says now, to be written over. */
export function writtenIn(row: Row, field: string): string {
  if (field === "at") return row.written_at;
  return row.values[field] ?? "";
}

/** The columns with one field put into another column; a column holds one field. */
export function withColumn(columns: Record<string, number>, column: number, field: string): Record<string, number> {
  const kept = Object.entries(columns).filter(([key, at]) => at !== column && key !== field);
  return { ...Object.fromEntries(kept), ...(field && { [field]: column }) };
}
