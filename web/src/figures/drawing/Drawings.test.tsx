// @vitest-environment happy-dom
import { render, screen } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import { numbersIn } from "../../lib/numbers";
import { FigureDrawing } from "./FigureDrawing";
import { type Cell, type DrawnSet, drawingsOf, type drawnAs, stepsOf } from "./set";

const cell = (key: string, value: number | null, more: Partial<Cell> = {}): Cell => ({
  key,
  name: key,
  unit: "count",
  row: "",
  column: "",
  now: { value, n: 1, missing: 0, numerator: null, denominator: null, interval: null },
  before: null,
  more_is_better: true,
  ...more,
});
const set = (cells: Cell[], more: Partial<DrawnSet> = {}): DrawnSet => ({
  cells,
  series: [],
  title: "T",
  note: "",
  ...more,
});
const drawn = (one: DrawnSet, drawing: Parameters<typeof drawnAs>[1], size = { width: 700, height: 300 }) =>
  render(
    <FigureDrawing
      drawing={drawing}
      set={one}
      numbers={numbersIn("en-GB")}
      words={{ before: "before", unknown: "nothing is known" }}
      rows={12}
      {...size}
      shown={(_, text) => text}
    />,
  );
const parts = [cell("change", 30, { row: "change" }), cell("factor.number", 40, { row: "number" })];
const days = Array.from({ length: 14 }, (_, i) => `2026-12-${String(i + 1).padStart(2, "0")}`);

describe("steps that add up", () => {
  it("promises the first way of parts whose sum is the whole, and none where nothing adds up", () => {
    const network = [cell("network.a", 10, { row: "A" }), cell("network.b", 20, { row: "B" })];
    const found = stepsOf(set([...parts, ...network]));
    expect(found?.steps.map((one) => one.key)).toEqual(["network.a", "network.b"]);
    expect(stepsOf(set(parts))).toBeNull();
    expect(stepsOf(set([...parts, cell("factor.size", -10, { row: "size" })]))?.steps.length).toBe(2);
    expect(stepsOf(set([cell("change", null), cell("factor.a", 1)]))).toBeNull();
    expect(stepsOf(set([]))).toBeNull();
  });

  it("promises each step and the whole in words", () => {
    drawn(set([...parts, cell("factor.size", -10, { row: "size" })]), "steps");
    expect(screen.getByRole("img").getAttribute("aria-label")).toBe("T: number 40; size −10; change 30");
    expect(screen.getByText("+40").textContent).toBe("+40");
  });
});

describe("cards", () => {
  const about = (row: string, more = {}) => ({ row, text: row, detail: "", picture: "", at: "", path: "", ...more });

  it("promises a card for what has no figure, too, and as many as there is room for", () => {
    const rows = Array.from({ length: 9 }, (_, i) => about(`Finding ${i}`));
    const one = set([cell("1", 1.8, { row: "Finding 0", column: "times the others", unit: "index" })], { rows });
    expect(drawingsOf(one)[0]).toBe("cards");
    const { container } = drawn(one, "cards");
    expect(container.textContent).toContain("Finding 1");
    expect(container.textContent).toContain("1.80");
    expect(container.querySelectorAll("li").length).toBeLessThanOrEqual(9);
    const small = drawn(one, "cards", { width: 200, height: 95 });
    expect(small.container.querySelectorAll("li").length).toBe(1);
  });

  it("promises that what a network calls a picture is asked for without saying where from", () => {
    const rows = [about("A", { picture: "http://127.0.0.1:9/a.png", at: "2026-11-26T09:05", detail: "Brevi" })];
    const { container } = drawn(set([], { rows }), "cards");
    expect(container.querySelector("img")?.getAttribute("referrerpolicy")).toBe("no-referrer");
    expect(container.textContent).toContain("26 Nov, 09:05, Brevi");
  });

  it("promises that reports kept before rows were told still show", () => {
    const { container } = drawn({ cells: [], series: [], title: "", note: "Nothing here" }, "cards");
    expect(container.textContent).toContain("Nothing here");
  });
});

describe("weeks", () => {
  it("promises every day with its posts, and how many more there are", () => {
    const cells = days.map((day, i) => cell(day, i === 2 ? 9 : 0, { row: day, column: "posts planned" }));
    const rows = Array.from({ length: 9 }, (_, i) => ({
      row: `p${i}`,
      text: `Post ${i}`,
      detail: "Brevi",
      picture: "",
      at: `2026-12-03T0${i}:30`,
      path: "",
    }));
    const one = set(cells, { rows });
    expect(drawingsOf(one)[0]).toBe("calendar");
    const { container } = drawn(one, "calendar", { width: 900, height: 260 });
    const told = container.querySelectorAll("td")[2] as HTMLElement;
    expect(told.textContent).toContain("3 Dec");
    expect(told.textContent).toContain("00:30 Post 0");
    const shownPosts = told.querySelectorAll("b").length - 1;
    expect(told.textContent).toContain(`+${9 - shownPosts}`);
  });
});
