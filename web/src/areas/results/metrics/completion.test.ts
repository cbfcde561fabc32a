import { describe, expect, it } from "vitest";
import { completed, completions, wordAt } from "./completion";

const NAMES = ["comments", "impressions", "interactions", "reach", "reactions", "video_views"];

describe("completion in a formula", () => {
  it("promises the word that ends where the caret stands, and none after a sign", () => {
    expect(wordAt("comments / rea", 14)).toEqual({ start: 11, end: 14, text: "rea" });
    expect(wordAt("comments / rea", 8)).toEqual({ start: 0, end: 8, text: "comments" });
    expect(wordAt("comments / ", 11).text).toBe("");
    expect(wordAt("", 0)).toEqual({ start: 0, end: 0, text: "" });
    expect(wordAt("2 * video_v", 11).text).toBe("video_v");
  });
  it("promises names that begin so before those that hold it", () => {
    expect(completions("rea", NAMES)).toEqual(["reach", "reactions"]);
    expect(completions("act", NAMES)).toEqual(["interactions", "reactions"]);
    expect(completions("RE", NAMES)[0]).toBe("reach");
    expect(completions("m", NAMES).slice(0, 3)).toEqual(["min", "max", "comments"]);
  });
  it("promises silence where there is nothing to complete", () => {
    expect(completions("", NAMES)).toEqual([]);
    expect(completions("reach", NAMES)).toEqual([]);
    expect(completions("zzz", NAMES)).toEqual([]);
    expect(completions("e", NAMES, 2)).toHaveLength(2);
  });
  it("promises that a function opens its brackets with the caret inside", () => {
    const formula = "comments / ma + 1";
    const word = wordAt(formula, 13);
    expect(completed(formula, word, "max")).toEqual({ text: "comments / max() + 1", caret: 15 });
    expect(completed("rea", wordAt("rea", 3), "reach")).toEqual({ text: "reach", caret: 5 });
  });
});
