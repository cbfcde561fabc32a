// @vitest-environment happy-dom
import { describe, expect, it } from "vitest";
import {
  type Asked,
  BRAND,
  cells,
  Held,
  Refusal,
  rowOf,
  sample,
  screen,
  screenAt,
  waitFor,
  within,
} from "../../testing";

const DAYS = 28;
const course = (value: number | null) => Array.from({ length: DAYS }, () => value);
const period = { first: "2026-10-29", last: "2026-11-25", days: DAYS };
const figure = (key: string, name: string, value: number | null, more: object = {}) => ({
  key,
  name,
  unit: "count",
  now: { value },
  before: { value },
  days: course(value),
  days_before: course(value),
  ...more,
});
const finding = (id: number, text: string, more: object = {}) => ({
  id,
  text,
  kind: "group",
  state: "new" as const,
  weight: 0.7,
  is_current: true,
  ...more,
});

describe("findings", () => {
  const found = (findings: object[], more: object = {}) =>
    sample("Findings", { found_at: "2026-11-25T06:00:00Z", findings, ...more });

  it("promises each statement with its posts and a step to take", async () => {
    screenAt("results/findings", {
      "GET /results/findings": found([
        finding(1, "Video posts do 1.4 times as well as the others", {
          posts: [{ id: 5, text: "How a gear is cut", network: "brevi" }],
          step: { path: "plan/new?format=short_video", words: "Write one", posts: "results/posts?format=short_video" },
        }),
      ]),
    });
    expect(await screen.findByRole("heading", { name: /Video posts do 1.4 times/ })).toBeTruthy();
    expect(screen.getByText("How a gear is cut")).toBeTruthy();
    expect(screen.getByRole("link", { name: "Write one" }).getAttribute("href")).toBe(
      `/${BRAND}/plan/new?format=short_video`,
    );
    expect(screen.getByRole("link", { name: "The posts behind it" })).toBeTruthy();
  });

  it("promises that one can be pinned, and that what was dismissed is not lost", async () => {
    const { user, server } = screenAt("results/findings", {
      "GET /results/findings": found([finding(1, "A first"), finding(2, "A second", { state: "dismissed" })]),
      "PUT /results/findings/1": ({ body }: Asked) => ({ ...finding(1, "A first"), ...(body as object) }),
    });
    await screen.findByRole("heading", { name: "A first" });
    expect(screen.queryByRole("heading", { name: "A second" })).toBeNull();
    await user.click(screen.getByRole("button", { name: "Show the 1 dismissed" }));
    expect(screen.getByRole("heading", { name: "A second" })).toBeTruthy();
    await user.click(screen.getByRole("button", { name: "Pin" }));
    await waitFor(() => expect(server.asked.some((a) => a.method !== "GET")).toBe(true));
    expect(server.asked.find((a) => a.method !== "GET")?.body).toEqual({ state: "pinned" });
  });

  it("promises to look again on demand, and to say so when it cannot", async () => {
    const held = new Held();
    const { user } = screenAt("results/findings", {
      "GET /results/findings": found([]),
      "POST /results/findings": held,
    });
    expect(await screen.findByText("Nothing stands out beyond chance")).toBeTruthy();
    await user.click(screen.getByRole("button", { name: "Look again now" }));
    expect(screen.getByRole("button", { name: "Looking …" })).toBeTruthy();
    held.answer(new Refusal(409, "They are being looked for already."));
    expect(await screen.findByText("They are being looked for already.")).toBeTruthy();
  });

  it("promises that the worker looks, and to say what it found as soon as it has", async () => {
    let asked = 0;
    const { user } = screenAt("results/findings", {
      "GET /results/findings": () => found(asked++ > 0 ? [finding(1, "A first")] : []),
      "POST /results/findings": found([], { is_looking: true }),
    });
    await user.click(await screen.findByRole("button", { name: "Look again now" }));
    expect(await screen.findByText("1 finding in the data as they are now.")).toBeTruthy();
    expect(screen.getByRole("heading", { name: "A first" })).toBeTruthy();
  });

  it("promises the difference between nothing found and nobody looked", async () => {
    screenAt("results/findings", { "GET /results/findings": found([], { found_at: null }) });
    expect(await screen.findByText("Nobody has looked yet")).toBeTruthy();
  });
});

