// @vitest-environment happy-dom
import { describe, expect, it } from "vitest";
import { cells, Refusal, rowOf, sample, screen, screenAt, waitFor, within } from "../../testing";

const MODEL_KEYS = ["last", "last_non_direct", "first", "linear", "position", "decay", "shapley", "markov"];

describe("sites and goals", () => {
  const sites = (more: object = {}) =>
    sample("Sites", {
      script: "https://dakika.example/visit.js",
      sites: [{ id: 1, name: "House", hosts: ["orrery.example"], key: "k123", visits: 12 }],
      goals: [{ id: 2, name: "Ticket", kind: "page", pattern: "*/thanks", cents: 1400, currency: "EUR", count: 7 }],
      ...more,
    });
  const open = (answers: object = {}, role: "editor" | "viewer" = "editor") =>
    screenAt("site/sites", { "GET /site/sites": sites(), ...answers }, role);

  it("promises the one line for the pages, and what each goal is worth", async () => {
    open();
    expect(await screen.findByText(/data-site="k123"/)).toBeTruthy();
    const ticket = cells(rowOf("Ticket"));
    expect(ticket.join(" ")).toContain("*/thanks");
    expect(ticket.at(-1)).toBe("7");
    expect(ticket.join(" ")).toMatch(/14/);
  });

  it("promises that hosts are taken one a line, and a wrong one is said beside them", async () => {
    const { user, server } = open({
      "POST /site/sites": new Refusal(400, "No.", { hosts: ["“or rery” is no host."] }),
    });
    await user.click(await screen.findByRole("button", { name: "Declare a site" }));
    const sheet = await screen.findByRole("dialog");
    await user.type(within(sheet).getByLabelText("Hosts"), "orrery.example\nshop.orrery.example");
    await user.click(within(sheet).getByRole("button", { name: "Keep the site" }));
    expect(await within(sheet).findByText("“or rery” is no host.")).toBeTruthy();
    expect(server.sent("POST /site/sites")[0]?.body).toMatchObject({
      hosts: ["orrery.example", "shop.orrery.example"],
    });
  });

  it("promises amounts with a comma or a point, kept in cents", async () => {
    const { user, server } = open({ "POST /site/goals": sample("Goal") });
    await user.click(await screen.findByRole("button", { name: "Set a goal" }));
    const sheet = await screen.findByRole("dialog");
    await user.type(within(sheet).getByLabelText("Name"), "Signup");
    await user.selectOptions(within(sheet).getByLabelText("Reached"), "event");
    await user.type(within(sheet).getByLabelText("Name of the event"), "signup");
    await user.type(within(sheet).getByLabelText("Worth"), "12,50");
    await user.click(within(sheet).getByRole("button", { name: "Keep the goal" }));
    expect(await screen.findByText("The goal is kept.")).toBeTruthy();
    expect(server.sent("POST /site/goals")[0]?.body).toMatchObject({ kind: "event", pattern: "signup", cents: 1250 });
  });

  it("promises that an archived goal keeps its count and says that it is archived", async () => {
    open({ "GET /site/sites": sites({ goals: [{ id: 2, name: "Old", kind: "page", is_archived: true, count: 3 }] }) });
    expect((await screen.findByText("archived")).closest("tr")?.textContent).toContain("3");
  });

  it("promises that access logs come in one after the other by name, and what came of each", async () => {
    const { user, server } = open({
      "GET /site/sites": sites({
        logs: [
          { id: 1, site: "House", file_name: "access.log.2.gz", state: "reading", lines: 40_000, visits: 1_200 },
          { id: 2, site: "House", file_name: "access.log", state: "done", lines: 9, visits: 4, new_visits: 3, bots: 2 },
        ],
      }),
      "POST /site/sites/1/logs": sample("AccessLog"),
    });
    expect(await screen.findByText("Being read: 40,000 lines, 1,200 visits so far.")).toBeTruthy();
    expect(screen.getByText("9 lines, 4 visits, 3 of them new; left out 2 of bots.")).toBeTruthy();
    const [second, first] = [new File(["b"], "b.log"), new File(["a"], "a.log")];
    await user.upload(screen.getByLabelText("Access logs of House"), [second, first]);
    expect(await screen.findByText("2 logs will be read. You may leave this page.")).toBeTruthy();
    expect(server.sent("POST /site/sites/1/logs").map((a) => a.body)).toEqual(["a.log", "b.log"]);
  });

  it("promises that a file that is no log is said so", async () => {
    const { user } = open({ "POST /site/sites/1/logs": new Refusal(400, "“notes.txt” is no access log.") });
    await user.upload(await screen.findByLabelText("Access logs of House"), new File(["x"], "notes.txt"));
    expect(await screen.findByText("“notes.txt” is no access log.")).toBeTruthy();
  });

  it("promises nothing to change to those who may only look", async () => {
    open({}, "viewer");
    await screen.findByText("Ticket");
    expect(screen.queryByRole("button", { name: /Declare|Set a goal|Change/ })).toBeNull();
  });
});

