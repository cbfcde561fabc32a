// @vitest-environment happy-dom
/** Promise: everybody measured alike and ours marked; what may be chance is said to be; what one does is one step away. */

import { beforeEach, describe, expect, it } from "vitest";
import type { Schemas } from "../../api/client";
import { type Asked, cleanup, Refusal, sample, screen, screenAt, waitFor, within } from "../../testing";

const figure = (value: number | null, n = 30): Schemas["Figure"] => ({
  value,
  n,
  missing: 0,
  numerator: null,
  denominator: null,
  interval: value === null ? null : { low: value * 0.8, high: value * 1.2, level: 0.95 },
});
const place = (rank: number, best: number, worst: number): Schemas["PeerPlace"] => ({
  rank,
  best,
  worst,
  of: 3,
  percentile: 50,
  low: 0,
  high: 100,
  to_next: 2,
  next_name: "Halfmoon",
});
const COLUMNS: Schemas["PeerColumn"][] = [
  { key: "followers", name: "followers", unit: "count", definition: "Who follows.", is_of_posts: false },
  { key: "interactions_per_week", name: "interactions a week", unit: "per_week", definition: "", is_of_posts: true },
];
const line = (key: string, name: string, isOwn: boolean, week: number | null): Schemas["PeerRow"] => ({
  key,
  name,
  is_own: isOwn,
  competitor: isOwn ? null : 4,
  networks: ["commons"],
  profile_ids: [1, 2],
  figures: {
    followers: { now: figure(1000), before: figure(900), place: place(1, 1, 1) },
    interactions_per_week: { now: figure(week), before: figure(week), place: week ? place(2, 1, 3) : null },
  },
  profiles: [
    {
      key: `${key}a`,
      name: `${name} one`,
      is_own: isOwn,
      competitor: null,
      networks: ["commons"],
      profile_ids: [1],
      figures: {},
    },
    {
      key: `${key}b`,
      name: `${name} two`,
      is_own: isOwn,
      competitor: null,
      networks: ["brevi"],
      profile_ids: [2],
      figures: {},
    },
  ],
});
const ROWS = [
  line("own", "Orrery House", true, 50),
  line("c4", "Halfmoon", false, 90),
  line("c5", "Sundial", false, null),
];
const TABLE = sample("PeerTable", { columns: COLUMNS, rows: ROWS, holes: "", spread: null, age_hours: 72 });
const SETS = {
  sets: [{ id: 3, name: "Museums", profiles: [1, 2], edition: 2 }],
  digests: [],
  mail: "mira@ninthbell.example",
};
const FOLLOWED = [
  { id: 1, name: "Orrery House", network: "commons", kind: "own", competitor: null, competitor_id: null },
  { id: 2, name: "Halfmoon", network: "commons", kind: "competitor", competitor: "Halfmoon", competitor_id: 4 },
  { id: 3, name: "Sundial", network: "commons", kind: "competitor", competitor: "Sundial", competitor_id: 5 },
];
const ANSWERS = {
  "GET /competitors": TABLE,
  "GET /competitors/sets": SETS,
  "GET /preferences": { values: {} },
  "GET /sources": { profiles: FOLLOWED, runs: [] },
};

beforeEach(() => {
  localStorage.clear();
});

