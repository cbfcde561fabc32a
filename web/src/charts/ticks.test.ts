import { describe, expect, it } from "vitest";
import { bandPath, labelEvery, linePath, valueScale } from "./ticks";

describe("scales and paths", () => {
  it("promises that missing is a gap, never a zero", () => {
    const path = linePath(
      [1, null, 3, 4],
      (i) => i * 10,
      (v) => 100 - v,
    );
    expect(path).toBe("M0.0 99.0M20.0 97.0L30.0 96.0");
  });
  it("promises a scale that begins at zero and holds every value", () => {
    const y = valueScale([5, null, 42], 100);
    expect(y(0)).toBe(100);
    expect(y(42)).toBeGreaterThanOrEqual(0);
  });
  it("promises that losses below zero are drawn below zero", () => {
    const y = valueScale([-20, 30], 100);
    expect(y(-20)).toBeLessThanOrEqual(100);
    expect(y(0)).toBeLessThan(100);
  });
  it("promises a scale for nothing but zeros", () => {
    expect(valueScale([0, 0], 100)(0)).toBe(100);
  });
  it("promises that a band breaks where either side is missing", () => {
    expect(
      bandPath(
        [1, 1, null, 1, 1],
        [2, 2, 2, 2, 2],
        (i) => i,
        (v) => v,
      ).match(/M/g),
    ).toHaveLength(2);
  });
  it("promises labels that do not touch", () => {
    expect(labelEvery(28, 700, 60)).toBe(7);
    expect(labelEvery(7, 700, 60)).toBe(1);
    expect((365 / labelEvery(365, 700, 60)) * 60).toBeLessThanOrEqual(760);
  });
});
