import { describe, expect, it } from "vitest";
import { onDay, place, weekDays, withLink } from "./rules";

describe("rules of Plan", () => {
  it("promises a week of seven days that holds the day, from the brand's first weekday on", () => {
    for (const first of [0, 1, 5, 6]) {
      const days = weekDays("2026-11-24", first);
      expect(days).toHaveLength(7);
      expect(days).toContain("2026-11-24");
    }
    expect(weekDays("2026-11-24", 0)[0]).toBe("2026-11-23");
    expect(weekDays("2026-11-24", 6)[0]).toBe("2026-11-22");
  });
  it("promises that posts at the same minute stand beside one another", () => {
    const items = ["10:00", "10:10", "12:00"].map((t) => ({ item: t, instant: `2026-11-24T${t}:00Z` }));
    expect(place(items, "UTC", 30).map((p) => [p.item, p.column, p.columns])).toEqual([
      ["10:00", 0, 2],
      ["10:10", 1, 2],
      ["12:00", 0, 1],
    ]);
  });
  it("promises that an instant stands on the day of the brand's zone", () => {
    const late = [{ at: "2026-11-24T23:30:00Z" }];
    expect(onDay(late, (i) => i.at, "2026-11-25", "Europe/Athens")).toHaveLength(1);
    expect(onDay(late, (i) => i.at, "2026-11-24", "Europe/Athens")).toHaveLength(0);
  });
  it("promises that a link is put in once", () => {
    const once = withLink("See you.", "http://x/l/abc");
    expect(once).toBe("See you.\nhttp://x/l/abc");
    expect(withLink(once, "http://x/l/abc")).toBe(once);
  });
});
