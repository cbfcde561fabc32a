import { describe, expect, it } from "vitest";
import type { Review } from "./queries";
import { aboutWords, alike, changedBeside, inOrder, logWords, type SeenVersion, standingWords } from "./rules";

const version = (patch: Partial<SeenVersion> = {}): SeenVersion => ({
  profile: 1,
  name: "Orrery House",
  network: "commons",
  text: "Doors at eight",
  headline: "",
  first_comment: "",
  media: [],
  ...patch,
});

describe("a post under review", () => {
  it("promises whose yes is waited for, and which of how many", () => {
    expect(standingWords({ state: "in_review", steps: ["analyst", "guest"], step: 1 })).toBe(
      "It waits for the yes of a guest (2 of 2).",
    );
    expect(standingWords({ state: "in_review", steps: ["approver"], step: 0 })).toBe(
      "It waits for the yes of an approver.",
    );
    expect(standingWords({ state: "draft", steps: [], step: null })).toContain("Nobody has to say yes");
  });
  it("promises versions that read the same once, and those that differ apart", () => {
    const found = alike([version(), version({ profile: 2 }), version({ profile: 3, text: "Other" })]);
    expect(found.map((one) => one.of.map((v) => v.profile))).toEqual([[1, 2], [3]]);
  });
  it("promises what changed beside the words", () => {
    expect(changedBeside(version(), version())).toEqual([]);
    expect(changedBeside(undefined, version())).toHaveLength(1);
    expect(changedBeside(version({ headline: "A", media: [1] }), version({ media: [2] }))).toHaveLength(2);
  });
  it("promises what something is said about, and nothing where it is all of it", () => {
    const now = {
      at: null,
      versions: [version({ media: [7, 8] }), version({ profile: 2, network: "brevi", text: "B" })],
    };
    const names = { commons: "Commons", brevi: "Brevi" };
    expect(aboutWords({ now }, { asset: 8, profile_id: 1 }, names)).toBe("about picture 2 for Commons");
    expect(aboutWords({ now }, { asset: 9, profile_id: null }, names)).toBe("about a picture that is gone");
    expect(aboutWords({ now }, { profile_id: 2 }, names)).toBe("about the version for Brevi");
    expect(aboutWords({ now }, { profile_id: 2, quote: "B" }, names)).toBe("");
    expect(aboutWords({ now }, { profile_id: null, asset: null }, names)).toBe("");
  });
  it("promises what was said in its order", () => {
    const review = {
      verdicts: [{ at: "2026-11-02" }, { at: "2026-11-04" }],
      remarks: [{ at: "2026-11-03" }],
    } as unknown as Review;
    expect(inOrder(review).map((one) => one.kind)).toEqual(["verdict", "remark", "verdict"]);
  });

  it("promises who did what in words, guests as such, and what went out by itself", () => {
    const entry = { when: "", who: "Ed", is_guest: false, action: "schedule_post", at: "2026-12-01", network: "" };
    const told = (more: object) => logWords({ ...entry, ...more }, (at) => `on ${at}`);
    expect(told({})).toBe("Ed set it to go out on 2026-12-01");
    expect(told({ who: "Nia", is_guest: true, action: "say_yes", at: null })).toBe("Nia (guest) said yes");
    expect(told({ who: "", action: "published", at: null, network: "Brevi" })).toBe("It went out on Brevi");
    expect(told({ who: "", action: "some_new_act", at: null })).toBe("Somebody some new act");
  });
});
