// @vitest-environment happy-dom
import { describe, expect, it } from "vitest";
import { sample, screen, screenAt } from "../../testing";

const post = (id: number, text: string, state: string, more: object = {}) =>
  sample("UnderWay", {
    id,
    text,
    network: "commons",
    published_at: `2026-11-25T0${id}:00:00Z`,
    age_hours: 5,
    count: 212,
    typical: 150,
    index: 1.4,
    heading: 900,
    heading_low: 640,
    heading_high: 1300,
    state: state as never,
    ...more,
  } as never);

describe("what is under way", () => {
  it("promises each post at its age with where it is heading, and leads to it", async () => {
    screenAt("foresight", { "GET /foresight/under-way": [post(1, "Sky tonight", "rising")] });
    expect(await screen.findByRole("heading", { name: "Under way: 1 post, 1 taking off" })).toBeTruthy();
    expect(screen.getByText("now 212, 1.40 times typical at 5 h, heading for 900 (640 to 1,300)")).toBeTruthy();
    expect(screen.getByRole("link", { name: "Sky tonight" }).getAttribute("href")).toContain("/results/posts/1");
  });

  it("promises words where nothing is young", async () => {
    screenAt("foresight", { "GET /foresight/under-way": [] });
    expect(await screen.findByText("No young post")).toBeTruthy();
  });
});

describe("were we right", () => {
  const row = (profile: number | null, horizon_hours: number | null, coverage: number) =>
    sample("CalibrationRow", {
      profile,
      horizon_hours,
      n: 90,
      coverage,
      low: coverage - 0.08,
      high: coverage + 0.08,
      error: 1.3,
      is_honest: Math.abs(coverage - 0.8) <= 0.08,
      versus: [{ rival: "median", error: 1.5, ratio: 1.2, low: 1.1, high: 1.3, n: 90, is_worse: true }],
    } as never);
  const told = sample("Calibration", {
    rows: [row(null, null, 0.6), row(null, 0, 0.79), row(1, 0, 0.79)],
    profiles: [{ id: 1, name: "Orrery House", network: "commons" }],
    kept: 12,
    waiting: 4,
    tried: 300,
  } as never);

  it("promises the truth of it: too sure is said so, and a rival that is nearer too", async () => {
    screenAt("foresight/calibration", { "GET /foresight/calibration": told });
    expect(await screen.findByRole("heading", { name: /^Too sure of ourselves: 60% of 90 projections/ })).toBeTruthy();
    expect(screen.getAllByText(/the median of the last ten would have been nearer/).length).toBeGreaterThan(0);
  });

  it("promises what was said at the time apart from what was tried afterwards", async () => {
    const { user, server } = screenAt("foresight/calibration", { "GET /foresight/calibration": told });
    await user.click(await screen.findByRole("button", { name: "Which projections" }));
    await user.click(await screen.findByRole("menuitemradio", { name: /said at the time/ }));
    expect(await screen.findByText(/4 more are not seven days old yet/)).toBeTruthy();
    expect(server.sent("GET /foresight/calibration").at(-1)?.query.get("tried")).toBe("false");
  });
});
