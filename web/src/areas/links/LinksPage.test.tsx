// @vitest-environment happy-dom
import { describe, expect, it } from "vitest";
import { type Asked, cells, Held, Refusal, rowOf, sample, screen, screenAt, waitFor, within } from "../../testing";

const DAYS = 28;
const period = { first: "2026-10-29", last: "2026-11-25", days: DAYS };
const compared = { first: "2026-10-01", last: "2026-10-28", days: DAYS };
const zeros = () => Array.from({ length: DAYS }, () => 0);
const figures = (people: number[], more: object = {}) => ({
  people: [...people, ...zeros()].slice(0, DAYS),
  bots: zeros(),
  over: zeros(),
  before: zeros(),
  hours: Array.from({ length: 7 }, () => Array.from({ length: 24 }, () => 0)),
  ...more,
});
const link = (id: number, name: string, clicks: number, more: object = {}) => ({
  id,
  name,
  code: `c${id}`,
  short: `https://short.example/c${id}`,
  network: "brevi",
  clicks_in_period: clicks,
  clicks_ever: clicks,
  ...more,
});
const list = (links: object[], people: number[] = [5, 7]) =>
  sample("Links", { period, compared, links, figures: figures(people) });
const TWO = list([link(1, "Night tickets", 12), link(2, "Shop", 3, { is_paused: true })]);

describe("the page of links", () => {
  it("promises each link with its clicks, those before, and its state", async () => {
    screenAt("links", { "GET /links": TWO });
    const night = (await screen.findByRole("link", { name: "Night tickets" })).closest("tr") as HTMLElement;
    expect(cells(night)).toEqual(expect.arrayContaining(["12", "0"]));
    expect(rowOf("Shop").textContent).toContain("paused");
  });

  it("promises to say what a tracked link is for when there is none", async () => {
    screenAt("links", { "GET /links": list([], []) });
    expect(await screen.findByText("No link is tracked yet")).toBeTruthy();
    expect(screen.getByText(/Likes are not visits/)).toBeTruthy();
  });

  it("promises that a search stands in the address and that none found is not none made", async () => {
    const { user, address } = screenAt("links", {
      "GET /links": ({ query }: Asked) => (query.get("text") ? list([], []) : TWO),
    });
    await screen.findByRole("link", { name: "Night tickets" });
    await user.type(screen.getByRole("textbox", { name: "Search the links" }), "zzz");
    expect(await screen.findByText(/No link fits/)).toBeTruthy();
    expect(address()).toContain("text=zzz");
  });

  it("promises that those who may only look are offered nothing to change", async () => {
    screenAt("links", { "GET /links": TWO }, "viewer");
    await screen.findByRole("link", { name: "Night tickets" });
    expect(screen.queryByRole("button", { name: "Make a link" })).toBeNull();
    expect(screen.queryByRole("button", { name: "Make many" })).toBeNull();
  });
});

