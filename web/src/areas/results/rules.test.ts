import { describe, expect, it } from "vitest";
import {
  attentionApart,
  behindText,
  courseCaption,
  formOf,
  ratioText,
  secondLook,
  shares,
  span,
  stripName,
} from "./rules";

const ratio = (value: number, low: number, high: number) => ({ value, interval: { low, high } });

describe("rules of Results", () => {
  it("promises that a missing part has no share and zero does", () => {
    expect(shares([{ value: 3 }, { value: null }, { value: 1 }])).toEqual([0.75, null, 0.25]);
    expect(shares([{ value: 0 }])).toEqual([null]);
  });
  it("promises bars for what is counted by the day, lines for levels, and what somebody chose before both", () => {
    expect(formOf("posts")).toBe("bar");
    expect(formOf("reach")).toBe("line");
    expect(formOf("reach", { reach: "bar" })).toBe("bar");
  });
  it("promises that a caption says what the marks are and what a day opens", () => {
    const reach = { name: "Reach", over: "received", counted: "", adds_up: "sum" as const };
    expect(courseCaption(reach, "at 72 hours", "line", true)).toBe(
      "Reach per day, solid; the comparison period, dashed. A day opens the posts behind it; triangles mark days that stand out.",
    );
    expect(
      courseCaption({ name: "Visits", over: "brought", counted: "", adds_up: "sum" }, "at 72 hours", "bar", true),
    ).toMatch(/^Visits per day, bars;.* opens the links and referrers behind it/);
    expect(
      courseCaption(
        { name: "Index", over: "published", counted: "", adds_up: "geometric_mean" },
        "at 72 hours",
        "line",
        false,
      ),
    ).toBe(
      "Index of the posts of each day, at 72 hours, solid; the comparison period, dashed. Short marks on the axis are posts.",
    );
  });
  it("promises that two names that begin alike are told apart in the strip", () => {
    expect(stripName("Engagement by reach")).toBe("Eng. by reach");
    expect(stripName("Interactions per post")).toBe("Inter. per post");
    expect(stripName("Reach")).toBe("Reach");
    expect(stripName("Link clicks of the median post")).toBe("Median link clicks");
    expect(stripName("Most comments of one post")).toBe("Most comments");
    expect(stripName("Change in comments")).toBe("Change, comments");
    expect(stripName("Part of all comments")).toBe("Part of comments");
    expect(stripName("Comments per 1,000 followers")).toBe("Comments per 1,000");
  });
  it("promises a range whichever end was marked first", () => {
    expect(span(2, 5)).toEqual([2, 3, 4, 5]);
    expect(span(5, 3)).toEqual([3, 4, 5]);
    expect(span(4, 4)).toEqual([4]);
  });
  it("promises intervals beside every ratio, and a dash where there is none", () => {
    expect(ratioText(ratio(1.308, 1.08, 1.6))).toBe("1.31 (1.08–1.60)");
    expect(ratioText(null)).toBe("–");
  });
  it("promises to say when holding the rest the same changes the answer", () => {
    const sure = ratio(1.5, 1.2, 1.9);
    const open = ratio(1.1, 0.9, 1.3);
    expect(secondLook(sure, open, "format")).toBe("goes away once format is held the same");
    expect(secondLook(open, sure, "format")).toContain("shows once");
    expect(secondLook(sure, ratio(0.7, 0.6, 0.9), "")).toContain("turns round");
    expect(secondLook(sure, sure, "")).toBe("");
    expect(secondLook(sure, null, "")).toBe("");
  });
});

describe("what is said of a day", () => {
  const day = {
    is_spike: true,
    is_explained: true,
    explained: 0.86,
    z: 5,
    published: 4,
    usually_published: 4,
    unusual: [],
  };
  it("promises the share that its posts make up", () => {
    expect(behindText(day)).toContain("86%");
  });
  it("promises to say when no post explains it", () => {
    expect(behindText({ ...day, is_explained: false })).toBe("No post explains this.");
  });
  it("promises to look for posts that were not published when a day falls away", () => {
    const quiet = { ...day, z: -5, published: 0, usually_published: 5 };
    expect(behindText(quiet)).toBe("0 posts were published on it or the day before; usually 5.");
    expect(behindText({ ...day, z: -5 })).toContain("As many posts");
  });
  it("promises that a day with a post far above its typical is not called usual", () => {
    const said = behindText({ ...day, is_spike: false, unusual: [{ index: 11.2 }] });
    expect(said).toBe("The day's total lies within what is usual; a post of it does not: 11.20 times its typical.");
  });
  it("promises no verdict on an ordinary day or without days around it", () => {
    expect(behindText({ ...day, is_spike: false })).toContain("within what is usual");
    expect(behindText({ ...day, z: null })).toContain("too few days");
  });
});

describe("attention and clicks apart", () => {
  const post = (id: number, interactions: number | null, clicks: number | null) => ({
    id,
    interactions,
    values: { clicks },
  });
  it("promises the loud post without clicks and the quiet one with many, and nobody in between", () => {
    const posts = [post(1, 900, 0), post(2, 500, 20), post(3, 300, 12), post(4, 200, 9), post(5, 10, 60)];
    const { quiet, busy } = attentionApart(posts);
    expect(quiet.map((p) => p.id)).toEqual([1]);
    expect(busy.map((p) => p.id)).toEqual([5]);
  });
  it("promises not to judge a post whose clicks nobody reports", () => {
    const { quiet, busy } = attentionApart([post(1, 900, null), post(2, null, 5), post(3, 5, 5)]);
    expect([...quiet, ...busy]).toEqual([]);
  });
});
