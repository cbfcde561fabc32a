import { describe, expect, it } from "vitest";
import { leadingTo } from "./leading";
import { doneWith, linesOf, partsTitle } from "./rules";

const part = (name: string, value: number, weight = 1) => ({ key: name, name, value, weight });

describe("the parts of a figure", () => {
  it("promises shares of what is added, and none where something is taken off", () => {
    const added = linesOf({ rule: "sum", unit: "count", parts: [part("a", 30), part("b", 10)] });
    expect(added.map((line) => [line.text, line.hint])).toEqual([
      ["30", "75%"],
      ["10", "25%"],
    ]);
    const taken = linesOf({ rule: "sum", unit: "count", parts: [part("gained", 30), part("lost", -10)] });
    expect(taken.map((line) => line.share)).toEqual([null, null]);
  });

  it("promises what each weighs in a mean, in the unit of the figure", () => {
    const lines = linesOf({ rule: "mean", unit: "rate", parts: [part("a", 0.5, 3), part("b", 0.1, 1)] });
    expect(lines[0]?.text).toContain("50");
    expect(lines.map((line) => line.hint)).toEqual(["weighs 75%", "weighs 25%"]);
  });

  it("promises counts above and below a rate, never percent of them", () => {
    const lines = linesOf({ rule: "ratio", unit: "rate", parts: [part("clicks", 1200), part("views", 40000)] });
    expect(lines.map((line) => line.text)).toEqual(["1,200", "40,000"]);
  });

  it("promises decimals where parts are no counts", () => {
    const lines = linesOf({ rule: "ratio", unit: "index", parts: [part("here", 1.65), part("others", 1.004)] });
    expect(lines.map((line) => line.text)).toEqual(["1.65", "1.00"]);
  });

  it("promises to say what is done with several, and nothing of one", () => {
    expect(doneWith({ rule: "ratio", parts: [part("a", 1), part("b", 2)] })).toBe("The first divided by the second");
    expect(doneWith({ rule: "sum", parts: [part("a", 1)] })).toBe("");
  });
});

describe("what parts are called", () => {
  it("promises a name for what is added, and none for the sides of a rate", () => {
    expect(partsTitle({ rule: "sum", parts_name: "network" })).toBe("Its parts, by network");
    expect(partsTitle({ rule: "ratio", parts_name: "sum" })).toBe("Its parts");
    expect(partsTitle({ rule: "sum", parts_name: "side" })).toBe("Its parts");
  });
});

describe("the way to what is behind a figure", () => {
  it("promises what is studied, and what the other asks for besides, never a profile and a network", () => {
    expect(leadingTo("house", "links", "?first=2026-11-01&sort=x&network=brevi")).toBe(
      "/house/links?first=2026-11-01&network=brevi",
    );
    expect(leadingTo("house", "results/posts?profile=3", "?network=brevi")).toBe("/house/results/posts?profile=3");
    expect(leadingTo("house", "site", "")).toBe("/house/site");
  });
});
