// @vitest-environment happy-dom
import { describe, expect, it } from "vitest";
import {
  type Asked,
  cells,
  fireEvent,
  Held,
  Refusal,
  rowOf,
  sample,
  screen,
  screenAt,
  waitFor,
  within,
} from "../../../testing";

const metric = (key: string, name: string) => ({
  key,
  name,
  unit: "count" as const,
  is_of_posts: true,
  over: "received" as const,
});
const CATALOGUE = sample("Catalogue", {
  metrics: [metric("interactions", "Interactions"), metric("reach", "Reach"), metric("clicks", "Link clicks")] as never,
  measures: ["interactions", "reach", "clicks"].map((key) => ({ key, name: key, definition: "", subject: "Seen" })),
});
const post = (id: number, text: string, more: object = {}) => ({
  id,
  text,
  network: "brevi",
  format: "image",
  published_at: "2026-11-10T18:30:00Z",
  index: 1.2,
  interactions: 40,
  values: { interactions: 40, reach: 900, clicks: null },
  ...more,
});
const POSTS = [post(1, "The tower clock"), post(2, "A sundial for home"), post(3, "Late opening")];
const page = (posts: object[], more: object = {}) => sample("PostsPage", { total: posts.length, posts, ...more });
const TAGS = [sample("Tag", { id: 7, name: "workshop", colour: 2 })];
const ANSWERS = {
  "GET /results/metrics": CATALOGUE,
  "GET /results/posts": page(POSTS),
  "GET /results/posts/totals": sample("Totals", {
    whole: { posts: 3, values: { interactions: 120 }, n: { interactions: 3 } } as never,
  }),
  "GET /results/tags": TAGS,
};
const open = (path = "results/posts", answers: object = {}, role: "editor" | "viewer" = "editor") =>
  screenAt(path, { ...ANSWERS, ...answers }, role);
const rows = () => screen.getAllByRole("row").filter((row) => row.getAttribute("aria-rowindex"));
const press = (key: string, more: object = {}) => fireEvent.keyDown(screen.getByRole("rowgroup"), { key, ...more });

