import { describe, expect, it } from "vitest";
import type { Week } from "./queries";
import { axisReach, headline, hourName, missedHours, ownWay, postsBehind } from "./rules";

const hour = (index: number, certainty: "sure" | "likely" | "open" = "open") => ({
  index,
  low80: index * 0.9,
  high80: index * 1.1,
  low95: index * 0.8,
  high95: index * 1.2,
  nearby: 3,
  from_posts: 0.5,
  certainty,
});
const week = (patch: Partial<Week>): Week => ({
  profile: { id: 1, name: "A", network: "commons", is_own: true },
  profiles: [],
  zone: "UTC",
  brand_zone: "UTC",
  zones: [],
  age_hours: 72,
  untimed: 0,
  posts_used: 100,
  pooled: 1,
  pooled_posts: 100,
  alone: 0,
  has_effect: true,
  odds: 9,
  hours: Array.from({ length: 168 }, (_, i) => hour(i === 44 ? 1.6 : 1, i === 44 ? "sure" : "open")),
  presence: Array.from({ length: 168 }, (_, i) => (i === 20 ? 1 : 0.2)),
  ticks: [],
  proposals: [],
  planned: [],
  ...patch,
});

describe("rules of Timing", () => {
  it("promises that no hour is praised when chance explains the data", () => {
    expect(headline(week({ has_effect: false }))).toBe("No hour can be told from chance yet");
    expect(headline(week({ hours: [], posts_used: 12 }))).toContain("12 of the 30");
  });
  it("promises to name the hour and how sure it is", () => {
    expect(headline(week({}))).toBe("Around Tue 20:00 a post gets 1.60 times the usual (1.28 to 1.92, 95 %)");
  });
  it("promises no single hour where none stands out", () => {
    const open = week({}).hours.map((h) => ({ ...h, certainty: "open" as const }));
    expect(headline(week({ hours: open }))).toContain("no single one stands out");
  });
  it("promises to say what it rests on, and whether the profile goes with the others", () => {
    expect(postsBehind(week({}))).toBe("100 posts");
    expect(postsBehind(week({ pooled: 3, pooled_posts: 340 }))).toBe(
      "100 posts of its own and 240 posts of 2 profiles more",
    );
    expect(ownWay(week({ pooled: 3, alone: 0.9 }))).toContain("go their own way");
    expect(ownWay(week({ pooled: 3, alone: 0.05 }))).toContain("much like those of the other profiles");
    expect(ownWay(week({}))).toBe("");
  });
  it("promises hours in the order of the ISO week", () => {
    expect(hourName(0)).toBe("Mon 00:00");
    expect(hourName(167.5)).toBe("Sun 23:30");
  });
  it("promises that an hour at which we were is not missed", () => {
    expect(missedHours(week({}))).toEqual([{ hour: 20, presence: 1 }]);
    expect(missedHours(week({ ticks: [{ id: 1, hour: 20.5, index: 1, text: "" }] }))).toEqual([]);
  });
  it("promises an axis that holds the curves", () => {
    expect(axisReach(week({}))).toBeGreaterThanOrEqual(Math.log(4 / 3));
    expect(axisReach(week({ hours: week({}).hours.map(() => hour(2)) }))).toBeGreaterThanOrEqual(Math.log(2.2) - 1e-9);
  });
});