describe("who is credited", () => {
  const credit = (key: string, name: string, counts: number[]) => ({
    key,
    name,
    counts: Object.fromEntries(MODEL_KEYS.map((m, i) => [m, counts[i] ?? 0])),
    cents: Object.fromEntries(MODEL_KEYS.map((m, i) => [m, 100 * (counts[i] ?? 0)])),
  });
  const attribution = (more: object = {}) =>
    sample("Attribution", {
      conversions: 10,
      cents: 1000,
      currency: "EUR",
      rows: [
        credit("brevi", "brevi", [7, 6, 2, 4, 4, 5, 4, 4]),
        credit("direct", "direct", [3, 4, 8, 6, 6, 5, 6, 6]),
      ] as never,
      ...more,
    });
  const open = (answers: object = {}, path = "site/attribution") =>
    screenAt(path, {
      "GET /site/attribution": attribution(),
      "GET /site/conversions": sample("ConversionList", {
        conversions: [{ id: 5, goal: "Ticket", channel: "brevi", at: "2026-11-20T10:00:00Z" }] as never,
      }),
      "GET /site/sites": sample("Sites", { goals: [{ id: 2, name: "Ticket" }] as never }),
      ...answers,
    });

  it("promises all models side by side, from the lowest to the highest", async () => {
    open();
    const brevi = (await screen.findAllByText("Brevi")).map((e) => e.closest("tr")).find(Boolean) as HTMLElement;
    expect(within(brevi).getByRole("img").getAttribute("aria-label")).toMatch(/^2(\.0)? to 7(\.0)?$/);
    expect(screen.getByText(/together/).closest("tr")?.textContent).toContain("10");
  });

  it("promises that the look-back window and what is counted stand in the address", async () => {
    const { user, server, address } = open();
    await user.click(await screen.findByRole("button", { name: "Look-back window" }));
    await user.click(await screen.findByRole("menuitemradio", { name: "7 days" }));
    expect(address()).toContain("window=7");
    await waitFor(() => expect(server.sent("GET /site/attribution").at(-1)?.query.get("window")).toBe("7"));
  });

  it("promises that value opens its basis as numbers do", async () => {
    const { user, server } = open(
      { "GET /figures/site.attribution/basis": sample("FigureBasis") },
      "site/attribution?count=value",
    );
    const brevi = (await screen.findAllByText("Brevi")).map((e) => e.closest("tr")).find(Boolean) as HTMLElement;
    await user.click(within(brevi).getAllByRole("button")[0] as HTMLElement);
    await waitFor(() => expect(server.sent("GET /figures/site.attribution/basis")[0]?.query.get("of")).toBe("value"));
  });

  it("promises each conversion's way, and a stage set by hand", async () => {
    const { user, server } = open({
      "GET /site/conversions/5": sample("Way", {
        conversion: { id: 5, goal: "Ticket", at: "2026-11-20T10:00:00Z", cents: 1400, currency: "EUR", stage: "" },
        steps: [{ at: "2026-11-18T10:00:00Z", channel: "brevi", landing: "/tickets", post_id: 31 }],
        weights: { linear: [1], decay: [1] } as never,
      }),
      "PATCH /site/conversions/5": sample("Conversion"),
    });
    await user.click(await screen.findByRole("button", { name: /Ticket/ }));
    const sheet = await screen.findByRole("dialog");
    expect(await within(sheet).findByText("/tickets")).toBeTruthy();
    expect(within(sheet).getByRole("link", { name: "the post" }).getAttribute("href")).toContain("/results/posts/31");
    await user.type(within(sheet).getByLabelText("Stage of this contact"), "customer");
    await user.click(within(sheet).getByRole("button", { name: "Keep" }));
    expect(await screen.findByText("The stage is kept.")).toBeTruthy();
    expect(server.sent("PATCH /site/conversions/5")[0]?.body).toEqual({ stage: "customer" });
  });

  it("promises what to do first where there is nothing to credit", async () => {
    open({
      "GET /site/attribution": attribution({ conversions: 0, rows: [] }),
      "GET /site/sites": sample("Sites"),
    });
    expect(await screen.findByText("No goal is set yet")).toBeTruthy();
    expect(screen.getAllByRole("link", { name: "Sites and goals" }).length).toBeGreaterThan(0);
  });
});

