import { describe, expect, it } from "vitest";
import { byCompetitor, coverageText, progress, readAs, remapped, sharePoints, spans } from "./rules";

describe("rules of Sources", () => {
  it("promises that a column serves one field", () => {
    const fields = [
      { key: "text", adds_up: false },
      { key: "url", adds_up: false },
      { key: "reactions", adds_up: true },
    ];
    expect(remapped({ text: [0], url: [1] }, fields, 0, "url")).toEqual({ url: [0] });
    expect(remapped({ text: [0], url: [1] }, fields, 1, "")).toEqual({ text: [0] });
  });
  it("promises that several columns of a count add up, and of anything else the last one counts", () => {
    const fields = [
      { key: "text", adds_up: false },
      { key: "reactions", adds_up: true },
    ];
    expect(remapped({ reactions: [4] }, fields, 2, "reactions")).toEqual({ reactions: [2, 4] });
    expect(remapped({ reactions: [2, 4] }, fields, 4, "text")).toEqual({ reactions: [2], text: [4] });
  });
  it("promises to say how a file was read", () => {
    expect(readAs("csv", "utf-8", ";")).toBe("utf-8, separated by semicolon");
    expect(readAs("xlsx", "", "", "Posts")).toBe("workbook, sheet Posts");
    expect(readAs("zip", "utf-8", ",", "a/posts.csv")).toBe("archive, a/posts.csv");
    expect(readAs("json", "utf-8", "")).toBe("JSON in utf-8");
  });
  it("promises that a strip of days is drawn by runs and told in words", () => {
    expect(spans("bbcpc")).toEqual([
      ["b", 0, 2],
      ["c", 2, 1],
      ["p", 3, 1],
      ["c", 4, 1],
    ]);
    expect(coverageText("bccm")).toBe("2 complete, 1 missing, 1 before it was known");
  });
  it("promises that an estimate never says that a file is done", () => {
    expect(progress({ rows_read: 120, row_count: 100, state: "running" })).toBe(0.99);
    expect(progress({ rows_read: 100, row_count: 100, state: "done" })).toBe(1);
    expect(progress({ rows_read: 0, row_count: 0, state: "running" })).toBe(0);
  });
  it("promises percentage points with their sign, and none without a before", () => {
    expect(sharePoints(0.31, 0.29)).toBe("+2.0 pp");
    expect(sharePoints(0.29, 0.31)).toBe("−2.0 pp");
    expect(sharePoints(0.3, null)).toBe("");
  });
  it("promises that one competitor's profiles stand together", () => {
    const profile = (name: string, competitor: string) => ({ name, competitor }) as never;
    const groups = byCompetitor([profile("a", "A"), profile("b", "B"), profile("a2", "A")]);
    expect(groups.map((g) => [g.name, g.profiles.length])).toEqual([
      ["A", 2],
      ["B", 1],
    ]);
  });
});
