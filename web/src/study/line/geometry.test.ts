import { describe, expect, it } from "vitest";
import {
  edges,
  farSpan,
  labelPlaces,
  months,
  moved,
  nearest,
  pixelsToDays,
  postsBeyond,
  presets,
  toInstant,
  toX,
  viewAround,
  viewWith,
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

  it("promises that the view goes to the period under study however far back it lies", () => {
    const now = Date.parse("2026-11-25T12:00:00Z");
    const day = 86_400_000;
    const near = { begin: now - 30 * day, end: now };
    expect(viewWith(now, 204, "past", 0, near)).toEqual(viewAround(now, 204, "past"));
    expect(viewWith(now, 204, "past", -10, null)).toEqual(viewAround(now, 204, "past", -10));
    const far = { begin: Date.parse("2017-03-01T00:00:00Z"), end: Date.parse("2017-03-29T00:00:00Z") };
    const view = viewWith(now, 204, "past", 0, far);
    expect(view.from < far.begin && far.end < view.to).toBe(true);
    expect((view.to - view.from) / day).toBe(204);
    // A period longer than the view widens it.
    const long = { begin: Date.parse("2017-01-01T00:00:00Z"), end: Date.parse("2019-01-01T00:00:00Z") };
    const wide = viewWith(now, 204, "past", 0, long);
    expect(wide.from < long.begin && long.end < wide.to).toBe(true);
    expect(farSpan(view, now, "UTC")).toEqual({ first: "2016-12-01", last: "2017-06-30" });
    expect(farSpan(viewAround(now, 204, "past"), now, "UTC")).toBeNull();
  });

  it("promises to tell how many posts lie before the view and after it, and which month is next", () => {
    const months = [
      { month: "2016-03-01", posts: 4 },
      { month: "2017-01-01", posts: 2 },
      { month: "2017-03-01", posts: 7 },
      { month: "2026-11-01", posts: 9 },
    ];
    const view = { from: Date.parse("2017-02-10T00:00:00Z"), to: Date.parse("2017-06-01T00:00:00Z") };
    expect(postsBeyond(months, view, "UTC")).toEqual({
      before: { posts: 6, nearest: "2017-01-01", far: "2016-03-01" },
      after: { posts: 9, nearest: "2026-11-01", far: "2026-11-01" },
    });
    expect(postsBeyond([], view, "UTC")).toEqual({ before: null, after: null });
  });
});