describe("groups", () => {
  const ratio = (value: number, low: number, high: number) => ({ value, interval: { low, high } });
  const groups = (rows: object[]) =>
    sample("Groups", { held: ["format", "profile"], groups: rows.map((g) => ({ index: 1, ...g })) });
  const answers = (rows: object[]) => ({ "GET /results/groups": groups(rows) });

  it("promises a title only where a group does better beyond chance, with its interval", async () => {
    screenAt("results/groups", answers([
      { key: "short_video", name: "short_video", n: 31, index: 1.4, typical: 1.4, others: 0.93, verdict: "better", raw: ratio(1.5, 1.2, 1.9), adjusted: ratio(1.4, 1.1, 1.8) },
      { key: "text", name: "text", n: 40, verdict: "open", raw: ratio(0.95, 0.8, 1.1) },
    ])); // biome-ignore format: two groups
    expect(await screen.findByRole("heading", { name: /posts do .* times as well as the others/ })).toBeTruthy();
    const row = cells(screen.getByText("1.50 (1.20–1.90)").closest("tr") as HTMLElement);
    expect(row).toEqual(expect.arrayContaining(["31", "1.40", "0.93"]));
  });

  it("promises that chance is called chance, and that few posts are shown and not ranked", async () => {
    screenAt("results/groups", answers([
      { key: "album", name: "album", n: 3, verdict: "few", raw: ratio(2.1, 0.4, 9) },
      { key: "text", name: "text", n: 40, verdict: "open", raw: ratio(1, 0.9, 1.1) },
    ])); // biome-ignore format: two groups
    expect(await screen.findByText("No group stands out from the others beyond chance")).toBeTruthy();
    expect(screen.getByText("2.10 (0.40–9.00)").closest("tr")?.className).toContain("text-muted");
  });

  it("promises that a group leads to its posts with the study kept", async () => {
    screenAt("results/groups?by=tag&network=brevi&first=2026-10-01&last=2026-10-31", answers([
      { key: "7", name: "workshop", n: 12, verdict: "open", raw: ratio(1, 0.9, 1.1) },
    ])); // biome-ignore format: one group
    const href = (await screen.findByRole("link", { name: "workshop" })).getAttribute("href") ?? "";
    for (const part of ["tag=7", "network=brevi", "first=2026-10-01", "sort=-index"]) expect(href).toContain(part);
  });

  it("promises a first step where no post carries a tag", async () => {
    const { user } = screenAt("results/groups?by=tag", answers([]));
    await user.click(await screen.findByRole("button", { name: /Make a tag, or a rule/ }));
    expect(await screen.findByRole("dialog", { name: "Tags and their rules" })).toBeTruthy();
  });
});

describe("tags and their rules", () => {
  const tag = { id: 7, name: "workshop", colour: 2, posts: 12, rules: [{ id: 3, kind: "hashtag", value: "workshop" }] };
  const other = { id: 8, name: "visitors", colour: 3, posts: 4 };
  const open = async (answers: object) => {
    const opened = screenAt("results/groups?by=tag", {
      "GET /results/groups": sample("Groups"),
      "GET /results/tags": [sample("Tag", tag as never), sample("Tag", other)],
      ...answers,
    });
    await opened.user.click(await screen.findByRole("button", { name: "Tags" }));
    await opened.user.click(await screen.findByRole("button", { name: /workshop.*12 posts, 1 rule/ }));
    return opened;
  };

  it("promises to show what a rule would catch before it is made", async () => {
    const { user } = await open({
      "GET /results/tags/caught": sample("Caught", {
        caught: 9,
        of: 80,
        posts: [{ id: 1, text: "Bring your own sundial" }],
      }),
    });
    await user.type(screen.getByLabelText("What the rule looks for"), "sundial");
    expect(await screen.findByText(/Bring your own sundial/)).toBeTruthy();
  });

  it("promises that merging says what became part of what", async () => {
    const { user, server } = await open({ "POST /results/tags/7/merge": sample("Tag", other) });
    await user.selectOptions(screen.getByLabelText("Merge workshop into"), "visitors");
    expect(await screen.findByText("workshop is part of visitors now.")).toBeTruthy();
    expect(server.sent("POST /results/tags/7/merge")[0]?.body).toEqual({ into: 8 });
  });

  it("promises that removing one names what it does before it does it", async () => {
    const { user, server } = await open({ "DELETE /results/tags/7": undefined });
    await user.click(screen.getByRole("button", { name: "Remove the tag" }));
    expect(server.sent("DELETE /results/tags/7")).toHaveLength(0);
    await user.click(screen.getByRole("button", { name: "Take it off 12 posts and remove it" }));
    await waitFor(() => expect(server.sent("DELETE /results/tags/7")).toHaveLength(1));
  });

  it("promises that a name that is taken is refused in words", async () => {
    const { user } = await open({ "PUT /results/tags/7": new Refusal(409, "There is a tag of this name already.") });
    const name = screen.getByLabelText("Name");
    await user.clear(name);
    await user.type(name, "visitors{Enter}");
    expect(await screen.findByText("There is a tag of this name already.")).toBeTruthy();
  });
});

