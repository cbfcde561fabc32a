import { describe, expect, it } from "vitest";
import { absolute, delta, figure, percent, short, since } from "./format";

describe("figures in words", () => {
  it("promises that what is missing is a dash, and zero a zero", () => {
    expect(figure(null)).toBe("–");
    expect(figure(Number.NaN, "rate")).toBe("–");
    expect(figure(0)).toBe("0");
  });
  it("promises that the decimals of a column stand under each other", () => {
    expect([26, 26.2, 1243.94].map((v) => figure(v, "per_1000"))).toEqual(["26.0", "26.2", "1,243.9"]);
    expect([1, 22.434].map((v) => figure(v, "index"))).toEqual(["1.00", "22.43"]);
  });
  it("promises two significant digits of a rate, three from ten per cent", () => {
    expect([0.0043, 0.077, 0.1234].map(percent)).toEqual(["0.43%", "7.7%", "12.3%"]);
  });
  it("promises a change with its sign, and how many times it is from a tiny base", () => {
    expect(delta({ difference: 10, relative: 0.05 }, "count")).toBe("+5.0%");
    expect(delta({ difference: -10, relative: -0.37 }, "count")).toBe("−37.0%");
    expect(delta({ difference: 301, relative: 42.5 }, "count")).toBe("44 times");
    expect(delta({ difference: 7, relative: null }, "count")).toBe("+7");
    expect(delta({ difference: 0, relative: 0 }, "count")).toBe("no change");
    expect(delta({ difference: null, relative: null }, "count")).toBe("no comparison");
    expect(absolute(0.008, "rate")).toBe("+0.80 pp");
  });
  it("promises short figures on axes", () => {
    expect([0.5, 3, 1500, 12_400, 2_300_000].map((v) => short(v))).toEqual(["0.50", "3", "1.5k", "12k", "2.3M"]);
  });
  it("promises ages in one unit, both ways", () => {
    const now = new Date("2026-11-25T12:00:00Z");
    expect(since(null, now)).toBe("never");
    expect(since("2026-11-25T11:59:50Z", now)).toBe("now");
    expect(since("2026-11-25T11:15:00Z", now)).toBe("45 min ago");
    expect(since("2026-11-24T12:00:00Z", now)).toBe("24 h ago");
    expect(since("2026-11-28T12:00:00Z", now)).toBe("in 3 d");
  });
});
