import { describe, expect, it } from "vitest";
import { moodWords, tagsIn, timesWords, usesWords, warnings } from "./rules";

const seen = (more: object = {}) =>
  ({
    network: "commons",
    at: "",
    uses: 512_000,
    week: 4_100,
    warm: 0.61,
    cold: 0.1,
    is_restricted: false,
    problem: "",
    ...more,
  }) as never;
const nameOf = (key: string) => key[0]?.toUpperCase() + key.slice(1);

describe("what is said of hashtags", () => {
  it("promises uses with where they were counted, and nobody where nobody is", () => {
    expect(usesWords({ seen: [seen({ network: "brevi", uses: 90, week: null }), seen()] }, nameOf)).toBe(
      "512k on Commons (4.1k in the last week), 90 on Brevi",
    );
    expect(usesWords({ seen: [seen({ uses: null })] }, nameOf)).toBe("nobody on Commons");
    expect(usesWords({ seen: [seen({ uses: null, problem: "away" })] }, nameOf)).toBe("Commons would not tell");
    expect(moodWords({ seen: [seen(), seen({ warm: null })] }, nameOf)).toBe("61% warm, 10% cold on Commons");
  });

  it("promises a warning for what networks hide and for what has worn out, and none else", () => {
    const wear = { times: 0.6, low: 0.4, high: 0.9, recent: 10, earlier: 30, is_worn: true };
    expect(warnings({ seen: [seen({ is_restricted: true })], wear }, nameOf)).toEqual([
      "hidden by Commons",
      "worn out: the last 10 posts got 0.60 times (0.40–0.90) those before",
    ]);
    expect(warnings({ seen: [seen()], wear: { ...wear, is_worn: false } }, nameOf)).toEqual([]);
  });

  it("promises an interval beside each figure, and a dash where there is none", () => {
    expect(timesWords(null)).toBe("–");
    expect(timesWords({ posts: 9, index: 1, verdict: "open", times: 1.2, low: 0.9, high: 1.6 })).toBe(
      "1.20 (0.90–1.60)",
    );
  });

  it("promises hashtags however they are typed", () => {
    expect(tagsIn("#Night sky,#night ; ночь #")).toEqual(["night", "sky", "ночь"]);
  });
});