describe("making a link", () => {
  const preview = sample("Proposal", {
    target: "https://orrery.example/?utm_source=brevi",
    utm: { source: "brevi", medium: "social" },
    kept: ["utm_term"],
    host: { warning: "" },
  });
  const open = (answers: object) =>
    screenAt("links?new=1", { "GET /links": TWO, "POST /links/preview": preview, ...answers });

  it("promises the parameters by the brand's rules while one types, and what the address keeps", async () => {
    const { user } = open({});
    await user.type(await screen.findByLabelText("Leads to"), "https://orrery.example/");
    expect(await screen.findByDisplayValue("brevi")).toBeTruthy();
    expect(screen.getByDisplayValue("social")).toBeTruthy();
    expect(screen.getByText("https://orrery.example/?utm_source=brevi")).toBeTruthy();
    expect(screen.getByText(/has utm_term already/)).toBeTruthy();
  });

  it("promises that an error stands beside its field and nothing typed is lost", async () => {
    const { user } = open({
      "POST /links": new Refusal(400, "Chosen already.", { code: ["“tickets” leads somewhere else already."] }),
    });
    await user.type(await screen.findByLabelText("Leads to"), "https://orrery.example/t");
    await user.type(screen.getByLabelText("Chosen word"), "tickets");
    await user.click(screen.getByRole("button", { name: "Make the link" }));
    expect(await screen.findByText("“tickets” leads somewhere else already.")).toBeTruthy();
    expect(screen.getByDisplayValue("https://orrery.example/t")).toBeTruthy();
    expect(screen.getByDisplayValue("tickets")).toBeTruthy();
  });

  it("promises to send what was typed over the rules, and to say where the link is", async () => {
    const { user, server, address } = open({ "POST /links": sample("Link", link(3, "New", 0)) });
    await user.type(await screen.findByLabelText("Leads to"), "https://orrery.example/t");
    await user.selectOptions(screen.getByLabelText("For network"), "commons");
    await screen.findByDisplayValue("social");
    await user.clear(screen.getByLabelText("medium"));
    await user.type(screen.getByLabelText("medium"), "post");
    await user.type(screen.getByLabelText("Ends after"), "2026-12-31");
    await user.click(screen.getByRole("button", { name: "Make the link" }));
    // It is copied, and stands on top with a step to its page.
    expect(await screen.findByText("https://short.example/c3 is ready, and copied.")).toBeTruthy();
    expect(await navigator.clipboard.readText()).toBe("https://short.example/c3");
    const made = screen.getByRole("region", { name: "The link just made" });
    expect(within(made).getByRole("link", { name: "New" }).getAttribute("href")).toContain("/links/3");
    await user.click(within(made).getByRole("button", { name: "put away" }));
    expect(screen.queryByRole("region", { name: "The link just made" })).toBeNull();
    expect(server.sent("POST /links")[0]?.body).toMatchObject({
      destination: "https://orrery.example/t",
      network: "commons",
      utm: { medium: "post" },
      // The day ends by the brand's clocks.
      ends_at: "2026-12-31T23:59:00Z",
    });
    expect(address()).not.toContain("new=");
  });

  it("promises an honest word on a host that looks like another, and on whether the page is there", async () => {
    const { user } = open({
      "POST /links/preview": { ...preview, host: { ...preview.host, warning: "This host mixes two alphabets." } },
      "POST /links/check": sample("Reached", {
        is_reachable: true,
        title: "Tickets",
        steps: [{ address: "https://orrery.example/t" }, { address: "https://orrery.example/tickets" }],
      }),
    });
    await user.type(await screen.findByLabelText("Leads to"), "https://orrery.example/t");
    expect(await screen.findByText("This host mixes two alphabets.")).toBeTruthy();
    await user.click(screen.getByRole("button", { name: /whether the page is there/ }));
    expect(
      await screen.findByText(/It is there: “Tickets”. It leads on to https:\/\/orrery.example\/tickets/),
    ).toBeTruthy();
  });
});

describe("making many links", () => {
  const open = (answers: object) => screenAt("links?new=many", { "GET /links": TWO, ...answers });
  const draft = { destination: "https://orrery.example/a" };
  const looked = sample("Pasted", {
    problems: 1,
    rows: [
      { row: 1, target: "https://orrery.example/a?utm_source=x", error: "", draft },
      { row: 2, target: "", error: "ftp is no address of a page." },
    ],
  });

  it("promises a look at every row before anything is made, and to make the good ones alone", async () => {
    const { user, server } = open({ "POST /links/bulk/preview": looked, "POST /links/bulk": [sample("Link")] });
    await user.click(await screen.findByLabelText("List or table"));
    await user.paste("https://orrery.example/a\nftp://b");
    await user.click(screen.getByRole("button", { name: "Look at it" }));
    expect(await screen.findByText("ftp is no address of a page.")).toBeTruthy();
    expect(screen.getByText(/1 row cannot/)).toBeTruthy();
    expect(server.sent("POST /links/bulk")).toHaveLength(0);
    await user.click(screen.getByRole("button", { name: "Make 1 link" }));
    await waitFor(() => expect(server.sent("POST /links/bulk")).toHaveLength(1));
    expect(server.sent("POST /links/bulk")[0]?.body).toMatchObject({ rows: [draft] });
    expect(await screen.findByText("1 link made.")).toBeTruthy();
  });

  it("promises that what was looked at is looked at again after a change", async () => {
    const { user } = open({ "POST /links/bulk/preview": looked });
    await user.click(await screen.findByLabelText("List or table"));
    await user.paste("https://orrery.example/a");
    await user.click(screen.getByRole("button", { name: "Look at it" }));
    await screen.findByRole("button", { name: "Make 1 link" });
    await user.type(screen.getByLabelText("List or table"), "x");
    expect(screen.queryByRole("button", { name: "Make 1 link" })).toBeNull();
  });

  it("promises to say so when a file is too large", async () => {
    const { user } = open({});
    const file = new File(["x".repeat(300_001)], "all.csv", { type: "text/csv" });
    await user.upload(await screen.findByLabelText("Take a file"), file);
    expect(await screen.findByText(/all.csv is too large/)).toBeTruthy();
  });

  it("promises that a button that works is busy until it is done", async () => {
    const held = new Held();
    const { user } = open({ "POST /links/bulk/preview": held });
    await user.click(await screen.findByLabelText("List or table"));
    await user.paste("https://orrery.example/a");
    await user.click(screen.getByRole("button", { name: "Look at it" }));
    expect(screen.getByRole("button", { name: "Look at it" }).getAttribute("aria-busy")).toBe("true");
    held.answer(looked);
    expect(await screen.findByRole("button", { name: "Make 1 link" })).toBeTruthy();
  });
});

