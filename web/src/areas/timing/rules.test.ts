import { describe, expect, it } from "vitest";
import type { Week } from "./queries";
import {
  apartWords,
  axisReach,
  clockWords,
  gainWords,
  groupsWords,
  headline,
  heldSentence,
  hourName,
  otherClocks,
  ownWay,
  postsBehind,
  ranked,
  stretchName,
  stretchWords,
} from "./rules";

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
  chosen: [{ id: 1, name: "A", network: "commons", is_own: true }],
  profiles: [],
  of: "interactions",
  wanted: [
    { key: "interactions", name: "interactions", least: 0 },
    { key: "conversions", name: "conversions", least: 100 },
  ],
  audience_zones: [],
  groups: [],
  groups_by: "",
  presence_week: null,
  counted: 5000,
  stands_by: "posts",
  made_at: "2026-11-25T10:00:00Z",
  is_stale: false,
  posts_at: null,
  audience_at: null,
  free: [],
  missed: [],
  crowded: [],
  held: null,
  zone: "UTC",
  brand_zone: "UTC",
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
  planned: [],
  ...patch,
});

describe("rules of Timing", () => {
  it("promises that no hour is praised when chance explains the data", () => {
    expect(headline(week({ has_effect: false }))).toBe("No hour can be told from chance yet");
    expect(headline(week({ stands_by: "presence", posts_used: 12 }))).toContain("12 of the 30");
    expect(headline(week({ of: "conversions", counted: 12 }))).toContain("12 of the 100");
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
  const held = {
    since: "2026-09-01T00:00:00Z",
    older: 300,
    newer: 120,
    weeks: 9,
    gain: 1.2,
    low: 1.08,
    high: 1.34,
    claimed: 1.15,
    slope: 1.3,
    is_shown: true,
    hours: [],
    thirds: [],
  };
  it("promises a held-out sentence that says no more than its interval", () => {
    expect(heldSentence(held)).toContain("It held");
    expect(heldSentence(held)).toContain("1.20 times as well as all (1.08 to 1.34, 95 %)");
    expect(heldSentence({ ...held, is_shown: false, low: 0.9 })).toContain("No gain can be shown");
    expect(heldSentence({ ...held, gain: null })).toContain("Too little");
    expect(heldSentence(null)).toContain("Too little");
  });
  it("promises stretches by their hours, with what is not known left unsaid", () => {
    const stretch = { first: 24 + 21, hours: 3, index: 1.2, low: 1.05, high: 1.4, presence: 0.9, posts: 0 };
    expect(stretchName(stretch)).toBe("Tue 21:00–00:00");
    expect(stretchWords(stretch)).toBe("1.20 times the usual (1.05 to 1.40, 80 %), 90% of the busiest hour are there");
    expect(stretchWords({ ...stretch, index: null, low: null, high: null, presence: null })).toContain("not known");
  });
  it("promises to say who the audience is and when posts and audience are apart, over midnight too", () => {
    const zones = [
      { zone: "Europe/Lisbon", share: 0.7 },
      { zone: "America/Sao_Paulo", share: 0.3 },
    ];
    expect(groupsWords(zones)).toBe("7 in 10 Lisbon, 3 in 10 Sao Paulo");
    expect(apartWords(week({ posts_at: 14.5, audience_at: 20 }))).toContain("14:30, the audience around 20:00");
    expect(apartWords(week({ posts_at: 23.5, audience_at: 0.5 }))).toBe("");
    expect(apartWords(week({ posts_at: 23, audience_at: 3 }))).not.toBe("");
    expect(apartWords(week({ posts_at: null, audience_at: 3 }))).toBe("");
  });
  it("promises the audience's clocks beside ours, right in the week in which only one of two changes", () => {
    const groups = ["Europe/Lisbon", "America/Sao_Paulo", "Asia/Kolkata"].map((zone) => ({
      zone,
      share: 0.3,
      countries: [],
      presence: [],
    }));
    const at = (presence_week: string) =>
      otherClocks(week({ zone: "Europe/Lisbon", groups, presence_week })).map(clockWords);
    expect(at("2026-11-30")).toEqual(["Sao Paulo, 3 h behind", "Kolkata, 5.5 h ahead"]);
    expect(at("2026-03-23")).toEqual([
      "Sao Paulo, 3 h behind, 4 h behind from Sun",
      "Kolkata, 5.5 h ahead, 4.5 h ahead from Sun",
    ]);
    expect(otherClocks(week({ groups }))).toEqual([]);
  });
  it("promises a ranking by the lower end, so that little evidence ranks low", () => {
    const hours = week({}).hours.map((h, i) => (i === 3 ? { ...h, index: 2, low80: 0.7 } : h));
    expect(ranked(week({ hours }))[0]).toBe(44);
    expect(ranked(week({ hours }))).not.toContain(3);
  });
  it("promises gains with their interval, losses with a sign", () => {
    expect(gainWords({ ratio: 1.12, low: 1.02, high: 1.23 })).toBe("+12 % expected (2 to 23 %, 80 %)");
    expect(gainWords({ ratio: 0.95, low: 0.9, high: 1.01 })).toBe("−5 % expected (−10 to 1 %, 80 %)");
  });
  it("promises an axis that holds the curves", () => {
    expect(axisReach(week({}))).toBeGreaterThanOrEqual(Math.log(4 / 3));
    expect(axisReach(week({ hours: week({}).hours.map(() => hour(2)) }))).toBeGreaterThanOrEqual(Math.log(2.2) - 1e-9);
  });
});
