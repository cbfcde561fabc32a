import { describe, expect, it } from "vitest";
import {
  edges,
  labelPlaces,
  months,
  moved,
  nearest,
  pixelsToDays,
  presets,
  toInstant,
  toX,
  viewAround,
} from "./geometry";

const now = Date.parse("2026-11-24T12:00:00Z");
const view = viewAround(now, 204, "past");

describe("the minute line", () => {
  it("promises that a place and an instant lead back to one another", () => {
    for (const x of [0, 13, 640, 1279]) expect(toX(toInstant(x, view, 1280), view, 1280)).toBeCloseTo(x, 6);
  });

  it("promises that a day of 23 hours is drawn as long as it is", () => {
    const [left, right] = edges(
      { first: "2026-03-29", last: "2026-03-29" },
      { from: 0, to: 3600_000 },
      1,
      "Europe/Lisbon",
    );
    expect(right - left).toBeCloseTo(23, 6);
  });

  it("promises that a period never turns over and never empties", () => {
    const span = { first: "2026-11-01", last: "2026-11-10" };
    expect(moved(span, "first", 400)).toEqual({ first: "2026-11-10", last: "2026-11-10" });
    expect(moved(span, "last", -400)).toEqual({ first: "2026-11-01", last: "2026-11-01" });
    expect(moved(span, "whole", -3)).toEqual({ first: "2026-10-29", last: "2026-11-07" });
  });

  it("promises that months stand in order and cover the view", () => {
    const found = months(view, 1280, "Europe/Lisbon");
    expect(found.length).toBeGreaterThanOrEqual(7);
    expect(found.map((m) => m.x)).toEqual([...found.map((m) => m.x)].sort((a, b) => a - b));
  });

  it("promises that the two labels never lie on one another", () => {
    for (let x = 0; x < 1200; x += 37) {
      const places = labelPlaces([x, x + 60], [x - 60, x], 170, 150, 1280);
      if (places.other !== null)
        expect(places.other + 150 <= places.own || places.other >= places.own + 170).toBe(true);
    }
  });

  it("promises that the nearest post is named, and none where there is none", () => {
    expect(nearest([10, 20, 30], 21)).toBe(1);
    expect(nearest([10, 20, 30], 25.5)).toBe(-1);
    expect(nearest([], 5)).toBe(-1);
  });

  it("promises presets that end today and last as long as they say", () => {
    const found = presets("2026-03-01");
    expect(found[0]?.span).toEqual({ first: "2026-02-23", last: "2026-03-01" });
    expect(found[5]?.span).toEqual({ first: "2026-02-01", last: "2026-02-28" });
  });

  it("promises that a drag is counted in whole days", () => {
    expect(pixelsToDays(1280, view, 1280)).toBe(204);
  });
});
