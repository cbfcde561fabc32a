import { describe, expect, it } from "vitest";
import { nthWords, ruleOf, ruleWords, wearWords } from "./rules";

const nth = (more: object) => ({ number: 3, posts: 12, index: 0.62, low: 0.5, high: 0.77, is_worn: true, ...more });

describe("repeating", () => {
  it("promises rules as the standard writes them, and as people say them", () => {
    expect(ruleOf({ every: 2, unit: "WEEKLY", days: ["TH", "MO"] })).toBe("FREQ=WEEKLY;INTERVAL=2;BYDAY=MO,TH");
    expect(ruleOf({ every: 1, unit: "DAILY", days: ["MO"] })).toBe("FREQ=DAILY;INTERVAL=1");
    expect(ruleWords("FREQ=WEEKLY;INTERVAL=2;BYDAY=MO,TH")).toBe("every 2 weeks on Mon, Thu");
    expect(ruleWords("FREQ=MONTHLY;INTERVAL=1")).toBe("every month");
    expect(ruleWords("FREQ=MONTHLY;BYDAY=FR;BYSETPOS=-1")).toBe("FREQ=MONTHLY;BYDAY=FR;BYSETPOS=-1");
  });

  it("promises a warning where it wears out, with its interval, and none where it may be chance", () => {
    expect(wearWords([nth({ is_worn: false }), nth({})])).toContain(
      "the third time 0.62 times the usual (0.50 to 0.77), 12 posts",
    );
    expect(wearWords([nth({ is_worn: false })])).toBeNull();
    expect(nthWords(nth({ posts: 0, index: null }))).toBe("the third time: no post");
  });
});
