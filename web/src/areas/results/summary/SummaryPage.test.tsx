// @vitest-environment happy-dom
import { describe, expect, it } from "vitest";
import { cells, Refusal, rowOf, sample, screen, screenAt, waitFor, within } from "../../../testing";

const DAYS = 28;
const measured = (key: string, name: string, value: number | null, before: number | null, more: object = {}) =>
  sample("Measured", {
    key,
    name,
    unit: "count",
    over: "received",
    more_is_better: true,
    now: { value },
    before: { value: before },
    change: {
      difference: value === null || before === null ? null : value - before,
      relative: value === null || !before ? null : value / before - 1,
    },
    days: Array.from({ length: DAYS }, (_, i) => (value === null ? null : i)),
    days_before: Array.from({ length: DAYS }, () => 3),
    title: { text: `${name} by day` },
    ...more,
  });

const FIGURES = [
  measured("reach", "Reach", 1500, 1000, {
    networks: [
      { network: "brevi", value: 900, before: 500 },
      { network: "commons", value: 600, before: 500 },
    ],
  }),
  measured("interactions", "Interactions", 378, 420),
  measured("visits", "Visits", 0, 12, { over: "brought" }),
];
const summary = (metrics = FIGURES) =>
  sample("Summary", {
    period: { first: "2026-10-29", last: "2026-11-25", days: DAYS },
    compared: { first: "2026-10-01", last: "2026-10-28", days: DAYS },
    metrics,
  });
const ANSWERS = {
  "GET /results/summary": summary(),
  "GET /results/spikes": sample("Spikes", { is_by_day: true }),
  "GET /results/posts/top": sample("TopPosts"),
};