describe("followers", () => {
  const open = (lost: (number | null)[], spikes: object[] = []) =>
    screenAt("results/followers", {
      "GET /results/summary": sample("Summary", {
        period,
        compared: period,
        metrics: [
          figure("followers", "Followers", 5000),
          figure("net_followers", "Net followers", 2),
          figure("gained_followers", "Followers gained", 3),
          figure("lost_followers", "Followers lost", 1, { days: lost }),
          figure("follower_growth", "Follower growth", 0.01),
        ] as never,
      }),
      "GET /results/spikes": ({ query }: Asked) =>
        sample("Spikes", {
          is_by_day: true,
          spikes: (query.get("metric") === "lost_followers" ? spikes : []) as never,
        }),
      "GET /results/spikes/behind": sample("Behind", {
        told: "negative",
        value: 40,
        level: 2,
        z: 9,
        is_spike: true,
        posts: [{ id: 3, text: "We raise our prices", network: "brevi", brought: 12 }],
      }),
    });

  it("promises that losses that stand out lead to the posts of the days before", async () => {
    const { user } = open(course(1), [{ day: "2026-11-12", value: 40, level: 2, z: 9 }]);
    expect(await screen.findByRole("heading", { name: /40 followers left on Thursday 12 November/ })).toBeTruthy();
    await user.click(screen.getByRole("button", { name: "Thursday 12 November" }));
    const sheet = await screen.findByRole("dialog");
    expect(await within(sheet).findByText("We raise our prices")).toBeTruthy();
    expect(within(sheet).getByText(/hidden or reported 12 times/)).toBeTruthy();
  });

  it("promises that either can be hidden, and that this stands in the address", async () => {
    const { user, address } = open(course(1));
    await user.click(await screen.findByRole("checkbox", { name: /^lost/ }));
    expect(address()).toContain("hide=lost");
  });

  it("promises a table in which a day that nobody told of is no zero", async () => {
    const { user } = open([null, ...course(1).slice(1)]);
    await user.click(await screen.findByRole("button", { name: "as a table" }));
    const [, , lost] = cells(rowOf("2026-10-29"));
    expect(lost).not.toBe("0");
  });
});

describe("traffic", () => {
  const traffic = (more: object = {}) =>
    sample("Traffic", {
      period,
      clicks: course(2) as number[],
      visits: course(1) as number[],
      conversions: course(0) as number[],
      has_visits: true,
      ...more,
    });
  const posts = (rows: object[]) => sample("PostsPage", { total: rows.length, posts: rows });
  const post = (id: number, text: string, interactions: number | null, clicks: number | null) => ({
    id, text, interactions, network: "brevi", published_at: "2026-11-10T10:00:00Z", values: { clicks },
  }); // biome-ignore format: a post

  it("promises in one sentence what became of the clicks", async () => {
    screenAt("results/traffic", { "GET /site/traffic": traffic(), "GET /results/posts": posts([]) });
    expect(
      await screen.findByRole("heading", { name: "56 clicks on tracked links, 28 visits by links and networks" }),
    ).toBeTruthy();
  });

  it("promises that a post with much attention and hardly a click stands apart from the opposite", async () => {
    const rows = [
      ...Array.from({ length: 10 }, (_, i) => post(10 + i, `Usual ${i}`, 50 + i, 5)),
      post(1, "Everybody loved it", 900, 0),
      post(2, "Nobody saw it, all came", 3, 80),
      post(3, "A network that tells no clicks", 800, null),
    ];
    screenAt("results/traffic", { "GET /site/traffic": traffic(), "GET /results/posts": posts(rows) });
    const quiet = (await screen.findByRole("heading", { name: "Much attention, hardly a click" })).parentElement;
    const busy = screen.getByRole("heading", { name: "Little attention, many clicks" }).parentElement;
    expect(quiet?.textContent).toContain("Everybody loved it");
    expect(quiet?.textContent).not.toContain("tells no clicks");
    expect(busy?.textContent).toContain("Nobody saw it, all came");
    expect(screen.getByText(/Ranks among the 12 posts here/)).toBeTruthy();
  });

  it("promises a step to take where nothing was clicked", async () => {
    const nothing = { clicks: course(0), visits: course(0), has_visits: false };
    screenAt("results/traffic", { "GET /site/traffic": traffic(nothing), "GET /results/posts": posts([]) });
    expect((await screen.findByRole("link", { name: "Make a link" })).getAttribute("href")).toContain("links?new=1");
  });
});