describe("side by side", () => {
  it("promises ours marked, places with what is not ruled out, and the unknown last either way", async () => {
    const { user } = screenAt("competitors", ANSWERS);
    const names = async () =>
      (await screen.findAllByRole("row")).slice(1).map((r) => within(r).getAllByRole("cell")[0]?.textContent);
    await screen.findByText("Halfmoon");
    expect(await names()).toEqual(["Halfmoon2", "Orrery Houseus2", "Sundial2"]);
    expect(screen.getAllByText("2. (1–3)").length).toBe(2);
    expect(screen.getByRole("heading", { level: 1 }).textContent).toContain("any of 3 places could be chance");
    await user.click(screen.getByRole("button", { name: /^interactions a week/ }));
    expect(await names()).toEqual(["Orrery Houseus2", "Halfmoon2", "Sundial2"]);
  });

  it("promises that a competitor opens to its profiles", async () => {
    const { user } = screenAt("competitors", ANSWERS);
    await user.click(await screen.findByRole("button", { name: "Profiles of Halfmoon" }));
    expect(screen.getByRole("link", { name: "Halfmoon two" })).toBeTruthy();
  });

  it("promises the first step where nobody is followed, and holes said where the figures are", async () => {
    const empty = { ...TABLE, rows: [ROWS[0]] };
    screenAt("competitors", {
      ...ANSWERS,
      "GET /competitors": empty,
      "GET /sources": { profiles: FOLLOWED.slice(0, 1), runs: [] },
    });
    expect(await screen.findByText("No competitor is followed yet")).toBeTruthy();
    cleanup();
    screenAt("competitors", { ...ANSWERS, "GET /competitors": { ...TABLE, holes: "Halfmoon: 3 missing of 28 days" } });
    expect(await screen.findByText(/Halfmoon: 3 missing of 28 days/)).toBeTruthy();
  });

  it("promises a column's width by keyboard, kept for the person", async () => {
    const { user, server } = screenAt("competitors", {
      ...ANSWERS,
      "PUT /preferences/competitor-widths": ({ body }: Asked) => body,
    });
    const edge = await screen.findByRole("separator", { name: "Width of followers" });
    edge.focus();
    await user.keyboard("{ArrowRight}");
    expect(edge.getAttribute("aria-valuenow")).toBe("146");
    await user.keyboard("{ArrowRight}{ArrowLeft}");
    // Once the edge rests, not for each step on the way.
    await waitFor(() => expect(server.sent("PUT /preferences/competitor-widths")).toHaveLength(1));
    expect(server.sent("PUT /preferences/competitor-widths")[0]?.body).toEqual({ value: { followers: 146 } });
  });
});

describe("sets", () => {
  it("promises that a set is made of whom one ticks, and a refusal loses nothing", async () => {
    let asked = 0;
    const { user, server } = screenAt("competitors/sets", {
      ...ANSWERS,
      "POST /competitors/sets": () =>
        asked++ === 0 ? new Refusal(400, "There is a set of this name already.") : SETS.sets[0],
    });
    await user.click(await screen.findByRole("button", { name: "Make a set" }));
    await user.type(screen.getByLabelText("Name"), "Museums");
    await user.click(screen.getAllByLabelText(/Sundial/)[1] as HTMLElement);
    await user.click(screen.getByRole("button", { name: /Make the set/ }));
    expect(await screen.findByText(/There is a set of this name already/)).toBeTruthy();
    expect((screen.getByLabelText("Name") as HTMLInputElement).value).toBe("Museums");
    await user.click(screen.getByRole("button", { name: /Make the set/ }));
    await waitFor(() => expect(screen.queryByRole("dialog")).toBeNull());
    expect(server.sent("POST /competitors/sets")[1]?.body).toEqual({ name: "Museums", profiles: [1, 3] });
  });

  it("promises that a digest can be read before it is had, and leads to what it tells of", async () => {
    const text =
      "Orrery House and everybody.\n\nWhose posts stood out\n- Halfmoon: “Found”, 3.1 times its own usual " +
      "(https://dakika.example/orrery-house/results/posts/12)\n\nPosts at 72 hours.\nAll figures with their basis: " +
      "https://dakika.example/orrery-house/competitors?first=2026-11-01";
    const { user, server } = screenAt("competitors/sets", {
      ...ANSWERS,
      "GET /competitors/digest": { subject: "The week of Museums", text },
    });
    await user.click((await screen.findAllByRole("button", { name: /^Read the digest of/ }))[1] as HTMLElement);
    const sheet = await screen.findByRole("dialog", { name: "The week of Museums" });
    expect(server.sent("GET /competitors/digest")[0]?.query.get("set")).toBe("3");
    expect(within(sheet).getByRole("heading", { name: "Whose posts stood out" })).toBeTruthy();
    expect(within(sheet).getByText(/3.1 times its own usual/)).toBeTruthy();
    expect(within(sheet).getByRole("link", { name: "the post" }).getAttribute("href")).toBe(
      "/orrery-house/results/posts/12",
    );
    expect(within(sheet).getByRole("link", { name: "here" }).getAttribute("href")).toContain("first=2026-11-01");
  });

  it("promises that the digest is each person's own", async () => {
    const { user, server } = screenAt("competitors/sets", { ...ANSWERS, "PUT /competitors/digest": undefined });
    await user.click((await screen.findAllByLabelText("digest to me"))[1] as HTMLElement);
    await waitFor(() => expect(server.sent("PUT /competitors/digest")[0]?.body).toEqual({ set: 3 }));
  });
});