describe("the table of posts", () => {
  it("promises each post with its figures, and what a network does not tell as none", async () => {
    open();
    await screen.findByText("The tower clock");
    await waitFor(() => expect(cells(rows()[0] as HTMLElement)).toContain("900"));
    const first = cells(rows()[0] as HTMLElement);
    expect(first).toContain("40");
    expect(first).not.toContain("0");
    expect(first).not.toContain("null");
  });

  it("promises that columns chosen before the kept ones have come are shown at once, and nothing else is forgotten", async () => {
    const late = new Held();
    const kept: Record<string, unknown> = { columns: ["interactions"], forms: { reach: "bar" } };
    let asked = 0;
    const { user, server } = open("results/posts", {
      "GET /preferences": () => (asked++ === 0 ? late : { values: kept }),
      "PUT /preferences/columns": ({ body }: Asked) => {
        kept.columns = (body as { value: string[] }).value;
      },
    });
    await user.click(await screen.findByRole("button", { name: "Columns" }));
    const box = (await screen.findByRole("checkbox", { name: /Reach/ })) as HTMLInputElement;
    const was = box.checked;
    await user.click(box);
    expect(box.checked).toBe(!was);
    late.answer({ values: { columns: ["clicks"] } });
    await waitFor(() => expect(server.sent("GET /preferences").length).toBeGreaterThan(1));
    expect((screen.getByRole("checkbox", { name: /Reach/ }) as HTMLInputElement).checked).toBe(!was);
    expect(server.sent("PUT /preferences/columns")).toHaveLength(1);
  });

  it.each([
    ["refused", () => new Refusal(500, "Try again."), "Try again. The choice is as it was before."],
    [
      "never heard",
      () => {
        throw new TypeError("connection refused");
      },
      "Dakika cannot be reached. The choice is as it was before.",
    ],
  ])("promises that a choice that is %s is taken back, and that this is said", async (_, answer, words) => {
    const { user } = open("results/posts", { "PUT /preferences/columns": answer });
    await user.click(await screen.findByRole("button", { name: "Columns" }));
    const box = (await screen.findByRole("checkbox", { name: /Reach/ })) as HTMLInputElement;
    const was = box.checked;
    await user.click(box);
    expect(await screen.findByText(words)).toBeTruthy();
    await waitFor(() => expect(box.checked).toBe(was));
  });

  it("promises totals over all of them, by the right rule", async () => {
    open();
    await screen.findByText("The tower clock");
    const whole = (await screen.findByText(/^All of them/)).closest("[role=row]") as HTMLElement;
    expect(cells(whole)).toContain("120");
    expect(within(whole).getByTitle("over 3 posts")).toBeTruthy();
  });

  it("promises an order by any column, kept in the address, first the largest and then the smallest", async () => {
    const { user, server, address } = open();
    await screen.findByText("The tower clock");
    await user.click(await screen.findByRole("button", { name: /Interact\./ }));
    expect(address()).toContain("sort=-interactions");
    await waitFor(() => expect(server.sent("GET /results/posts").at(-1)?.query.get("sort")).toBe("-interactions"));
    await user.click(screen.getByRole("button", { name: /Interact\./ }));
    expect(address()).toContain("sort=interactions");
  });

  it("promises a column as wide as one draws it, with its whole name where there is room, kept once it rests", async () => {
    const { user, server } = open("results/posts", { "PUT /preferences/post-widths": ({ body }: Asked) => body });
    const edge = await screen.findByRole("separator", { name: "Width of Link clicks" });
    expect(screen.queryByRole("button", { name: "Link clicks" })).toBeNull();
    edge.focus();
    await user.keyboard("{ArrowRight}{ArrowRight}{ArrowRight}");
    expect(screen.getByRole("button", { name: "Link clicks" })).toBeTruthy();
    await waitFor(() => expect(server.sent("PUT /preferences/post-widths")).toHaveLength(1));
    expect(server.sent("PUT /preferences/post-widths")[0]?.body).toEqual({ value: { clicks: 116 } });
    await user.dblClick(edge);
    expect(edge.getAttribute("aria-valuenow")).toBe("68");
  });

  it("promises to walk, pick a range and open by keyboard", async () => {
    const { address } = open();
    await screen.findByText("The tower clock");
    press("x");
    press("J", { shiftKey: true });
    expect(await screen.findByText("2 posts picked")).toBeTruthy();
    expect(rows().map((row) => row.getAttribute("aria-selected"))).toEqual(["true", "true", "false"]);
    press("j");
    press("Enter");
    await waitFor(() => expect(address()).toContain("/results/posts/3"));
  });

  it("promises that what is picked is tagged in one step, with a new tag if need be", async () => {
    const { user, server } = open("results/posts", { "POST /results/posts/tags": sample("Tagged", { changed: 1 }) });
    await screen.findByText("The tower clock");
    press("x");
    press("t");
    const sheet = await screen.findByRole("dialog", { name: "Tags of 1 post" });
    await user.type(within(sheet).getByRole("textbox"), "sky tonight{Enter}");
    expect(await screen.findByText("1 post changed.")).toBeTruthy();
    expect(server.sent("POST /results/posts/tags")[0]?.body).toEqual({
      posts: [1],
      add: ["sky tonight"],
      take_off: [],
    });
  });

  it("promises that what is picked is put into a campaign together, or out of any", async () => {
    const { user, server } = open("results/posts", {
      "GET /campaigns": [{ id: 3, name: "Night Openings", colour: 1 }],
      "POST /plan/campaigns/3": { posts: 1 },
      "POST /plan/campaigns/none": { posts: 1 },
    });
    await screen.findByText("The tower clock");
    press("x");
    await user.click(await screen.findByRole("button", { name: "Put the picked posts into a campaign" }));
    await user.click(await screen.findByRole("menuitemradio", { name: "Night Openings" }));
    expect(await screen.findByText("1 post put into Night Openings.")).toBeTruthy();
    expect(server.sent("POST /plan/campaigns/3")[0]?.body).toEqual({ posts: [1] });
    await user.click(await screen.findByRole("button", { name: "Put the picked posts into a campaign" }));
    await user.click(await screen.findByRole("menuitemradio", { name: /out of any/ }));
    await waitFor(() => expect(server.sent("POST /plan/campaigns/none")).toHaveLength(1));
  });

  it("promises that those who may only look pick and compare, and tag nothing", async () => {
    open("results/posts", {}, "viewer");
    await screen.findByText("The tower clock");
    press("x");
    press("t");
    expect(await screen.findByText("1 post picked")).toBeTruthy();
    expect(screen.queryByRole("dialog")).toBeNull();
    expect(screen.queryByRole("button", { name: /Tag them/ })).toBeNull();
  });

  it("promises a search by the slash key, kept in the address, and words when nothing holds it", async () => {
    const { user, address } = open("results/posts", {
      "GET /results/posts": ({ query }: Asked) => (query.get("text") ? page([]) : page(POSTS)),
    });
    await screen.findByText("The tower clock");
    await user.keyboard("/");
    expect(document.activeElement).toBe(screen.getByRole("searchbox", { name: "Search the texts" }));
    await user.keyboard("zzz");
    expect(await screen.findByText("No post holds these words")).toBeTruthy();
    expect(address()).toContain("text=zzz");
  });

  it("promises to say how many are too young to be compared", async () => {
    const { user, address, server } = open("results/posts", {
      "GET /results/posts": page(POSTS, { too_young: 2 }),
    });
    expect(await screen.findByText(/2 posts are too young or were not read at this age: out of the sums/)).toBeTruthy();
    await user.click(screen.getByRole("button", { name: "put them among" }));
    expect(address()).toContain("young=among");
    await screen.findByRole("button", { name: "put them after" });
    expect(server.sent("GET /results/posts").at(-1)?.query.get("young")).toBe("among");
  });

  it("promises groups with totals of their own that lead to their posts", async () => {
    const { user, address } = open("results/posts?by=format", {
      "GET /results/posts/totals": sample("Totals", {
        whole: { posts: 3, values: { interactions: 120 }, n: {} } as never,
        groups: [
          { key: "image", name: "image", posts: 2, values: { interactions: 80 }, n: { interactions: 2 } },
          { key: "text", name: "text", posts: 1, values: { interactions: 40 }, n: { interactions: 1 } },
        ] as never,
      }),
    });
    const image = (await screen.findByRole("button", { name: /image/i })).closest("tr") as HTMLElement;
    expect(cells(image)).toEqual(expect.arrayContaining(["2", "80"]));
    await user.click(within(image).getByRole("button"));
    expect(address()).toContain("format=image");
  });

  it("promises the same posts as cards, pictures and all", async () => {
    const { user, address } = open("results/posts", {
      "GET /results/posts": page([post(1, "The tower clock", { picture: "https://commons.example/p/1.png" })]),
    });
    await screen.findByText("The tower clock");
    await user.click(screen.getByRole("button", { name: "as cards" }));
    expect(address()).toContain("form=cards");
    await screen.findByText("The tower clock");
    expect(document.querySelector("main img")?.getAttribute("src")).toBe("https://commons.example/p/1.png");
  });

  it("promises that a failure is said and asked again", async () => {
    let count = 0;
    const { user } = open("results/posts", {
      "GET /results/posts": () => (count++ ? page(POSTS) : new Refusal(409, "The posts are being measured anew.")),
    });
    expect(await screen.findByText("The posts are being measured anew.")).toBeTruthy();
    await user.click(screen.getByRole("button", { name: "Try again" }));
    expect(await screen.findByText("The tower clock")).toBeTruthy();
  });
});