describe("the audience", () => {
  const dimension = {
    key: "country",
    day: "2026-11-25",
    day_before: "2026-10-29",
    profiles: 3,
    followers: 5000,
    segments: [{ name: "PT", share: 0.6, change: 0.02 }, { name: "BR", share: 0.4 }],
  }; // biome-ignore format: one dimension
  const summary = sample("Summary", {
    period,
    compared: period,
    metrics: [figure("followers", "Followers", 5000)] as never,
  });

  it("promises each part by its name with its change over the days", async () => {
    screenAt("results/audience", {
      "GET /results/audience": sample("Audience", { period, dimensions: [dimension] as never }),
    });
    expect((await screen.findByText("Portugal")).closest("tr, li")?.textContent).toMatch(/60/);
    expect(screen.getByText("Brazil")).toBeTruthy();
  });

  it("promises the page for advertisers as a PDF, how far it is while it is made, and words when it cannot be", async () => {
    const asked = new Held();
    const printed = (state: string, before: number, detail = "") =>
      sample("PrintedPage", { id: 7, state: state as never, before, detail });
    const { user } = screenAt("results/audience/sheet", {
      "GET /results/audience": sample("Audience", { period, dimensions: [dimension] as never }),
      "GET /results/summary": summary,
      "POST /results/audience/pdf": asked,
      "GET /printed/7": printed("failed", 0, "This server has no Chromium to make a PDF with."),
    });
    await screen.findByText("Portugal");
    await user.click(screen.getByRole("button", { name: "Save as PDF" }));
    expect(await screen.findByRole("button", { name: "Making the PDF" })).toBeTruthy();
    asked.answer(printed("waiting", 2));
    expect(await screen.findByRole("button", { name: "After 2 pages of others" })).toBeTruthy();
    expect(await screen.findByText("This server has no Chromium to make a PDF with.")).toBeTruthy();
    expect(screen.getByRole("button", { name: "Save as PDF" })).toBeTruthy();
  });

  it("promises that what prints it can tell a page that is set from one that failed", async () => {
    screenAt("results/audience/sheet", {
      "GET /results/audience": new Refusal(409, "Not now."),
      "GET /results/summary": summary,
    });
    await screen.findByText("Not now.");
    expect(document.querySelector('[data-page="failed"]')).toBeTruthy();
    expect(document.querySelector('[data-page="ready"]')).toBeNull();
  });
});

