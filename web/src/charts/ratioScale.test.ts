import { describe, expect, it } from "vitest";
import { ratioScale } from "./ratioScale";

const ratio = (value: number, low: number, high: number) => ({ value, interval: { low, high } });

describe("the scale of ratios", () => {
  it("promises one in the middle and twice as far from it as a half", () => {
    const x = ratioScale([ratio(2, 1.5, 3)], 300);
    expect(x(1)).toBe(150);
    expect(x(2) - x(1)).toBeCloseTo(x(1) - x(0.5));
    expect(x(3)).toBeLessThanOrEqual(300);
  });
  it("promises to hold every whisker, up to a factor of eight", () => {
    const wide = ratioScale([ratio(1, 0.001, 900)], 300);
    expect(wide(900)).toBe(wide(8));
    expect(wide(0)).toBe(wide(0.125));
    expect(wide.ticks).toContain(8);
  });
  it("promises a scale when there is nothing to hold", () => {
    const x = ratioScale([null], 200);
    expect(x.ticks).toEqual([0.67, 1, 1.5].filter((t) => Math.abs(Math.log(t)) <= Math.log(1.5)));
    expect(Number.isFinite(x(1.2))).toBe(true);
  });
});
