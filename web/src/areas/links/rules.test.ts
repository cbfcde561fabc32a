import { describe, expect, it } from "vitest";
import type { Figures } from "./queries";
import { ageTitle, busiest, clicksTitle, hoursName } from "./rules";

const figures = (people: number[], ratio: Figures["ratio"], whole_days = people.length): Figures => ({
  whole_days,
  people,
  bots: [],
  over: [],
  before: [],
  visitors: 0,
  visitors_before: 0,
  ratio,
  hours: [],
  spreads: {
    referrer: [],
    device: [],
    browser: [],
    language: [],
    country: [],
    network: [],
    campaign: [],
    destination: [],
    reason: [],
  },
});

describe("rules of Links", () => {
  it("promises to claim a change only where chance does not explain it", () => {
    const sure = { value: 1.5, low: 1.2, high: 1.9, is_sure: true };
    expect(clicksTitle(figures([10, 5], sure))).toBe("15 clicks, 1.50 times (1.20 to 1.90) as many a day as before");
    expect(clicksTitle(figures([15], { ...sure, is_sure: false }))).toBe(
      "15 clicks; the difference to the days before may be chance",
    );
    expect(clicksTitle(figures([15], { value: 0.5, low: 0.4, high: 0.7, is_sure: true }))).toContain("fewer a day");
    expect(clicksTitle(figures([1], { value: null, low: null, high: null, is_sure: false }))).toBe("1 click");
    expect(clicksTitle(figures([0, 0], sure))).toBe("No clicks in these days");
  });
  it("promises that a day that is not over is told apart from those that are compared", () => {
    const ratio = { value: 1.5, low: 1.2, high: 1.9, is_sure: false };
    expect(clicksTitle(figures([10, 5, 2], ratio, 2))).toMatch(/^15 clicks and 2 today so far; /);
    expect(clicksTitle(figures([0, 0, 1], ratio, 2))).toBe("1 click today so far");
  });
  it("promises to say when a link's clicks came", () => {
    expect(ageTitle([{ hours: 24, count: 80 }], 100)).toContain("first day");
    expect(ageTitle([{ hours: 24, count: 10 }], 100)).toContain("lives on");
    expect(ageTitle([], 100)).toBe("Clicks by the link's age");
    expect([hoursName(1), hoursName(3), hoursName(24), hoursName(168)]).toEqual([
      "1 hour",
      "3 hours",
      "1 day",
      "7 days",
    ]);
  });
  it("promises no busiest hour where there are a handful of clicks", () => {
    const hours = Array.from({ length: 7 }, () => Array<number>(24).fill(0));
    (hours[2] as number[])[20] = 4;
    expect(busiest(hours)).toBeNull();
    (hours[2] as number[])[20] = 9;
    expect(busiest(hours)).toEqual({ weekday: 2, hour: 20, count: 9 });
  });
});
