import { describe, expect, it } from "vitest";
import type { Standing } from "./queries";
import { place, sorted } from "./rules";

const figureOf = (value: number | null, half = 1) => ({
  value,
  n: 10,
  missing: 0,
  numerator: null,
  denominator: null,
  interval: value === null ? null : { low: value - half, high: value + half, level: 0.95 },
});
const row = (name: string, value: number | null, is_own = false): Standing => ({
  profile_id: 1,
  name,
  handle: name,
  group: name,
  network: "commons",
  is_own,
  followers: figureOf(value),
  growth: figureOf(0.01),
  posts_per_week: figureOf(3),
  interactions_per_post: figureOf(value),
  interactions_per_1000: figureOf(value),
});

describe("rules of Competitors", () => {
  it("promises that the unknown comes last whichever way is sorted", () => {
    const rows = [row("a", null), row("b", 2), row("c", 9)];
    expect(sorted(rows, "-followers").map((r) => r.name)).toEqual(["c", "b", "a"]);
    expect(sorted(rows, "followers").map((r) => r.name)).toEqual(["b", "c", "a"]);
  });
  it("promises to say nothing where intervals touch", () => {
    expect(place([row("us", 5, true), row("b", 6), row("c", 5)], "commons", "Commons")).toBeNull();
  });
  it("promises to name who is ahead beyond what chance allows", () => {
    expect(place([row("us", 5, true), row("b", 20), row("c", 5)], "commons", "Commons")).toContain("b gets more");
  });
});