describe("a post's own page", () => {
  const age = (age_hours: number, interactions: number | null, index: number | null = null) => ({
    age_hours,
    interactions,
    typical: 30,
    index,
    impressions: 400,
    reach: 300,
    link_clicks: 4,
  });
  const detail = (more: object = {}) =>
    sample("PostDetail", {
      id: 31,
      text: "School mornings: free guided visits",
      network: "brevi",
      format: "image",
      profile: "Orrery House",
      profile_id: 1,
      is_own: true,
      published_at: "2026-11-10T18:30:00Z",
      ages: [age(24, 30, 1.1), age(72, 60, 2), age(0, 80)],
      readings: [{ taken_at: "2026-11-11T18:30:00Z", age_hours: 24, interactions: 30 }],
      ...more,
    });
  const show = (more: object = {}, answers: object = {}, role: "editor" | "viewer" = "editor") =>
    screenAt(
      "results/posts/31",
      {
        "GET /results/posts/31": detail(more),
        "GET /foresight/posts/31": sample("PostOutlook"),
        "GET /links": sample("Links"),
        "GET /sources/posts/31/comments": [],
        "GET /plan/boosts": { boosts: [], next: null, limit: sample("BoostLimit") },
        ...answers,
      },
      role,
    );

  it("promises a verdict at equal age, and each age with what is typical then", async () => {
    show();
    expect(await screen.findByRole("heading", { name: "2.00 times a typical post at 72 hours" })).toBeTruthy();
    expect(cells(screen.getByText("72 hours").closest("tr") as HTMLElement)).toEqual(
      expect.arrayContaining(["60", "30", "2.00"]),
    );
  });

  it("promises no verdict before there is anything to judge by", async () => {
    show({ ages: [age(0, 5)] });
    expect(await screen.findByRole("heading", { name: "How it grew so far" })).toBeTruthy();
  });

  it("promises the network's clicks beside ours, and that a network that tells none is said", async () => {
    show(
      { ages: [{ ...age(0, 80), link_clicks: null }] },
      { "GET /links": sample("Links", { links: [{ id: 3, name: "Night tickets", clicks_ever: 12 }] as never }) },
    );
    expect(await screen.findByText("The network reports no clicks.")).toBeTruthy();
    expect((await screen.findByText(/12 clicks of people, counted by us/)).textContent).toContain("Night tickets");
  });

  it("promises that a comment that was taken away is shown as such", async () => {
    show(
      {},
      {
        "GET /sources/posts/31/comments": [
          sample("Comment", { id: 1, author: "Ana", text: "When do you open?" }),
          sample("Comment", { id: 2, author: "Rui", text: "Rude words", removed_at: "2026-11-11T10:00:00Z" }),
        ],
      },
    );
    expect(await screen.findByRole("heading", { name: "2 comments" })).toBeTruthy();
    expect(screen.getByText("Rude words").className).toContain("line-through");
    expect(screen.getByText("When do you open?").className).not.toContain("line-through");
  });

  it("promises that a post taken down stays, with when it was seen last", async () => {
    show({ removed_at: "2026-11-20T09:00:00Z" });
    expect(await screen.findByText(/Taken down at the network; seen last/)).toBeTruthy();
  });

  it("promises that a tag is put on and taken off here, and that rules are told apart from hands", async () => {
    const { user, server } = show(
      { tags: [{ id: 7, name: "workshop", colour: 2, is_by_rule: true }] },
      { "POST /results/posts/tags": sample("Tagged", { changed: 1 }), "GET /results/tags": TAGS },
    );
    expect(await screen.findByText("by rule")).toBeTruthy();
    await user.click(screen.getByRole("button", { name: "Take workshop off" }));
    await waitFor(() =>
      expect(server.sent("POST /results/posts/tags")[0]?.body).toEqual({ posts: [31], take_off: [7] }),
    );
  });

  it("promises a new post from it in one step, to those who may write", async () => {
    const draft = sample("PlannedPost", { id: 55, versions: [sample("Version", { link_id: 9 })] as never });
    const { user, server } = show({}, { "POST /plan/again/31": draft, "GET /plan/55": new Held() });
    await user.click(await screen.findByRole("button", { name: "Write a new one from it" }));
    expect(await screen.findByText(/are new, so that their clicks are told apart/)).toBeTruthy();
    await waitFor(() => expect(server.sent("GET /plan/55").length).toBeGreaterThan(0));
  });

  it("promises nothing to change on somebody else's post or to a viewer", async () => {
    show({ is_own: false }, {}, "viewer");
    await screen.findByRole("heading", { name: /times a typical post/ });
    expect(screen.queryByRole("button", { name: /Tag it|Take/ })).toBeNull();
    expect(screen.queryByRole("button", { name: "Write a new one from it" })).toBeNull();
  });

  it("promises a young post its index at its age, where it is heading, and what was said of it", async () => {
    const outlook = {
      id: 31,
      count: 212,
      typical: 150,
      index: 1.4,
      age_hours: 5,
      heading: 900,
      heading_low: 640,
      heading_high: 1300,
      band_low: 40,
      band_high: 400,
      band_posts: 86,
      state: "usual" as const,
    };
    const said = { horizon_hours: 3, value: 880, low: 500, high: 1500, truth: null, is_tried: false };
    show(
      {},
      {
        "GET /foresight/posts/31": sample("PostOutlook", {
          age_hours: 5,
          posts: 86,
          outlook: outlook as never,
          course: [
            { age_hours: 1, count: 60 },
            { age_hours: 168, count: 640 },
          ],
          metrics: [
            { key: "reach", name: "Reach", count: 2100, typical: 1500, index: 1.4, low: 1.1, high: 1.8 },
            { key: "saves", name: "Saves", count: 3, typical: null, index: null, low: null, high: null },
          ],
          said: [said as never],
        }),
      },
    );
    expect(await screen.findByRole("heading", { name: "1.40 times a typical post at its present age" })).toBeTruthy();
    expect(screen.getByText("Heading for 900 (640 to 1,300)")).toBeTruthy();
    expect(screen.getByText(/19 in 20 of the profile's 86 posts had 40 to 400/)).toBeTruthy();
    expect(cells(rowOf("Reach"))).toEqual(["Reach", "2,100", "1,500", "1.40", "1.10 to 1.80"]);
    expect(cells(rowOf("at 3 h"))).toEqual(["at 3 h", "880", "500 to 1,500", ""]);
  });
});