describe("the summary", () => {
  it("promises each figure with its change in words and sign, and the chosen one as a course", async () => {
    screenAt("results", ANSWERS);
    const reach = await screen.findByRole("button", { name: /^Reach/ });
    expect(reach.textContent).toContain("1,500");
    expect(reach.textContent).toContain("+50.0%");
    expect(reach.textContent).toContain("from 1,000");
    expect(screen.getByRole("button", { name: /^Inter/ }).textContent).toContain("−10.0%");
    expect(screen.getByRole("heading", { name: "Interactions by day" })).toBeTruthy();
  });

  it("promises that the chosen figure stands in the address, with its networks", async () => {
    const { user, address } = screenAt("results", ANSWERS);
    await user.click(await screen.findByRole("button", { name: /^Reach/ }));
    expect(address()).toContain("metric=reach");
    expect(screen.getByRole("heading", { name: "Reach by network" })).toBeTruthy();
    const brevi = rowOf("Brevi");
    expect(brevi.textContent).toContain("900");
    expect(brevi.textContent).toContain("+80.0%");
  });

  it("promises the basis of any figure: formula with its numbers, what is missing, and what lies behind", async () => {
    const { user, server } = screenAt("results", {
      ...ANSWERS,
      "GET /figures/results.course/basis": sample("FigureBasis", {
        key: "visits",
        name: "Visits",
        is_counted_here: true,
        rule: "sum",
        parts_name: "network",
        parts: [
          { key: "brevi", name: "Brevi", value: 30, weight: 1 },
          { key: "", name: "made for no network", value: 10, weight: 1 },
        ],
        behind: { path: "links", name: "The links behind it" },
        definition: "Visits to the brand's sites.",
        formula: "sum over 0 = 0",
        counted: "0 visits",
        missing: "On 2 days nothing of it was counted yet, or not both parts.",
        what: "by links and networks",
        related: [
          {
            name: "Visits of the site",
            counted: "however they came",
            value: 14,
            why: "typed in too",
            path: "site/sites",
          },
          { name: "Clicks", counted: "in posts", value: 3, why: "carried", path: "results/traffic?profile=4" },
        ],
      }),
    });
    await user.click(await screen.findByRole("button", { name: "Basis of Visits" }));
    const sheet = await screen.findByRole("dialog");
    expect(await within(sheet).findByText("Visits by links and networks: how it is made")).toBeTruthy();
    // Figures of like names stand beside it, each with a step there.
    expect(within(sheet).getByText("14")).toBeTruthy();
    expect(
      within(sheet).getByRole("link", { name: "Visits of the site however they came" }).getAttribute("href"),
    ).toContain("/site/sites");
    expect(within(sheet).getByRole("link", { name: "Clicks in posts" }).getAttribute("href")).toContain("profile=4");
    expect(within(sheet).getByText("sum over 0 = 0")).toBeTruthy();
    expect(within(sheet).getByText("made for no network").closest("tr")?.textContent).toContain("25%");
    expect(within(sheet).getByText(/On 2 days nothing/)).toBeTruthy();
    expect(within(sheet).getByRole("link", { name: "The links behind it" }).getAttribute("href")).toContain("/links");
    expect(server.sent("GET /figures/results.course/basis")[0]?.query.get("cell")).toBe("visits");
  });

  it("promises that days as a table say the same as the chart", async () => {
    const { user } = screenAt("results?metric=reach", ANSWERS);
    await user.click(await screen.findByRole("button", { name: "as a table" }));
    expect(cells(rowOf("Thu 29 Oct"))).toEqual(expect.arrayContaining(["0", "3"]));
  });

  it("promises that a day without a value reads as none, not as zero", async () => {
    const days = [null, 5, ...Array.from({ length: DAYS - 2 }, () => 1)];
    screenAt("results?metric=reach", {
      ...ANSWERS,
      "GET /results/summary": summary([measured("reach", "Reach", 31, 30, { days })]),
    });
    const chart = await screen.findByRole("img", { name: /Reach by day/ });
    expect(chart.querySelectorAll("path").length).toBeGreaterThan(0);
    expect(chart.innerHTML).not.toContain("NaN");
  });

  it("promises words instead of an empty chart when nothing is known of the days", async () => {
    const nothing = ["reach", "interactions"].map((key) => measured(key, key, null, null));
    screenAt("results", { ...ANSWERS, "GET /results/summary": summary(nothing) });
    expect(await screen.findByText("Nothing is known of these days")).toBeTruthy();
  });

  it("promises that a failure says what happened and that trying again may help", async () => {
    let count = 0;
    const { user } = screenAt("results", {
      ...ANSWERS,
      "GET /results/summary": () =>
        count++ === 0 ? new Refusal(409, "The figures are being summed anew.") : summary(),
    });
    expect(await screen.findByText("The figures are being summed anew.")).toBeTruthy();
    await user.click(screen.getByRole("button", { name: "Try again" }));
    expect(await screen.findByRole("button", { name: /^Reach/ })).toBeTruthy();
  });

  it("promises that which figures are shown is chosen and kept", async () => {
    const { user, server } = screenAt("results", {
      ...ANSWERS,
      "GET /results/metrics": sample("Catalogue", {
        metrics: ["reach", "interactions", "save_rate"].map((key) => ({
          key,
          name: key.replace("_", " "),
          measure: key.split("_")[0],
          is_team: false,
        })),
        measures: [{ key: "save", name: "Saves", definition: "", subject: "What people did" }],
      }),
      "PUT /preferences/summary": ({ body }: { body: unknown }) => body,
    });
    await user.click(await screen.findByRole("button", { name: "Choose figures" }));
    const sheet = await screen.findByRole("dialog");
    await user.click(await within(sheet).findByRole("button", { name: /Saves/ }));
    await user.click(await within(sheet).findByRole("checkbox", { name: /save rate/ }));
    await waitFor(() => expect(server.sent("PUT /preferences/summary")).toHaveLength(1));
    const kept = server.sent("PUT /preferences/summary")[0]?.body as { value: string[] };
    expect(kept.value).toContain("save_rate");
    await waitFor(() =>
      expect(server.sent("GET /results/summary").at(-1)?.query.get("metrics")).toContain("save_rate"),
    );
  });
});
