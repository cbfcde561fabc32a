import { describe, expect, it } from "vitest";
import { byKind, progressWords, shareOver } from "./rules";

const DAYS = { first_day: "2026-11-01", last_day: "2026-11-20" };

describe("how a campaign stands", () => {
  it("promises a share of its days: nothing before, all after", () => {
    expect(shareOver(DAYS, "2026-10-31")).toBe(0);
    expect(shareOver(DAYS, "2026-11-11")).toBe(0.5);
    expect(shareOver(DAYS, "2026-12-24")).toBe(1);
  });
  it("promises what is reached beside the time that is gone, and no more than is known", () => {
    const goal = { ...DAYS, goal_metric: "clicks" as const, goal_amount: 400 };
    expect(progressWords(goal, 100, "2026-11-11")).toBe(
      "100 of 400 clicks on tracked links (25 %); 50 % of its days are over.",
    );
    expect(progressWords(goal, null, "2026-11-11")).toContain("not known");
    expect(progressWords({ ...DAYS, goal_metric: "", goal_amount: null }, 100, "2026-11-11")).toBe("No goal is set.");
    expect(progressWords(goal, 500, "2026-12-24")).toContain("(125 %); it is over.");
  });
  it("promises each kind beside each network that has any", () => {
    const found = byKind([
      { network: "commons", format: "image", planned: 1, published: 2 },
      { network: "brevi", format: "text", planned: 0, published: 3 },
    ]);
    expect([found.networks, found.formats]).toEqual([
      ["brevi", "commons"],
      ["image", "text"],
    ]);
    expect(found.at("image", "commons")?.published).toBe(2);
    expect(found.at("image", "brevi")).toBeUndefined();
  });
});
