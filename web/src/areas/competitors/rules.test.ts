/** Promise: rows without a value stand last, places say what is not ruled out, and no label covers another. */

import { describe, expect, it } from "vitest";
import type { Column, Line, Place } from "./queries";
import { aimedAt, figureTitle, placed, placeText, sorted, usageWords } from "./rules";

const place = (rank: number, best: number, worst: number, of = 5): Place => ({
  rank,
  best,
  worst,
  of,
  percentile: null,
  low: null,
  high: null,
  to_next: 12,
  next_name: "Tide Hall",
});
const now = (value: number | null) => ({
  value,
  n: 4,
  missing: 1,
  numerator: null,
  denominator: null,
  interval: value === null ? null : { low: value / 2, high: value * 2, level: 0.95 },
});
const line = (name: string, value: number | null): Line => ({
  key: name,
  name,
  is_own: false,
  competitor: 1,
  networks: [],
  profile_ids: [],
  figures: { followers: { now: now(value), before: now(value), place: null } },
});
const column: Column = { key: "x", name: "posts", unit: "count", definition: "", is_of_posts: true };

describe("rows", () => {
  const rows = [line("a", 2), line("b", null), line("c", 9)];
  it("stand in order, those without a value last either way", () => {
    expect(sorted(rows, "-followers").map((r) => r.name)).toEqual(["c", "a", "b"]);
    expect(sorted(rows, "followers").map((r) => r.name)).toEqual(["a", "c", "b"]);
    expect(sorted(rows, "-name").map((r) => r.name)).toEqual(["c", "b", "a"]);
  });
});

describe("places", () => {
  it("say which others are not ruled out", () => {
    expect(placeText(place(2, 2, 2))).toBe("2.");
    expect(placeText(place(2, 1, 4))).toBe("2. (1–4)");
    expect(placeText(place(1, 1, 1, 1))).toBe("");
    expect(figureTitle(now(10), place(2, 1, 4), column)).toBe(
      "4 posts; 1 too young or not read; 5 to 20 (95 %); number 2 of 5, 1 to 4 not ruled out; 12 to Tide Hall",
    );
  });
});

it("aims at what is followed: the sum of followers for the audience of a post", () => {
  expect(aimedAt({ factor: "audience", ours: 1000, needed: 1500 }, 8000)).toBe(12000);
  expect(aimedAt({ factor: "audience", ours: 1000, needed: 1500 }, null)).toBeNull();
  expect(aimedAt({ factor: "reaction", ours: 0.02, needed: 0.03 }, 8000)).toBeCloseTo(30);
  expect(aimedAt({ factor: "posts", ours: 3, needed: 6 }, 8000)).toBe(6);
});

it("tells our use beside theirs", () => {
  expect(usageWords({ ours: 2, n: 30 } as never, 10, 60)).toBe("20 % of our posts, 50 % of theirs");
  expect(usageWords({ ours: 0, n: 30 } as never, 0, 60)).toBe("we published nothing");
});

it("lays no label over another, and none outside", () => {
  const area = { width: 400, height: 200 };
  const boxes = Array.from({ length: 30 }, (_, i) => ({ x: 100 + (i % 5) * 30, y: 60 + i * 2, width: 70 }));
  const found = placed(boxes, area);
  const laid = found.flatMap((at, i) =>
    at ? [{ left: at.anchor === "start" ? at.x : at.x - (boxes[i]?.width ?? 0), top: at.y }] : [],
  );
  expect(laid.length).toBeGreaterThan(5);
  for (const [i, a] of laid.entries()) {
    expect(a.left).toBeGreaterThanOrEqual(0);
    expect(a.left + 70).toBeLessThanOrEqual(area.width);
    for (const b of laid.slice(i + 1))
      expect(Math.abs(a.left - b.left) > 70 || Math.abs(a.top - b.top) >= 14).toBe(true);
  }
});
