import { describe, expect, it } from "vitest";
import { completed, completions, wordAt } from "./completion";

const NAMES = ["comments", "impressions", "interactions", "link_clicks", "reach", "reactions"];

describe("completion in a formula", () => {
  it("promises the word that ends at the caret, and nothing elsewhere", () => {
    expect(wordAt("interactions / rea", 18)).toEqual({ start: 15, end: 18, text: "rea" });
    expect(wordAt("interactions / rea", 8)).toEqual({ start: 0, end: 8, text: "interact" });
    expect(wordAt("interactions / ", 15).text).toBe("");
    expect(wordAt("2 * 34", 6).text).toBe("");
  });
  it("promises names that begin so before names that hold it", () => {
    expect(completions("rea", NAMES)).toEqual(["reach", "reactions"]);
    expect(completions("cli", NAMES)).toEqual(["link_clicks"]);
    expect(completions("M", NAMES)).toEqual(["min", "max", "comments", "impressions"]);
  });
  it("promises silence for a whole name and for none", () => {
    expect(completions("reach", NAMES)).toEqual([]);
    expect(completions("", NAMES)).toEqual([]);
    expect(completions("xyz", NAMES)).toEqual([]);
  });
  it("promises the caret after a name and inside the brackets of a function", () => {
    const text = "inter / 2";
    expect(completed(text, wordAt(text, 5), "interactions")).toEqual({ text: "interactions / 2", caret: 12 });
    expect(completed("ma", wordAt("ma", 2), "max")).toEqual({ text: "max()", caret: 4 });
  });
});
