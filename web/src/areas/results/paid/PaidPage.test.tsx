// @vitest-environment happy-dom
import { describe, expect, it } from "vitest";
import { Refusal, rowOf, sample, screen, screenAt, waitFor, within } from "../../../testing";

const LIMIT = { cents: 10_000, currency: "EUR", told_in: "EUR", edition: 3, month: "2026-11-01", left: 4200 };
const BOOST = sample("Boost", {
  id: 5,
  state: "running",
  post: 31,
  text: "The roof opens at nine tonight",
  network: "commons",
  campaign: null,
  cents: 2000,
  spent: 1240,
  currency: "EUR",
  starts_at: "2026-11-24T09:00:00Z",
  ends_at: "2026-11-29T09:00:00Z",
  seen_at: "2026-11-25T09:00:00Z",
  countries: ["PT"],
  ages: [],
  error: "",
  impressions: 3100,
  link_clicks: 33,
  clicks: 31,
  conversions: 2,
  value: 1800,
  per_thousand: 400,
  per_click: 40,
  per_click_interval: { low: 28, high: 58 },
  per_conversion: 620,
  per_conversion_interval: { low: 171, high: 5120 },
  organic: { impressions: 900, interactions: 40, link_clicks: 3 },
});
const metric = (key: string, value: number | null, unit = "count") => ({
  key,
  name: key,
  unit,
  now: { value, n: 1, missing: 0 },
});
const ANSWERS = {
  "GET //networks": [sample("Network", { key: "commons", name: "Commons", monogram: "Co" })],
  "GET /plan/boosts": { boosts: [BOOST], next: null, limit: LIMIT },
  "GET /results/summary": sample("Summary", {
    metrics: [
      metric("impressions", 3000),
      metric("paid_impressions", 1000),
      metric("spend", 12.4, "money"),
      metric("cost_per_click", null, "money"),
    ] as never,
  }),
};

describe("what was paid for", () => {
  it("promises the paid beside what came by itself, never added up, and costs with their intervals", async () => {
    screenAt("results/paid", ANSWERS);
    const split = await screen.findByRole("table", { name: /By itself and paid for/ });
    const impressions = within(split).getByRole("row", { name: /Impressions/ });
    expect(impressions.textContent).toContain("3,000");
    expect(impressions.textContent).toContain("1,000");
    expect(impressions.textContent).toContain("25");
    expect(split.textContent).not.toContain("4,000");
    const row = rowOf("The roof opens at nine tonight");
    expect(row.textContent).toContain("12.40 EUR of 20.00");
    expect(row.textContent).toContain("900 by itself");
    expect(row.textContent).toContain("0.28 to 0.58");
    expect(row.textContent).toContain("1.71 to 51.20");
  });

  it("promises that a boost is stopped where it stands", async () => {
    const { user, server } = screenAt("results/paid", {
      ...ANSWERS,
      "POST /plan/boosts/5/stop": { ...BOOST, state: "stopping" },
    });
    await user.click(await screen.findByRole("button", { name: "Stop it" }));
    await waitFor(() => expect(server.sent("POST /plan/boosts/5/stop")).toHaveLength(1));
  });

  it("promises a limit of the edition that was read, in cents", async () => {
    const { user, server } = screenAt("results/paid", { ...ANSWERS, "PUT /plan/boosts/limit": LIMIT });
    await user.click(await screen.findByRole("button", { name: "Another limit" }));
    const field = await screen.findByLabelText(/All boosts of a month/);
    await user.clear(field);
    await user.type(field, "150,5");
    await user.click(screen.getByRole("button", { name: "Keep it" }));
    await waitFor(() =>
      expect(server.sent("PUT /plan/boosts/limit")[0]?.body).toEqual({ cents: 15_050, currency: "EUR", edition: 3 }),
    );
  });

  it("promises whoever may not spend no button for it", async () => {
    screenAt("results/paid", ANSWERS, "viewer");
    expect(await screen.findByText("The roof opens at nine tonight")).toBeTruthy();
    expect(screen.queryByRole("button", { name: /Stop it|Another limit/ })).toBeNull();
  });

  it("promises to say how to begin where nothing was boosted", async () => {
    screenAt("results/paid", {
      ...ANSWERS,
      "GET /plan/boosts": { boosts: [], next: null, limit: { ...LIMIT, cents: null, edition: 0, left: 0 } },
    });
    expect(await screen.findByText("Nothing was boosted yet")).toBeTruthy();
    expect(screen.getByText(/nothing is boosted without a limit/)).toBeTruthy();
  });
});

describe("boosting a post", () => {
  const TERMS = sample("BoostTerms", {
    reason: "",
    page: "https://orrery.example/tickets",
    limit: LIMIT,
    currency: "EUR",
    least_cents: 500,
    most_cents: 500_000,
    most_days: 30,
    countries: ["PT", "BR"],
    ages: ["18-24"],
  });
  const show = (answers: object = {}) =>
    screenAt("results/posts/31", {
      "GET //networks": ANSWERS["GET //networks"],
      "GET /results/posts/31": sample("PostDetail", {
        id: 31,
        network: "commons",
        format: "image",
        is_own: true,
        published_at: "2026-11-10T18:30:00Z",
        ages: [{ age_hours: 0, impressions: 900, interactions: 40, typical: 30, index: null }] as never,
        readings: [],
      }),
      "GET /foresight/posts/31": sample("PostOutlook"),
      "GET /links": sample("Links"),
      "GET /sources/posts/31/comments": [],
      "GET /plan/boosts": { boosts: [{ ...BOOST, state: "ended" }], next: null, limit: LIMIT },
      "GET /plan/boosts/terms/31": TERMS,
      ...answers,
    });

  it("promises what was paid for apart from every other figure of the page", async () => {
    show();
    const part = await screen.findByRole("region", { name: "Paid for" });
    expect(part.textContent).toContain("Shown 3,100 times for money, beside 900 by itself: 77.5% of all.");
    expect(part.textContent).toContain("31 clicks, one for 0.40 EUR, 0.28 to 0.58");
  });

  it("promises what is spent at most on the button, and a network's rules beside their field", async () => {
    const { user, server } = show({
      "POST /plan/boosts": new Refusal(400, "No", { cents: ["November 2026 has 42.00 EUR left of 100.00."] }),
    });
    await user.click(await screen.findByRole("button", { name: "Boost it" }));
    await user.click(await screen.findByLabelText("Portugal"));
    const amount = screen.getByLabelText(/Budget in EUR/);
    await user.clear(amount);
    await user.type(amount, "55");
    await user.click(screen.getByRole("button", { name: /Spend up to 55.00 EUR until/ }));
    expect(await screen.findByText("November 2026 has 42.00 EUR left of 100.00.")).toBeTruthy();
    expect(server.sent("POST /plan/boosts")[0]?.body).toMatchObject({
      post: 31,
      cents: 5500,
      countries: ["PT"],
      ages: [],
      page: "https://orrery.example/tickets",
    });
  });

  it("promises why a post cannot be boosted instead of a form", async () => {
    const { user } = show({
      "GET /plan/boosts/terms/31": { ...TERMS, reason: "Brevi takes no money for posts." },
    });
    await user.click(await screen.findByRole("button", { name: "Boost it" }));
    expect(await screen.findByText("Brevi takes no money for posts.")).toBeTruthy();
    expect(screen.queryByLabelText(/Budget/)).toBeNull();
  });
});
