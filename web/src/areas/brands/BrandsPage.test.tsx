// @vitest-environment happy-dom
import { describe, expect, it } from "vitest";
import { type Answers, cells, Held, Refusal, sample, screen, screenAt, waitFor } from "../../testing";
import { brandsTitle, type Row, sorted } from "./rules";

const figure = (key: string, value: number | null, relative: number | null, unit = "count") => ({
  key,
  name: key,
  unit,
  more_is_better: true,
  value,
  before: null,
  difference: relative === null ? null : 1,
  relative,
});
const overview = (reach: number, relative: number | null, more: object = {}) =>
  sample("Overview", {
    time_zone: "Europe/Lisbon",
    figures: [
      figure("reach", reach, relative),
      figure("followers", 5000, 0.03),
      figure("er_reach", 0.071, null, "rate"),
    ],
    findings: 0,
    stands_out: null,
    planned: { count: 0, next_at: null, next_title: "" },
    hands: [],
    ...more,
  });
const SESSION = sample("Session", {
  name: "Mira",
  email: "mira@ninthbell.example",
  brands: [
    { slug: "orrery-house", name: "Orrery House", role: "admin" },
    { slug: "lantern-line", name: "Lantern Line", role: "viewer" },
  ] as never,
});
const open = (answers: Answers, at = "brands") => screenAt(at, { "GET //session": SESSION, ...answers });
const names = () =>
  screen
    .getAllByRole("row")
    .slice(1)
    .map((row) => cells(row)[0]);

describe("all brands on one screen", () => {
  const lapsed = { hands: [{ text: "1 authorisation has lapsed", path: "sources/health" }] };

  it("promises first the brand that needs a hand, and one step into it and to what is wrong", async () => {
    open({
      "GET /overview": overview(437_824, 0.308),
      "GET //brands/lantern-line/overview": overview(198_006, 0.012, lapsed),
    });
    expect(await screen.findByRole("heading", { name: "Lantern Line needs a hand" })).toBeTruthy();
    expect(names()).toEqual([expect.stringContaining("Lantern Line"), "Orrery House"]);
    const step = screen.getByRole("link", { name: "1 authorisation has lapsed" });
    expect(step.getAttribute("href")).toBe("/lantern-line/sources/health");
    expect(screen.getByRole("link", { name: "437,824" }).getAttribute("href")).toBe(
      "/orrery-house/results?metric=reach",
    );
    expect(screen.getByText("+30.8%")).toBeTruthy();
  });

  it("promises that a figure sorts by how it changed, or by its size, and that the address keeps it", async () => {
    const { user } = open({
      "GET /overview": overview(437_824, 0.012),
      "GET //brands/lantern-line/overview": overview(198_006, 0.308),
    });
    await screen.findByText("437,824");
    await user.click(screen.getByRole("button", { name: "Reach" }));
    expect(names()[0]).toContain("Lantern Line");
    expect(location.search).toContain("sort=-reach");
    await user.click(screen.getByRole("button", { name: "Figures sort by" }));
    await user.click(await screen.findByRole("menuitemradio", { name: "its size" }));
    await waitFor(() => expect(names()[0]).toBe("Orrery House"));
  });

  it("promises that a brand that cannot be shown says so and holds up no other", async () => {
    const late = new Held();
    open({ "GET /overview": late, "GET //brands/lantern-line/overview": new Refusal(503, "The database is away.") });
    expect(await screen.findByText(/The database is away/)).toBeTruthy();
    expect(screen.getByRole("status", { name: "Loading Orrery House" })).toBeTruthy();
    late.answer(overview(437_824, 0.3));
    expect(await screen.findByText("437,824")).toBeTruthy();
    expect(screen.getByRole("button", { name: "Try again" })).toBeTruthy();
  });
});

describe("the order of brands", () => {
  const row = (name: string, reach: number | null, relative: number | null = null): Row => ({
    slug: name,
    name,
    overview: reach === null && relative === null ? undefined : overview(reach as number, relative),
  });

  it("promises what is not known last, whichever way round", () => {
    const rows = [row("a", null), row("b", 3), row("c", 7)];
    expect(sorted(rows, "-reach", "size").map((one) => one.name)).toEqual(["c", "b", "a"]);
    expect(sorted(rows, "reach", "size").map((one) => one.name)).toEqual(["b", "c", "a"]);
  });

  it("promises alike ones by name, and a sentence only once all are there", () => {
    const rows = [row("b", 3), row("a", 3)];
    expect(sorted(rows, "-reach", "size").map((one) => one.name)).toEqual(["a", "b"]);
    expect(brandsTitle(rows)).toBe("No brand needs a hand");
    expect(brandsTitle([...rows, row("c", null)])).toBe("All brands");
  });
});