describe("one link", () => {
  const detail = (more: object = {}, life: object = {}) =>
    sample("LinkDetail", {
      period,
      compared,
      figures: figures([3, 4]),
      link: { ...link(7, "Night tickets", 7), target: "https://orrery.example/tickets", may_change: true, ...more },
      life: {
        first: "2026-11-01",
        people: [3, 4],
        ages: [
          { hours: 1, count: 2 },
          { hours: 24, count: 6 },
        ],
        later: 1,
        ...life,
      },
    });
  const held = (more = {}, life = {}) => ({ "GET /links/7": detail(more, life) });

  it("promises its life with the posts that carried it and why the network's clicks differ", async () => {
    screenAt("links/7", held({}, {
      uses: [
        { post_id: 5, text: "Tonight we open late", network: "brevi", published_at: "2026-11-01T18:00:00Z", reported: 11 },
        { post_id: 6, text: "Once more", network: "commons", published_at: "2026-11-02T18:00:00Z" },
      ],
    })); // biome-ignore format: one link's life
    expect(await screen.findByText("2 posts carry it")).toBeTruthy();
    expect(cells(rowOf("Tonight we open late")).at(-1)).toBe("11");
    // A network that says nothing is no zero.
    expect(cells(rowOf("Once more")).at(-1)).not.toBe("0");
    expect(screen.getByText(/report 11 clicks on these posts, we count 7/)).toBeTruthy();
  });

  it("promises that its owner alone may change it, and that this is said to others", async () => {
    screenAt("links/7", held({ may_change: false, owner: "Tomás" }));
    expect(await screen.findByText("Tomás owns this link and alone may change it.")).toBeTruthy();
    expect(screen.queryByRole("button", { name: "Change it" })).toBeNull();
  });

  it("promises to pause it with one press and to say so", async () => {
    const { user, server } = screenAt("links/7", { ...held(), "PATCH /links/7": sample("OneLink") });
    await user.click(await screen.findByRole("button", { name: "Pause it" }));
    expect(await screen.findByText("The link is paused.")).toBeTruthy();
    expect(server.sent("PATCH /links/7")[0]?.body).toEqual({ is_paused: true });
  });

  it("promises that another campaign brings its own parameter, and that the code stays", async () => {
    const { user, server } = screenAt("links/7", {
      ...held({ utm: { campaign: "spring", source: "brevi" }, campaign_id: 1 }),
      "GET /campaigns": [sample("Campaign", { id: 1, name: "Spring" }), sample("Campaign", { id: 2, name: "Night" })],
      "PATCH /links/7": sample("OneLink"),
    });
    await user.click(await screen.findByRole("button", { name: "Change it" }));
    await screen.findByRole("option", { name: "Night" });
    await user.selectOptions(screen.getByLabelText("Campaign"), "Night");
    expect((screen.getByLabelText("campaign") as HTMLInputElement).value).toBe("");
    await user.click(screen.getByRole("button", { name: "Keep the changes" }));
    expect(await screen.findByText(/Its short address stays/)).toBeTruthy();
    expect(server.sent("PATCH /links/7")[0]?.body).toMatchObject({ campaign_id: 2, utm: { source: "brevi" } });
  });

  it("promises where it led before, and until when", async () => {
    const former = [{ target: "https://orrery.example/old", until: "2026-11-10T09:00:00Z", by: "Tomás" }];
    screenAt("links/7", held({ former }));
    expect(await screen.findByText("Led elsewhere before (1)")).toBeTruthy();
    expect(screen.getByText(/changed by Tomás/)).toBeTruthy();
  });

  it("promises a word about those who came too late", async () => {
    screenAt("links/7", held({ over_in_period: 4 }));
    expect(await screen.findByText(/4 people came after it had ended/)).toBeTruthy();
  });

  it("promises words for a link that is not there", async () => {
    screenAt("links/7", { "GET /links/7": new Refusal(404, "There is nothing here, or you may not see it.") });
    expect(await screen.findByText("There is nothing here, or you may not see it.")).toBeTruthy();
  });
});
