/** Words for how collection stands, and the names of a file's fields. */

export const RUN_WORDS: Record<string, { word: string; tone: "good" | "wrong" | "busy" | "quiet" }> = {
  waiting: { word: "waiting", tone: "busy" },
  running: { word: "running", tone: "busy" },
  complete: { word: "complete", tone: "good" },
  partial: { word: "partial", tone: "wrong" },
  failed: { word: "failed", tone: "wrong" },
};

export const FIELD_NAMES: Record<string, string> = {
  published_at: "Published at",
  external_id: "Identifier",
  text: "Text",
  url: "Address",
  format: "Format",
  impressions: "Impressions",
  reach: "Reach",
  reactions: "Reactions",
  comments: "Comments",
  shares: "Shares",
  saves: "Saves",
  link_clicks: "Link clicks",
  video_views: "Video views",
  negative: "Negative",
  taken_at: "Read at",
};

/** A mapping with one field moved to another column, or taken out with -1. A column serves one field. */
export function remapped(mapping: Record<string, number>, field: string, column: number): Record<string, number> {
  const next = Object.fromEntries(Object.entries(mapping).filter(([name, at]) => name !== field && at !== column));
  return column < 0 ? next : { ...next, [field]: column };
}

const DELIMITERS: Record<string, string> = { ",": "comma", ";": "semicolon", "\t": "tab", "|": "bar" };

/** How a file was read, in words. */
export function readAs(encoding: string, delimiter: string): string {
  if (!encoding) return "workbook, first sheet";
  return `${encoding}, separated by ${DELIMITERS[delimiter] ?? delimiter}`;
}
