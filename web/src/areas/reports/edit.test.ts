import { describe, expect, it } from "vitest";
import {
  added,
  aligned,
  begin,
  type Content,
  changed,
  copiedPage,
  emptyPage,
  type Item,
  movedPage,
  type Page,
  placed,
  redone,
  undone,
  withoutPage,
} from "./edit";
import { box, freePlace, isOnPage, measures, type Place, ROWS, touches } from "./geometry";

const item = (id: string, x: number, y: number, w: number, h: number): Item => ({
  id,
  kind: "results.course",
  params: {},
  study: null,
  drawing: "course",
  title: "",
  cells: [],
  rows: 12,
  words: [],
  asset: null,
  x,
  y,
  w,
  h,
});
const content = (...items: Item[]): Content => ({
  title: "T",
  label: "",
  language: "en",
  study: {},
  look: { has_cover: false, subtitle: "", logo: null, accent: "", ground: "", face: "serif", header: "", footer: "" },
  pages: [{ ...emptyPage(), id: "p1", items }],
});

describe("editing a report", () => {
  it("promises every step back and forward again; typing in one place is one step", () => {
    let history = begin(content());
    for (const title of ["A", "AB", "ABC"]) history = changed(history, { ...history.now, title }, "title");
    history = changed(history, { ...history.now, label: "L" });
    expect(history.past.length).toBe(2);
    history = undone(undone(history));
    expect(history.now.title).toBe("T");
    expect(undone(history)).toBe(history);
    history = redone(redone(history));
    expect([history.now.title, history.now.label]).toEqual(["ABC", "L"]);
    expect(redone(history)).toBe(history);
  });

  it("promises that a figure never covers another nor leaves the page, however it is pushed", () => {
    const page = content(item("a", 0, 0, 6, 4), item("b", 6, 0, 6, 4)).pages[0] as Page;
    expect(placed(page, "a", { x: 1 })).toBeNull();
    expect(placed(page, "a", { x: -1 })).toBeNull();
    expect(placed(page, "a", { w: 1 })).toBeNull();
    expect(placed(page, "a", { y: 5 })).toBeNull();
    expect(placed(page, "a", { y: 4 })).toEqual({ x: 0, y: 4, w: 6, h: 4 });
    expect(placed(page, "a", { h: -4 })).toBeNull();
    expect(placed(page, "nobody", { x: 1 })).toBeNull();
  });

  it("promises a place for what is put in: beside the others, smaller, or on a new page", () => {
    const { x: _x, y: _y, ...bare } = item("c", 0, 0, 12, 4);
    const first = added(content(item("a", 0, 0, 12, 4)), "p1", bare);
    expect(first.content.pages[0]?.items[1]).toMatchObject({ x: 0, y: 4, w: 12, h: 4 });
    const full = added(first.content, "p1", { ...bare, id: "d" });
    expect(full.content.pages.length).toBe(2);
    expect(full.page).not.toBe("p1");
  });

  it("promises that a copied page's words follow its own figures", () => {
    const before = content(item("a", 0, 0, 6, 4));
    (before.pages[0] as Page).words = [[{ text: "", item: "a", cell: "reach", what: "now", said: 1 }]];
    const { content: after, page } = copiedPage(before, "p1");
    const copy = after.pages.find((one) => one.id === page) as Page;
    expect(copy.items[0]?.id).not.toBe("a");
    expect(copy.words?.[0]?.[0]?.item).toBe(copy.items[0]?.id);
  });

  it("promises pages in their order, and never none", () => {
    const two = { ...content(), pages: [...content().pages, { ...emptyPage(), id: "p2" }] };
    expect(movedPage(two, "p2", -1).pages.map((one) => one.id)).toEqual(["p2", "p1"]);
    expect(movedPage(two, "p2", 1)).toBe(two);
    expect(withoutPage(content(), "p1").pages.length).toBe(1);
  });
});

describe("putting figures in line", () => {
  const page = content(item("a", 1, 0, 4, 2), item("b", 3, 3, 6, 2), item("c", 6, 6, 3, 1)).pages[0] as Page;
  const of = (next: Page | null, id: string) => next?.items.find((one) => one.id === id);

  it("promises edges and sizes as the first one that was chosen has them, and leaves the others alone", () => {
    expect(of(aligned(page, ["a", "b"], "left"), "b")).toMatchObject({ x: 1, y: 3, w: 6 });
    expect(of(aligned(page, ["a", "c"], "right"), "c")).toMatchObject({ x: 2, w: 3 });
    expect(of(aligned(page, ["b", "a"], "width"), "a")).toMatchObject({ x: 1, w: 6 });
    expect(of(aligned(page, ["a", "b"], "left"), "c")).toEqual(page.items[2]);
    expect(aligned(page, ["a", "c"], "top")).toMatchObject({ items: [{ y: 0 }, {}, { y: 0 }] });
  });

  it("promises nothing over another and nothing beyond the page", () => {
    expect(aligned(page, ["a", "b"], "top")).toBeNull();
    const low = content(item("a", 0, 0, 4, 8), item("b", 4, 7, 2, 1)).pages[0] as Page;
    expect(aligned(low, ["a", "b"], "height")).toBeNull();
    expect(aligned(page, ["a"], "left")).toBeNull();
    expect(aligned(page, ["gone", "a"], "left")).toBeNull();
  });
});

describe("the grid of a page", () => {
  it("promises that boxes of places that do not touch do not touch, with words or without", () => {
    for (const hasWords of [true, false]) {
      const m = measures(hasWords);
      const [a, b] = [
        { x: 0, y: 0, w: 6, h: 4 },
        { x: 6, y: 4, w: 6, h: 4 },
      ];
      expect(touches(a, b)).toBe(false);
      expect(box(a, hasWords).left + box(a, hasWords).width).toBeLessThan(box(b, hasWords).left);
      const last = box({ x: 0, y: 0, w: 12, h: ROWS }, hasWords);
      expect(last.width).toBeCloseTo(m.width);
      expect(last.height).toBeCloseTo(m.height);
    }
  });

  it("promises what is free to be on the page and free", () => {
    const taken = [item("a", 0, 0, 9, 8)];
    const found = freePlace(taken, 6, 3) as Place;
    expect(isOnPage(found)).toBe(true);
    expect(taken.some((one) => touches(one, found))).toBe(false);
    expect(freePlace([item("a", 0, 0, 12, 8)], 2, 2)).toBeNull();
  });
});
