import { describe, expect, it } from "vitest";
import { keptWithin } from "./keep";

const before = { queryKey: ["posts", "orrery-house", { first: "2026-10-01" }, "-reach", ""] };

describe("what stays while something else is fetched", () => {
  it("promises that another order of the same question keeps what is there", () => {
    expect(keptWithin("posts", "orrery-house", { first: "2026-10-01" })("old", before)).toBe("old");
  });

  it("promises nothing old under another brand, study or question", () => {
    expect(keptWithin("posts", "other", { first: "2026-10-01" })("old", before)).toBeUndefined();
    expect(keptWithin("posts", "orrery-house", { first: "2026-11-01" })("old", before)).toBeUndefined();
    expect(keptWithin("top", "orrery-house")("old", before)).toBeUndefined();
    expect(keptWithin("posts")("old")).toBeUndefined();
  });
});
