/** Promise: among several hundred metrics one finds the one that is meant, by what is counted or by its words. */

import { describe, expect, it } from "vitest";
import { bySubject, found, matches, toldBy } from "./catalogue";
import type { Metric } from "./queries";

const metric = (key: string, name: string, more: Partial<Metric> = {}) =>
  ({ key, name, definition: `${name}.`, formula: "", measure: key, way: "total", ...more }) as Metric;

describe("finding one", () => {
  const saves = metric("save_rate", "Save rate", { definition: "Saves divided by reach.", formula: "saves / reach" });

  it("promises each of the words in its name, key, definition or formula", () => {
    expect(matches(saves, "SAVE")).toBe(true);
    expect(matches(saves, "reach divided")).toBe(true);
    expect(matches(saves, "reach clicks")).toBe(false);
    expect(matches(saves, "")).toBe(true);
  });

  it("promises the shortest name that holds the words before those that only mention them", () => {
    const all = [
      metric("a", "Likes", { definition: "Told beside comments." }),
      metric("b", "Comments of the median post"),
      metric("c", "Comments"),
    ];
    expect(found(all, "comments").map((m) => m.key)).toEqual(["c", "b", "a"]);
    expect(found(all, "median comments").map((m) => m.key)).toEqual(["b"]);
  });
});

describe("looking through them", () => {
  const catalogue = {
    ways: [
      { key: "total", name: "in all" },
      { key: "per_post", name: "per post" },
    ],
    measures: [
      { key: "comments", name: "Comments", definition: "", subject: "What people did" },
      { key: "calls", name: "Calls", definition: "", subject: "A place of one's own" },
      { key: "shares", name: "Shares", definition: "", subject: "What people did" },
    ],
  };

  it("promises each under its heading with its ways in their order, and nothing that has none", () => {
    const metrics = [
      metric("conversation", "Conversation", { measure: "comments", way: "per_post" }),
      metric("comments", "Comments", { measure: "comments", way: "total" }),
      metric("shares", "Shares", { measure: "shares", way: "total" }),
    ];
    const subjects = bySubject(catalogue, metrics);
    expect(subjects.map((s) => [s.name, s.measures.map((m) => m.key)])).toEqual([
      ["What people did", ["comments", "shares"]],
    ]);
    expect(subjects[0]?.measures[0]?.metrics.map((m) => m.key)).toEqual(["comments", "conversation"]);
  });
});

describe("who tells it", () => {
  const networks = ["commons", "brevi", "pictor"].map((key) => ({ key, name: key.toUpperCase() }));
  const told = (own: string[], over = "published") =>
    toldBy({ own_networks: own, over } as Pick<Metric, "over" | "own_networks">, networks);

  it("promises names where they are few, and that what is counted here needs none", () => {
    expect(told(["brevi"])).toBe("told by BREVI");
    expect(told(["brevi", "commons"])).toBe("told by COMMONS and BREVI");
    expect(told(["commons", "brevi", "pictor"])).toBe("told by every network");
    expect(told([])).toBe("no network tells it; a file may");
    expect(told([], "brought")).toBe("counted here");
  });
});
