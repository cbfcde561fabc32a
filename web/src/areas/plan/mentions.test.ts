import { describe, expect, it } from "vitest";
import type { Schemas } from "../../api/client";
import { begunAt, matching } from "./mentions";

const profile = (id: number, name: string, handle: string, network: string) =>
  ({ id, name, handle, network }) as Schemas["Profile"];
const PROFILES = [
  profile(1, "Gnomon Gallery", "gnomon", "brevi"),
  profile(2, "Halfmoon Planetarium", "halfmoon", "commons"),
  profile(3, "Halfmoon Planetarium", "halfmoonpl", "brevi"),
  profile(4, "Tide Hall", "the.moon", "brevi"),
  profile(5, "Halfmoon Planetarium", "halfmoonpl", "pictor"),
];

describe("whom one can mean", () => {
  it("promises a handle to be begun behind a space or a sign alone, up to where one writes", () => {
    expect(begunAt("With @hal and more", 9)).toEqual({ from: 5, letters: "hal" });
    expect(begunAt("(@", 2)).toEqual({ from: 1, letters: "" });
    expect(begunAt("@γνώμων", 7)).toEqual({ from: 0, letters: "γνώμων" });
    expect(begunAt("mira@ninth", 10)).toBeNull();
    expect(begunAt("With @hal and", 13)).toBeNull();
    expect(begunAt("https://pictor.example/@gn", 26)).toBeNull();
  });

  it("promises those who begin so first, and on a network only those who are there", () => {
    expect(matching(PROFILES, "moon").map((one) => one.id)).toEqual([3, 2, 4]);
    expect(matching(PROFILES, "moonpl")[0]?.networks).toEqual(["brevi", "pictor"]);
    expect(matching(PROFILES, "HALF", "brevi").map((one) => one.id)).toEqual([3]);
    expect(matching(PROFILES, "", "commons").map((one) => one.id)).toEqual([2]);
    expect(matching(PROFILES, "zz")).toEqual([]);
  });
});