describe("the gap", () => {
  const LEVER: Schemas["Lever"] = {
    factor: "posts",
    ours: 3,
    theirs: 6,
    part: 40,
    interval: null,
    needed: 6,
    field_low: 2,
    field_high: 7,
    best_quarter: 4,
    is_plausible: true,
  };
  const GAP = sample("Gap", {
    title: "We get 40 fewer",
    against: "middle",
    name: "the middle of the set",
    problem: "",
    ours: 40,
    theirs: 80,
    levers: [LEVER],
    members: [],
    own_profiles: [1],
  });

  it("promises a target from a lever, with what is aimed at as one writes it", async () => {
    const { user, server } = screenAt("competitors/gap", {
      ...ANSWERS,
      "GET /competitors/gap": GAP,
      "POST /results/targets": [],
    });
    await user.click(await screen.findByRole("button", { name: "set a target" }));
    const value = screen.getByLabelText("Value aimed at") as HTMLInputElement;
    expect(value.value).toBe("6");
    await user.clear(value);
    await user.type(value, "many");
    expect(screen.getByText(/Write a number/)).toBeTruthy();
    await user.clear(value);
    await user.type(value, "6,5");
    await user.click(screen.getByRole("button", { name: "Set the target" }));
    await waitFor(() => expect(server.sent("POST /results/targets")).toHaveLength(1));
    expect(server.sent("POST /results/targets")[0]?.body).toMatchObject({
      metric: "posts_per_week",
      value: 6.5,
      profiles: [1],
    });
  });

  it("promises a word where nothing can be split", async () => {
    screenAt("competitors/gap", {
      ...ANSWERS,
      "GET /competitors/gap": { ...GAP, levers: [], problem: "We published nothing in this period." },
    });
    expect(await screen.findByText("We published nothing in this period.")).toBeTruthy();
  });
});

describe("their best posts", () => {
  const POST = sample("BestPost", {
    id: 8,
    text: "A great find",
    owner: "Halfmoon",
    network: "commons",
    index: 3.2,
    published_at: "2026-11-20T10:00:00Z",
    url: "javascript:alert(1)",
    hashtags: ["clocks"],
    young: null,
    present_hours: null,
    picture: "",
  });

  it("promises that a post is kept as an idea with its note, and that no hostile address is a link", async () => {
    const { user, server } = screenAt("competitors/posts", {
      ...ANSWERS,
      "GET /competitors/posts": {
        posts: [POST],
        total: 1,
        new: 1,
        since: "2026-11-19T00:00:00Z",
        age_hours: 72,
        offset: 0,
      },
      "POST /plan/ideas": sample("KeptIdea", { problem: "" }),
      "GET /plan/ideas/groups": sample("IdeaGroups", { groups: [] }),
    });
    expect(await screen.findByText("3.20 times")).toBeTruthy();
    expect(screen.getByText("new")).toBeTruthy();
    expect(document.querySelector("a[href^=javascript]")).toBeNull();
    await user.click(screen.getByRole("button", { name: "keep as an idea" }));
    await user.type(screen.getByLabelText("What is worth taking from it"), "the question at the end");
    await user.click(screen.getByRole("button", { name: "Keep the idea" }));
    await waitFor(() =>
      expect(server.sent("POST /plan/ideas")[0]?.body).toMatchObject({
        content: { note: "the question at the end" },
        origin: { origin: "post", post: 8 },
      }),
    );
  });
});
