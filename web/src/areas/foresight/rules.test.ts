import { describe, expect, it } from "vitest";
import { sample } from "../../testing/sample";
import {
  ageWords,
  calibrationTitle,
  expectationWords,
  headingWords,
  underWayTitle,
  versusWords,
  weekWords,
  youngWords,
} from "./rules";

const young = (state: string) => sample("UnderWay", { state: state as never });

describe("what is said of young and planned posts", () => {
  it("promises a young post in one line: now, its index at its age, where it is heading", () => {
    const post = { count: 212, index: 1.4, age_hours: 5.2, heading: 900, heading_low: 640, heading_high: 1300 };
    expect(youngWords(post)).toBe("now 212, 1.40 times typical at 5 h, heading for 900 (640 to 1,300)");
    expect(youngWords({ ...post, index: null })).toContain("now 212, at 5 h");
    expect(headingWords({ heading: 305, heading_low: 305, heading_high: 305 })).toBe("at about 305 for good");
  });
  it("promises ages that are read at a glance", () => {
    expect([0.01, 0.5, 1, 36, 49, 100].map(ageWords)).toEqual(["1 min", "30 min", "1 h", "36 h", "2 d", "4 d"]);
  });
  it("promises what needs a look first, and calm where nothing does", () => {
    expect(underWayTitle([young("rising"), young("usual")])).toBe("Under way: 2 posts, 1 taking off");
    expect(underWayTitle([young("usual")])).toContain("all within what is usual at their age");
    const grown = { ...young("rising"), age_hours: 100 };
    expect(underWayTitle([young("flat"), grown])).toBe("Under way: 2 posts, 1 falling flat, 1 took off");
    expect(underWayTitle([])).toBe("Nothing is under way");
  });
  it("promises a week as a statement that can be wrong, against the week before", () => {
    const week = sample("ExpectedWeek", {
      posts: 14,
      told: 13,
      came: 8950,
      came_posts: 12,
      together: { interactions: { value: 9800, low: 7100, high: 13600 } },
    } as never);
    expect(weekWords(week)).toBe(
      "14 planned posts, 9,800 interactions expected from 13 of them, 7,100 to 13,600; the 12 posts of the week before had 8,950",
    );
    expect(weekWords({ ...week, together: { interactions: null, reach: null, link_clicks: null } })).toContain(
      "too few",
    );
    expect(expectationWords(null)).toBe("not known");
  });
  it("promises to say whether we were right by the interval, not by the figure", () => {
    const row = (coverage: number, low: number, high: number, is_honest: boolean) =>
      sample("CalibrationRow", { n: 200, coverage, low, high, is_honest });
    expect(calibrationTitle(row(0.77, 0.71, 0.83, true))).toMatch(/^As promised/);
    expect(calibrationTitle(row(0.7, 0.63, 0.76, false))).toMatch(/^Too sure of ourselves/);
    expect(calibrationTitle(row(0.9, 0.86, 0.94, false))).toMatch(/^More careful than said/);
    expect(calibrationTitle(sample("CalibrationRow", { n: 3 }))).toMatch(/^Too little is known/);
    expect(calibrationTitle(undefined)).toMatch(/^Too little/);
  });
  it("promises to say when a plain rival is the better one", () => {
    const versus = { rival: "median" as const, error: 1.5, ratio: 1.2, low: 1.1, high: 1.3, n: 90 };
    expect(versusWords({ ...versus, is_better: false, is_worse: true })).toContain("would have been nearer");
    expect(versusWords({ ...versus, ratio: 0.8, is_better: true, is_worse: false })).toMatch(/^nearer than/);
    expect(versusWords({ ...versus, high: null, is_better: false, is_worse: false })).toContain(
      "as far as can be told",
    );
  });
});