describe("the funnel", () => {
  const rate = (value: number) => ({ value, low: value * 0.9, high: value * 1.1 });
  const funnel = (more: object = {}) =>
    sample("Funnel", {
      impressions: 20_000,
      clicks: 400,
      visits: 300,
      conversions: 12,
      cents: 16_800,
      click_rate: rate(0.02),
      visit_rate: rate(0.75),
      conversion_rate: rate(0.04),
      ...more,
    });
  const funnels = sample("Funnels", {
    total: funnel(),
    total_before: funnel({ clicks: 380 }),
    rows: [funnel({ key: "commons", name: "commons" })] as never,
    before: [],
    quiet: [],
    busy: [],
    currency: "EUR",
    without_impressions: 3,
  });

  it("promises each step with the rate to it, and who is left out of the sums", async () => {
    screenAt("site", { "GET /site/funnel": funnels, "GET /site/sites": sample("Sites") });
    const steps = within(await screen.findByRole("list", { name: "The funnel" })).getAllByRole("listitem");
    expect(steps.map((step) => step.textContent?.slice(0, 12))).toEqual(
      expect.arrayContaining([expect.stringContaining("clicked400"), expect.stringContaining("visited300")]),
    );
    expect(screen.getByText(/3 posts whose network tells no impressions left out/)).toBeTruthy();
  });

  it("promises beside its clicks what else is called so, with why and a step there", async () => {
    const { user, server } = screenAt("site?network=brevi", {
      "GET /site/funnel": funnels,
      "GET /site/sites": sample("Sites"),
      "GET /figures/results.course/basis": sample("FigureBasis", {
        name: "Clicks on our links",
        what: "in these days",
        definition: "Each click counted here.",
        figure: sample("Figure", { value: 903 }),
        related: [{ name: "Clicks", counted: "told by networks", value: 1970, why: "some with bots", path: "results" }],
      }),
    });
    await user.click(await screen.findByRole("button", { name: "clicks" }));
    const sheet = await screen.findByRole("dialog");
    expect(await within(sheet).findByText("903")).toBeTruthy();
    expect(within(sheet).getByText("1,970").closest("li")?.textContent).toContain("some with bots");
    expect(
      within(sheet)
        .getByRole("link", { name: /Clicks on our links/ })
        .getAttribute("href"),
    ).toMatch(/results\?/);
    // Of the same question as the funnel, which is of all networks.
    expect(server.sent("GET /figures/results.course/basis")[0]?.query.has("network")).toBe(false);
  });
});

describe("the funnel's rates", () => {
  const rate = (value: number | null, low: number | null = null, high: number | null = null) => ({ value, low, high });
  const funnel = (key: string, more: object = {}) => ({
    key,
    name: key,
    impressions: 10_000,
    clicks: 200,
    visits: 150,
    conversions: 6,
    cents: 8400,
    click_rate: rate(0.02, 0.017, 0.023),
    visit_rate: rate(0.75),
    conversion_rate: rate(0.04),
    cents_per_click: 42,
    ...more,
  });
  const funnels = (more: object = {}) =>
    sample("Funnels", {
      total: funnel("") as never,
      total_before: funnel("", { visits: 90 }) as never,
      rows: [
        funnel("brevi"),
        funnel("commons", { name: "Commons", impressions: null, click_rate: rate(null) }),
      ] as never,
      currency: "EUR",
      ...more,
    });
  const open = (answers: object = {}) =>
    screenAt("site", { "GET /site/funnel": funnels(), "GET /site/sites": sample("Sites"), ...answers });

  it("promises each step with its rate, its interval, and what it was before", async () => {
    open();
    const steps = await screen.findByRole("list", { name: "The funnel" });
    expect(steps.textContent).toContain("10,000");
    expect(steps.textContent).toContain("2.0%");
    expect(steps.textContent).toContain("1.7% to 2.3%");
    expect(screen.getByRole("heading", { name: /Of a thousand views, 20/ })).toBeTruthy();
  });

  it("promises that views that no network tells are none, not zero", async () => {
    open();
    const commons = (await screen.findAllByText("Commons")).map((e) => e.closest("tr")).find(Boolean) as HTMLElement;
    expect(commons.textContent).not.toMatch(/NaN|Infinity/);
    expect(commons.querySelectorAll("td")[1]?.textContent).not.toBe("0");
  });

  it("promises the list that people ask for, and words where it is empty", async () => {
    open({
      "GET /site/funnel": funnels({ quiet: [funnel("31", { name: "Everybody loved it", visits: 0 })] }),
    });
    expect(await screen.findByText(/Everybody loved it/)).toBeTruthy();
    expect(screen.getByText("No post brought visits beyond its attention.")).toBeTruthy();
  });

  it("promises a first step where no post carries a link", async () => {
    open({ "GET /site/funnel": funnels({ rows: [] }) });
    expect(await screen.findByText("No post of these days carries a tracked link")).toBeTruthy();
  });
});

describe("addresses of before", () => {
  it.each([
    ["links/funnel", "/site"],
    ["links/attribution", "/site/attribution"],
    ["links/sites", "/site/sites"],
  ])("promises that %s leads to %s with what was asked", async (before, now) => {
    const { address } = screenAt(`${before}?first=2026-11-01&last=2026-11-10`, {
      "GET /site/funnel": sample("Funnels"),
      "GET /site/attribution": sample("Attribution"),
      "GET /site/conversions": sample("ConversionList"),
      "GET /site/sites": sample("Sites"),
    });
    await waitFor(() => expect(address()).toMatch(new RegExp(`${now}\\?first=2026-11-01&last=2026-11-10$`)));
    expect(await screen.findByRole("navigation", { name: "Views of Site" })).toBeTruthy();
  });
});
