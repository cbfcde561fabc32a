// @vitest-environment happy-dom
import { describe, expect, it } from "vitest";
import { cells, rowOf, sample, screen, screenAt, within } from "../../../testing";
import { against, largest } from "./rules";

const made = (more: object = {}) =>
  sample("Decomposition", {
    key: "interactions",
    name: "Interactions",
    unit: "count",
    more_is_better: true,
    what: "posts",
    now: 46_830,
    before: 48_213,
    change: -1383,
    reason: "",
    title: "Interactions fell by 1,383: there were fewer posts (−2,100), a post brought more (+717)",
    weight: "posts",
    note: "2 posts of the comparison tell nothing of it and are left out.",
    factors: [
      { key: "number", contribution: -2100, now: 38, before: 47 },
      { key: "size", contribution: 717, now: 1203, before: 1020.5 },
    ],
    networks: [
      { key: "brevi", now: 900, before: 3000, contribution: -2100, weight_now: 3, weight_before: 9 },
      { key: "commons", now: 45_930, before: 45_213, contribution: 717, weight_now: 35, weight_before: 38 },
    ],
    formats: [
      { key: "image", now: 900, before: 3000, contribution: -2100, weight_now: 3, weight_before: 9 },
      { key: "text", now: 45_930, before: 45_213, contribution: 717, weight_now: 35, weight_before: 38 },
    ],
    items: [
      {
        id: 7,
        name: "It strikes again",
        network: "brevi",
        when: "before",
        published_at: "2026-10-04T10:00:00Z",
        now: null,
        before: 1500,
        contribution: -1500,
      },
    ],
    rest: 61,
    rest_contribution: 117,
    ...more,
  });
const open = (found: object) =>
  screenAt("results/difference?metric=interactions", {
    "GET /results/decomposition": found,
    "GET /results/summary": sample("Summary", {
      metrics: [sample("Measured", { key: "interactions", name: "Interactions", unit: "count", today: 12 })],
    }),
  });

describe("what made the difference", () => {
  it("promises ways, networks and formats with what each adds, and one step from each to what it is made of", async () => {
    const { user, address } = open(made());
    expect(await screen.findByRole("heading", { name: /Interactions fell by 1,383/ })).toBeTruthy();
    expect(cells(rowOf("Number of posts"))).toEqual(expect.arrayContaining(["38 against 47", "−2,100"]));
    expect(screen.getByRole("link", { name: "Number of posts" }).getAttribute("href")).toContain("/results/posts");
    expect(cells(rowOf("What a post brought"))).toEqual(expect.arrayContaining(["1,203.0 against 1,020.5"]));
    const networks = screen.getByRole("table", { name: "By network" });
    expect(within(networks).getByText("3, was 9")).toBeTruthy();
    await user.click(within(networks).getByRole("button", { name: "Brevi" }));
    expect(address()).toContain("network=brevi");
  });

  it("promises the posts that hold most of it, those of both periods, and the others as one", async () => {
    open(made());
    const post = await screen.findByRole("link", { name: "It strikes again" });
    expect(post.getAttribute("href")).toContain("/results/posts/7");
    expect(cells(rowOf("It strikes again"))).toEqual(expect.arrayContaining(["4 Oct", "−1,500"]));
    expect(cells(rowOf("61 other posts together"))).toContain("+117");
  });

  it("promises a reason instead of a table where there is no change to take apart", async () => {
    open(
      made({ reason: "Nothing is known of the comparison, so that there is no change to take apart.", change: null }),
    );
    expect(await screen.findByText("Interactions cannot be taken apart")).toBeTruthy();
    expect(screen.getByText(/Nothing is known of the comparison/)).toBeTruthy();
  });

  it("promises that today stands apart from what is compared", async () => {
    open(made());
    expect(await screen.findByText("today 12")).toBeTruthy();
  });

  it("promises points for rates and shares for what they weigh", async () => {
    open(
      made({
        unit: "rate",
        name: "Engagement by reach",
        weight: "share",
        change: 0.012,
        factors: [{ key: "rate", contribution: 0.012, now: null, before: null }],
        networks: [
          { key: "brevi", now: 0.04, before: 0.03, contribution: 0.012, weight_now: 0.25, weight_before: 0.5 },
          { key: "commons", now: 0.02, before: 0.02, contribution: 0, weight_now: 0.75, weight_before: 0.5 },
        ],
      }),
    );
    expect(await screen.findByText("25.0%, was 50.0%")).toBeTruthy();
    expect(cells(rowOf("The rate itself")).join(" ")).toContain("+1.20 pp");
  });
});

describe("rules", () => {
  it("promises both sides or nothing, and one scale for all bars", () => {
    expect(against(null, null, "count")).toBe("");
    expect(against(3, null, "count")).toBe("3 against –");
    expect(largest([{ contribution: -4 }, { contribution: 2 }])).toBe(4);
  });
});
