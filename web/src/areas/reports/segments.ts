/** Words with bound numbers as they stand in an editable element, and back. A number is one piece that can be moved or deleted. */

import type { Segment } from "./edit";
import type { ReadSegment } from "./queries";

/** A number without what is only told when it is read. */
export const bare = (one: ReadSegment): Segment => ({
  text: one.item ? "" : one.text,
  item: one.item,
  cell: one.cell,
  what: one.what as Segment["what"],
  said: one.said,
});

/** Write paragraphs into an element. Nothing of them is taken as markup. */
export function written(into: HTMLElement, words: ReadSegment[][]): void {
  into.replaceChildren(
    ...(words.length ? words : [[]]).map((row) => {
      const paragraph = document.createElement("p");
      paragraph.append(...row.map((one) => (one.item ? number(one) : document.createTextNode(one.text))));
      if (row.length === 0) paragraph.append(document.createElement("br"));
      return paragraph;
    }),
  );
}

/** A number that is bound to its figure, as one piece. */
export function number(one: ReadSegment): HTMLElement {
  const span = document.createElement("span");
  span.contentEditable = "false";
  span.dataset.bound = JSON.stringify(bare(one));
  span.className = "font-semibold underline decoration-(--sheet-accent) decoration-2 underline-offset-2";
  span.title = "Bound to its figure: it renews.";
  span.textContent = one.text;
  return span;
}

/** What stands in an element as paragraphs: empty ones at the end are left out. */
export function read(from: HTMLElement): Segment[][] {
  const rows: Segment[][] = [];
  let row: Segment[] = [];
  const end = () => {
    if (row.length > 0 || rows.length > 0) rows.push(row);
    row = [];
  };
  const walk = (node: Node) => {
    if (node.nodeType === Node.TEXT_NODE) {
      const text = node.textContent?.replace(/\u00a0/g, " ") ?? "";
      const last = row.at(-1);
      if (text && last && !last.item) last.text += text;
      else if (text) row.push(words(text));
      return;
    }
    if (!(node instanceof HTMLElement)) return;
    if (node.dataset.bound) {
      row.push(JSON.parse(node.dataset.bound) as Segment);
      return;
    }
    const isBlock = node !== from && /^(P|DIV|LI)$/.test(node.tagName);
    if (node.tagName === "BR" && row.length > 0) end();
    if (isBlock && row.length > 0) end();
    for (const child of node.childNodes) walk(child);
    if (isBlock) end();
  };
  walk(from);
  if (row.length > 0) rows.push(row);
  while (rows.length > 0 && rows.at(-1)?.every((one) => !one.item && one.text.trim() === "")) rows.pop();
  return rows;
}

const words = (text: string): Segment => ({ text, item: "", cell: "", what: "now", said: null });