describe("the catalogue and the team's own metrics", () => {
  const metric = (key: string, name: string, more: object = {}) => ({
    key, name, unit: "rate" as const, over: "published" as const, adds_up: "ratio_of_sums" as const, formula: `${key} / reach`, ...more,
  }); // biome-ignore format: a metric
  const catalogue = sample("Catalogue", {
    metrics: [
      metric("saves", "Save rate", { measure: "saves", way: "by_reach", own_networks: ["brevi"], public_networks: [] }),
      metric("saves_median", "Saves of the median post", {
        measure: "saves",
        way: "median_post",
        own_networks: ["brevi"],
        public_networks: [],
      }),
      metric("visits", "Visits", {
        over: "brought",
        formula: "visits",
        measure: "visits",
        way: "total",
        own_networks: [],
        public_networks: [],
      }),
      metric("own_1", "Talk", {
        is_team: true,
        id: 1,
        formula: "comments / reach",
        measure: "",
        own_networks: [],
        public_networks: [],
      }),
    ] as never,
    measures: [
      { key: "saves", name: "Saves", definition: "Times that posts were kept.", subject: "What people did" },
      { key: "visits", name: "Visits", definition: "Visits that came.", subject: "The site" },
    ],
    ways: [
      { key: "total", name: "in all" },
      { key: "median_post", name: "the median post" },
      { key: "by_reach", name: "by reach" },
    ],
    names: ["comments", "reach", "reactions", "shares"],
  });

  it("promises the team's own first, each with its formula, and who supplies what", async () => {
    screenAt("results/metrics", { "GET /results/metrics": catalogue });
    const rows = (await screen.findAllByRole("row")).slice(1).map((row) => row.textContent ?? "");
    expect(rows[0]).toContain("The team's own");
    expect(rows[1]).toContain("Talk");
    expect(rows.find((row) => row.includes("Times that posts were kept."))).toContain("1 network;");
    expect(rows.find((row) => row.includes("Visits"))).toContain("Counted here, whatever the network tells.");
  });

  it("promises every way of counting a thing beside it, and what it means where it is opened", async () => {
    const { user } = screenAt("results/metrics", { "GET /results/metrics": catalogue });
    await user.click(await screen.findByRole("button", { name: "the median post" }));
    expect(await screen.findByText("Saves of the median post")).toBeTruthy();
    expect(screen.queryByText("Save rate")).toBeNull();
    await user.click(screen.getByRole("button", { name: "the median post" }));
    expect(screen.queryByText("Saves of the median post")).toBeNull();
  });

  it("promises to find one by the words of its definition, and to say when there is none", async () => {
    const { user, address } = screenAt("results/metrics", { "GET /results/metrics": catalogue });
    await user.type(await screen.findByRole("searchbox", { name: "Find a metric" }), "zzz");
    expect(await screen.findByText("No metric is called so")).toBeTruthy();
    expect(address()).toContain("find=zzz");
  });

  it("promises an error that points at its place, and nothing typed lost", async () => {
    const { user } = screenAt("results/metrics", {
      "GET /results/metrics": catalogue,
      "GET /results/metrics/tried": sample("TriedFormula", {
        fault: { message: "There is no metric “reech”.", start: 11, end: 16 },
      }),
    });
    await user.click(await screen.findByRole("button", { name: "A metric of our own" }));
    const sheet = await screen.findByRole("dialog");
    await user.type(within(sheet).getByLabelText(/formula/i), "comments / reech");
    expect(await within(sheet).findByText(/There is no metric “reech”/)).toBeTruthy();
    expect(within(sheet).getByDisplayValue("comments / reech")).toBeTruthy();
  });

  it("promises that removing one asks first", async () => {
    const { user, server } = screenAt("results/metrics", {
      "GET /results/metrics": catalogue,
      "DELETE /results/metrics/1": undefined,
    });
    await user.click(await screen.findByRole("button", { name: "Remove" }));
    expect(server.sent("DELETE /results/metrics/1")).toHaveLength(0);
    await user.click(screen.getByRole("button", { name: "Yes, remove Talk" }));
    await waitFor(() => expect(server.sent("DELETE /results/metrics/1")).toHaveLength(1));
  });
});

describe("while something else is fetched", () => {
  const summary = (value: number) =>
    sample("Summary", { period, compared: period, metrics: [figure("reach", "Reach", value)] as never });

  it("promises no old figure under new dates", async () => {
    const held = new Held();
    const { user } = screenAt("results?first=2026-10-29&last=2026-11-25&metric=reach", {
      "GET /results/posts/top": sample("TopPosts"),
      "GET /results/spikes": sample("Spikes"),
      "GET /results/summary": ({ query }: Asked) => (query.get("first") === "2026-10-29" ? summary(7531) : held),
    });
    expect((await screen.findAllByText("7,531")).length).toBeGreaterThan(0);
    await user.click(screen.getByRole("button", { name: "Period" }));
    await user.click(await screen.findByRole("button", { name: "Last month" }));
    await waitFor(() => expect(screen.queryAllByText("7,531")).toEqual([]));
    held.answer(summary(86));
    expect((await screen.findAllByText("86")).length).toBeGreaterThan(0);
  });
});
