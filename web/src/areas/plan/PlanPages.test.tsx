// @vitest-environment happy-dom
import { describe, expect, it } from "vitest";
import { type Asked, cleanup, Refusal, sample, screen, screenAt, waitFor, within } from "../../testing";

const networks = ["commons", "brevi"].map((key) =>
  sample("Network", {
    key,
    name: key[0]?.toUpperCase() + key.slice(1),
    monogram: key.slice(0, 2),
    offer: { has_publishing: true },
    has_options: false,
    title_limit: 0,
    media: { need: "", most_pictures: 4 },
  }),
);
const profiles = [
  { id: 1, name: "Orrery House", network: "commons", kind: "own", authorisation: "valid" },
  { id: 2, name: "Orrery", network: "brevi", kind: "own", authorisation: "valid" },
];
const planned = (more: object = {}) =>
  sample("PlannedPost", {
    id: 9,
    state: "draft",
    title: "Night opening",
    edition: 4,
    text: "Tonight we open late",
    versions: [{ id: 1, profile_id: 1, network: "commons", text: "Tonight we open late", state: "draft" }],
    ...more,
  });
/** Commons takes sixty letters, Brevi ten. */
const checked = ({ body }: Asked) => {
  const { common, versions } = body as {
    common: { text: string };
    versions: { profile_id: number; text: string | null }[];
  };
  return versions.map((v) => {
    const limit = v.profile_id === 1 ? 60 : 10;
    const text = v.text ?? common.text;
    const isOver = text.length > limit;
    return sample("Check", {
      profile_id: v.profile_id,
      text,
      count: text.length,
      limit,
      problems: isOver
        ? [{ code: "too_long", part: "text", message: `${text.length - limit} too many.`, is_blocking: true }]
        : [],
    });
  });
};
const ANSWERS = {
  "GET //networks": networks,
  "GET /sources": sample("Sources", { profiles: profiles as never }),
  "POST /plan/check": checked,
  "GET /timing": sample("Timing"),
  "GET /results/groups": sample("Groups"),
};

const text = () => screen.findByLabelText("Text for all") as Promise<HTMLTextAreaElement>;
const commons = /^Orrery House on Commons/;
const brevi = /^Orrery on Brevi/;
/** Begin to write in one version. */
async function into(user: ReturnType<typeof screenAt>["user"], name: RegExp) {
  await user.click(await screen.findByRole("button", { name }));
  return (await screen.findByLabelText(name, { selector: "textarea" })) as HTMLTextAreaElement;
}

describe("writing a post", () => {
  it("promises one text for all until a version has words of its own, each checked by its network's rules", async () => {
    const { user } = screenAt("plan/new", ANSWERS);
    await user.type(await text(), "Tonight we open late");
    expect(await screen.findByText("20 of 60")).toBeTruthy();
    expect(await screen.findByText("20 of 10")).toBeTruthy();
    expect((screen.getByRole("button", { name: /^Schedule/ }) as HTMLButtonElement).disabled).toBe(true);
    const own = await into(user, brevi);
    expect(own.value).toBe("Tonight we open late");
    await user.clear(own);
    await user.type(own, "Tonight");
    expect(await screen.findByText("3 left of 10")).toBeTruthy();
    expect(screen.getAllByText("own text").length).toBeGreaterThan(0);
    expect((await into(user, commons)).value).toBe("Tonight we open late");
    await into(user, brevi);
    await user.click(screen.getByRole("button", { name: "as for all again" }));
    expect((screen.getByLabelText(brevi, { selector: "textarea" }) as HTMLTextAreaElement).value).toBe(
      "Tonight we open late",
    );
  });

  it("promises that what is common still reaches those that did not change it", async () => {
    const { user, server } = screenAt("plan/new", { ...ANSWERS, "POST /plan": planned(), "GET /plan/9": planned() });
    await user.type(await text(), "One");
    await user.type(await into(user, brevi), " more");
    await user.click(screen.getByRole("button", { name: /^All versions/ }));
    await user.type(await text(), " two");
    await user.click(screen.getByRole("button", { name: "Save as draft" }));
    await waitFor(() => expect(server.sent("POST /plan")).toHaveLength(1));
    expect(server.sent("POST /plan")[0]?.body).toMatchObject({
      common: { text: "One two" },
      versions: [
        { profile_id: 1, text: null },
        { profile_id: 2, text: "One more" },
      ],
    });
  });

  it("promises that what is typed survives a page that is opened again", async () => {
    const first = screenAt("plan/new", ANSWERS);
    await first.user.type(await text(), "Kept");
    expect(await screen.findByText(/^Not saved yet; kept in this browser/)).toBeTruthy();
    cleanup();
    screenAt("plan/new", ANSWERS);
    expect((await text()).value).toBe("Kept");
  });

  it("promises what was written on another machine, and who else is at it", async () => {
    const { user } = screenAt("plan/9", {
      ...ANSWERS,
      "GET /plan/9": planned(),
      "GET /plan/writing": sample("Writing", {
        content: {
          title: "",
          text: "From the office",
          own: {},
          options: {},
          links: {},
          media: [],
          headline: "",
          comment: "",
          profiles: [1],
          day: "2026-12-01",
          time: "",
        },
        at: "2026-11-25T11:00:00Z",
        others: ["Tomás Reis"],
      }),
    });
    expect(await screen.findByText(/Tomás Reis has this post open too/)).toBeTruthy();
    await user.click(await screen.findByRole("button", { name: "Take it up" }));
    expect((await text()).value).toBe("From the office");
  });

  it("promises the hour it was asked for, by the brand's clocks", async () => {
    screenAt("plan/new?at=2026-12-01T19:30:00Z&profile=2", ANSWERS);
    expect(((await screen.findByLabelText("Day")) as HTMLInputElement).value).toBe("1 Dec 2026");
    expect((screen.getByLabelText("Time") as HTMLInputElement).value).toBe("19:30");
    expect((screen.getByRole("checkbox", { name: /Orrery$/ }) as HTMLInputElement).checked).toBe(true);
    expect((screen.getByRole("checkbox", { name: /Orrery House$/ }) as HTMLInputElement).checked).toBe(false);
  });

  it("promises to save and then schedule, and to say for when", async () => {
    const { user, server, address } = screenAt("plan/new?at=2026-12-01T19:30:00Z&profile=1", {
      ...ANSWERS,
      "POST /plan": planned(),
      "POST /plan/9/schedule": planned({ state: "scheduled", scheduled_at: "2026-12-01T19:30:00Z" }),
    });
    await user.type(await text(), "Late tonight");
    await screen.findByText("12 of 60");
    await user.click(screen.getByRole("button", { name: /^Schedule for/ }));
    expect(await screen.findByText(/^Scheduled for/)).toBeTruthy();
    expect(server.sent("POST /plan")[0]?.body).toMatchObject({
      scheduled_at: "2026-12-01T19:30:00Z",
      common: { text: "Late tonight" },
      versions: [{ profile_id: 1, text: null, link_id: null }],
    });
    expect(server.sent("POST /plan/9/schedule")[0]?.body).toEqual({
      scheduled_at: "2026-12-01T19:30:00Z",
      edition: 4,
      grace: 0,
    });
    expect(address()).toContain("/plan?day=2026-12-01");
  });

  it("promises to go on with the next for the same profiles and campaign", async () => {
    const { user, address } = screenAt("plan/new?at=2026-12-01T19:30:00Z&profile=1", {
      ...ANSWERS,
      "POST /plan": planned(),
      "POST /plan/9/schedule": planned({ state: "scheduled", scheduled_at: "2026-12-01T19:30:00Z" }),
    });
    await user.type(await text(), "Late tonight");
    await screen.findByText("12 of 60");
    await user.click(screen.getByRole("button", { name: "and write the next" }));
    await waitFor(async () => expect((await text()).value).toBe(""));
    expect(address()).toContain("profiles=1");
    expect((screen.getByRole("checkbox", { name: /Orrery House$/ }) as HTMLInputElement).checked).toBe(true);
    expect((screen.getByRole("checkbox", { name: /Orrery$/ }) as HTMLInputElement).checked).toBe(false);
  });

  it("promises that now is five minutes ahead, and that a version can have a minute of its own", async () => {
    const { user, server } = screenAt("plan/new?at=2026-12-01T19:30:00Z", {
      ...ANSWERS,
      "POST /plan": planned(),
      "GET /plan/9": planned(),
      "POST /plan/9/schedule": planned({ state: "scheduled" }),
    });
    await user.type(await text(), "Late");
    await into(user, brevi);
    await user.click(await screen.findByRole("checkbox", { name: /has a time of its own/ }));
    const time = screen.getByLabelText("Time");
    await user.clear(time);
    await user.type(time, "21:00");
    await screen.findByText("4 of 10");
    await user.click(screen.getByRole("button", { name: "Publish in five minutes" }));
    await waitFor(() => expect(server.sent("POST /plan/9/schedule")).toHaveLength(1));
    expect(server.sent("POST /plan/9/schedule")[0]?.body).toEqual({ scheduled_at: null, edition: 4, grace: 300 });
    expect(server.sent("POST /plan")[0]?.body).toMatchObject({
      versions: [{ scheduled_at: null }, { scheduled_at: "2026-12-01T21:00:00Z" }],
    });
  });

  it("promises that two who write at once do not write over each other", async () => {
    const { user } = screenAt("plan/9", {
      ...ANSWERS,
      "GET /plan/9": planned(),
      "PUT /plan/9": new Refusal(409, "Tomás changed it meanwhile. Your words are kept here."),
    });
    const field = await text();
    await user.type(field, " indeed");
    await user.click(screen.getByRole("button", { name: "Save as draft" }));
    expect(await screen.findByText(/Tomás changed it meanwhile/)).toBeTruthy();
    expect(field.value).toBe("Tonight we open late indeed");
  });

  it("promises that theirs and mine are seen side by side, and that mine is saved only knowingly", async () => {
    const theirs = planned({ edition: 5, text: "Tonight we close early" });
    let now = planned();
    const { user, server } = screenAt("plan/9", {
      ...ANSWERS,
      "GET /plan/9": () => now,
      "PUT /plan/9": ({ body }: Asked) => {
        if ((body as { edition?: number }).edition === 5) return planned({ edition: 6 });
        now = theirs;
        return new Refusal(409, "Somebody changed this post while you were writing.");
      },
    });
    const field = await text();
    await user.type(field, " indeed");
    await user.click(screen.getByRole("button", { name: "Save as draft" }));
    const table = within(await screen.findByRole("table"));
    expect(table.getByText("Tonight we close early")).toBeTruthy();
    expect(table.getByText("Tonight we open late indeed")).toBeTruthy();
    expect(table.queryByText("Campaign")).toBeNull();
    expect(server.sent("PUT /plan/9")[0]?.body).toMatchObject({ edition: 4 });
    await user.click(screen.getByRole("button", { name: "Go on with mine" }));
    expect(field.value).toBe("Tonight we open late indeed");
    await user.click(screen.getByRole("button", { name: "Save as draft" }));
    await waitFor(() => expect(server.sent("PUT /plan/9")[1]?.body).toMatchObject({ edition: 5 }));
  });

  it("promises what was read is what is changed: text kept over a reload keeps its edition", async () => {
    const first = screenAt("plan/9", { ...ANSWERS, "GET /plan/9": planned() });
    await first.user.type(await text(), " indeed");
    cleanup();
    const theirs = planned({ edition: 5, title: "Theirs" });
    const { user } = screenAt("plan/9", { ...ANSWERS, "GET /plan/9": theirs });
    await user.click(await screen.findByRole("button", { name: "Take theirs" }));
    expect((await text()).value).toBe("Tonight we open late");
    expect((screen.getByLabelText("Working title") as HTMLInputElement).value).toBe("Theirs");
    expect(screen.queryByText(/Not saved yet/)).toBeNull();
  });

  it("promises that what a closed tab left is offered, and that two tabs never write over each other", async () => {
    const first = screenAt("plan/new", ANSWERS);
    await first.user.type(await text(), "From the first tab");
    cleanup();
    sessionStorage.clear(); // another tab
    const { user } = screenAt("plan/new", ANSWERS);
    const field = await text();
    expect(field.value).toBe("");
    await user.type(field, "From the second");
    expect(await screen.findByText("From the first tab")).toBeTruthy();
    await user.click(screen.getByRole("button", { name: "Take it up" }));
    expect(field.value).toBe("From the first tab");
  });

  it("promises nobody the drafts of another person or brand", async () => {
    const first = screenAt("plan/new", ANSWERS);
    await first.user.type(await text(), "Mine");
    cleanup();
    const other = {
      ...ANSWERS,
      "GET //session": sample("Session", {
        email: "other@ninthbell.example",
        brands: [{ slug: "orrery-house", name: "Orrery House", role: "admin" }],
      }),
    };
    screenAt("plan/new", other);
    expect((await text()).value).toBe("");
    expect(screen.queryByText("Mine")).toBeNull();
  });

  it("promises that an hour in the address wins over a draft of before", async () => {
    const first = screenAt("plan/new?at=2026-12-01T19:30:00Z&profile=2", ANSWERS);
    await first.user.type(await text(), "Kept");
    cleanup();
    screenAt("plan/new?at=2026-12-03T08:15:00Z&profile=1", ANSWERS);
    expect((await text()).value).toBe("Kept");
    expect((screen.getByLabelText("Day") as HTMLInputElement).value).toBe("3 Dec 2026");
    expect((screen.getByLabelText("Time") as HTMLInputElement).value).toBe("08:15");
    expect((screen.getByRole("checkbox", { name: /Orrery$/ }) as HTMLInputElement).checked).toBe(false);
  });

  it("promises that what went out is not written on", async () => {
    const { user } = screenAt("plan/9", {
      ...ANSWERS,
      "GET /plan/9": planned({
        state: "failed",
        versions: [
          { id: 1, profile_id: 1, network: "commons", text: "Out", state: "published", own: ["text"] },
          { id: 2, profile_id: 2, network: "brevi", text: "Not out", state: "failed", own: ["text"] },
        ],
      }),
    });
    expect((await into(user, commons)).readOnly).toBe(true);
    expect((await into(user, brevi)).readOnly).toBe(false);
    expect((screen.getByRole("checkbox", { name: /Orrery House$/ }) as HTMLInputElement).disabled).toBe(true);
  });

  it("promises a link of its own for each version, and words that stay one", async () => {
    const link = (id: number) =>
      sample("Link", { id, short: `https://short.example/${id}`, destination: "https://orrery.example/" });
    const { user, server } = screenAt("plan/new", {
      ...ANSWERS,
      "POST /links/preview": sample("Proposal"),
      "POST /links": link(1),
      "POST /links/bulk": [link(2)],
    });
    await user.type(await text(), "Come");
    await user.click(screen.getByRole("button", { name: "tracked link" }));
    const sheet = await screen.findByRole("dialog");
    await user.type(await within(sheet).findByLabelText("Leads to"), "https://orrery.example/");
    await user.click(within(sheet).getByRole("button", { name: "Make the link" }));
    await waitFor(async () => expect((await text()).value).toBe("Come\nhttps://orrery.example/"));
    expect((await into(user, brevi)).value).toBe("Come\nhttps://short.example/2");
    expect((await into(user, commons)).value).toBe("Come\nhttps://short.example/1");
    expect(screen.queryByText("own text")).toBeNull();
    expect(server.sent("POST /links/bulk")[0]?.body).toMatchObject({ rows: [{ network: "brevi", profile_id: 2 }] });
  });

  it("promises what became of each version, and the one step that helps", async () => {
    const { user, server } = screenAt("plan/9", {
      ...ANSWERS,
      "GET /plan/9": planned({
        state: "failed",
        versions: [
          {
            id: 1,
            profile_id: 1,
            network: "commons",
            state: "published",
            post_id: 77,
            published_at: "2026-11-24T10:00:00Z",
            first_comment_state: "failed",
            first_comment_error: "Commons takes no comment now.",
          },
          { id: 2, profile_id: 2, network: "brevi", state: "missed", error: "Its time passed.", remedy: "later" },
        ],
      }),
      "POST /plan/versions/1/settle": sample("GoingOut"),
      "POST /plan/versions/2/settle": sample("GoingOut"),
    });
    expect(await screen.findByText("Its time passed.")).toBeTruthy();
    expect(screen.getByRole("link", { name: "its results" }).getAttribute("href")).toContain("/results/posts/77");
    await user.click(screen.getByRole("button", { name: "Send it now" }));
    await user.click(screen.getByRole("button", { name: "Write the first comment again" }));
    expect(server.sent("POST /plan/versions/2/settle")[0]?.body).toEqual({ what: "send" });
    expect(server.sent("POST /plan/versions/1/settle")[0]?.body).toEqual({ what: "say_again" });
  });

  it("promises that those who may only look change nothing", async () => {
    screenAt("plan/9", { ...ANSWERS, "GET /plan/9": planned() }, "viewer");
    expect((await text()).readOnly).toBe(true);
    expect(screen.queryByRole("button", { name: /Save|Schedule|Publish in|Throw/ })).toBeNull();
  });

  it("promises a way on when no profile is connected", async () => {
    screenAt("plan/new", { ...ANSWERS, "GET /sources": sample("Sources") });
    expect(await screen.findByRole("link", { name: "Connect a profile first" })).toBeTruthy();
  });

  it("promises files brought, put in order, and sent in that order", async () => {
    const asset = (id: number, name: string) =>
      sample("Asset", {
        id,
        name,
        state: "ready",
        kind: "picture",
        words: "A clock",
        width: 80,
        height: 80,
        focus_x: 0.5,
        focus_y: 0.5,
      });
    const { user, server } = screenAt("plan/new?profile=1", {
      ...ANSWERS,
      "GET /media": sample("Assets", { assets: [asset(3, "clock.jpg"), asset(4, "tower.jpg")] as never, next: null }),
      "GET /media/tags": [],
      "GET /media/3": asset(3, "clock.jpg"),
      "GET /media/4": asset(4, "tower.jpg"),
      "POST /plan": planned(),
      "GET /plan/9": planned(),
    });
    await user.type(await text(), "See");
    await user.click(screen.getByRole("button", { name: "Pictures and videos" }));
    const sheet = within(await screen.findByRole("dialog"));
    await user.click(await sheet.findByRole("button", { name: /clock.jpg/ }));
    await user.click(sheet.getByRole("button", { name: /tower.jpg/ }));
    await user.click(sheet.getByRole("button", { name: "Done" }));
    await user.click(await screen.findByRole("button", { name: "Move tower.jpg forward" }));
    await user.click(screen.getByRole("button", { name: "Save as draft" }));
    await waitFor(() => expect(server.sent("POST /plan")[0]?.body).toMatchObject({ common: { media: [4, 3] } }));
  });
});

describe("the calendar", () => {
  const week = (more: object = {}) => sample("Plan", more);
  const entry = (more: object = {}) =>
    sample("CalendarEntry", {
      id: 1,
      title: "Sky tonight",
      state: "scheduled",
      at: "2026-11-26T10:00:00Z",
      edition: 2,
      ...more,
    });

  it("promises planned posts beside published ones, and what did not go out on top with what to do", async () => {
    const { user, server } = screenAt("plan", {
      ...ANSWERS,
      "GET /plan": week({
        planned: [entry(), entry({ id: 2, state: "failed", at: "2026-11-24T10:00:00Z", title: "Gears" })],
        published: [
          { id: 5, at: "2026-11-23T09:00:00Z", network: "brevi", text: "A clock", index: 1.42, planned: null },
          { id: 6, at: "2026-11-26T10:00:00Z", network: "brevi", text: "Twice", index: null, planned: 1 },
        ],
      }),
      "GET /plan/going-out": sample("GoingOut", {
        to_settle: [
          {
            id: 8,
            planned: 2,
            title: "Gears",
            network: "brevi",
            state: "failed",
            error: "Brevi was away.",
            remedy: "later",
            at: "2026-11-24T10:00:00Z",
          },
        ] as never,
      }),
      "POST /plan/versions/8/settle": sample("GoingOut"),
    });
    expect(await screen.findByText(/1 post scheduled/)).toBeTruthy();
    expect(await screen.findByText("Brevi was away.")).toBeTruthy();
    await user.click(screen.getByRole("button", { name: "Send it now" }));
    expect(server.sent("POST /plan/versions/8/settle")[0]?.body).toEqual({ what: "send" });
    expect(screen.getByRole("link", { name: /10:00 Sky tonight/ })).toBeTruthy();
    expect(screen.getByText("1.42 A clock")).toBeTruthy();
    expect(screen.queryByText(/Twice/)).toBeNull(); // it stands there as planned
  });

  it("promises weeks one after the other, kept in the address", async () => {
    const { user, address } = screenAt("plan", { ...ANSWERS, "GET /plan": week() });
    await user.click(await screen.findByRole("button", { name: "The week after" }));
    expect(address()).toContain("day=2026-12-02");
    await user.click(screen.getByRole("button", { name: "today" }));
    expect(address()).not.toContain("day=");
    await user.click(screen.getByRole("button", { name: "month" }));
    expect(address()).toContain("view=month");
    await user.click(await screen.findByRole("button", { name: "The month after" }));
    expect(address()).toContain("day=2026-12-01");
  });

  it.each(["week", "month"])("promises that a post is moved by the keyboard in the %s", async (view) => {
    const { user, server } = screenAt(`plan?view=${view}`, {
      ...ANSWERS,
      "GET /plan": week({ planned: [entry()] }),
      "POST /plan/1/move": planned(),
    });
    (await screen.findByRole("link", { name: /10:00 Sky tonight/ })).focus();
    await user.keyboard("{Alt>}{ArrowRight}{/Alt}");
    await waitFor(() =>
      expect(server.sent("POST /plan/1/move")[0]?.body).toEqual({ scheduled_at: "2026-11-27T10:00:00Z", edition: 2 }),
    );
    await user.keyboard("{Alt>}{ArrowDown}{/Alt}");
    const later = view === "week" ? "2026-11-26T10:15:00Z" : "2026-12-03T10:00:00Z";
    await waitFor(() => expect(server.sent("POST /plan/1/move")[1]?.body).toEqual({ scheduled_at: later, edition: 2 }));
  });

  it("promises that what went out, and what others may move, stays where it is", async () => {
    const out = { ...ANSWERS, "GET /plan": week({ planned: [entry({ state: "published" })] }) };
    const { user, server } = screenAt("plan", out);
    (await screen.findByRole("link", { name: /10:00 Sky tonight/ })).focus();
    await user.keyboard("{Alt>}{ArrowRight}{/Alt}");
    cleanup();
    const looking = screenAt("plan", { ...ANSWERS, "GET /plan": week({ planned: [entry()] }) }, "viewer");
    (await screen.findByRole("link", { name: /10:00 Sky tonight/ })).focus();
    await looking.user.keyboard("{Alt>}{ArrowRight}{/Alt}");
    expect([...server.asked, ...looking.server.asked].some((one) => one.path.endsWith("/move"))).toBe(false);
  });

  it("promises holidays, notes, campaigns and clashes where they are", async () => {
    screenAt("plan", {
      ...ANSWERS,
      "GET /plan": week({
        planned: [entry(), entry({ id: 2, title: "Gears", at: "2026-11-26T10:05:00Z" })],
        clashes: [{ kind: "at_once", first: 1, second: 2, hours: 1 / 12, campaign: null }],
        days: [{ day: "2026-11-26", name: "Founders' Day", country: "PT" }],
        notes: [{ id: 3, first: "2026-11-25", last: "2026-11-26", text: "Closed" }],
        campaigns: [{ id: 4, name: "Comets", first_day: "2026-11-20", last_day: "2026-11-30", colour: 2 }],
      }),
    });
    expect(await screen.findByText("only 5 minutes apart")).toBeTruthy();
    expect(screen.getAllByText("Founders' Day").length).toBe(2); // on its day, and in the list
    expect(screen.getAllByText("Closed").length).toBe(3); // on both days, and in the list
    expect(screen.getAllByRole("img", { name: "In the campaign Comets" }).length).toBe(7);
  });

  it("promises that tags of a post to come are seen and taken off where it is written", async () => {
    const { user, server } = screenAt("plan/9", {
      ...ANSWERS,
      "GET /results/tags": [sample("Tag", { id: 3, name: "clocks" }), sample("Tag", { id: 4, name: "night" })],
      "GET /plan/9": planned({ tags: [3], from_idea: null, from_post: null, repetition: null }),
      "PUT /plan/9": planned({ edition: 5, tags: [4] }),
    });
    await user.click(await screen.findByRole("button", { name: "Take the tag clocks off" }));
    await user.selectOptions(screen.getByLabelText("Another tag when it is out"), "night");
    await user.click(screen.getByRole("button", { name: "Save as draft" }));
    await waitFor(() => expect(server.sent("PUT /plan/9")[0]?.body).toMatchObject({ tags: [4], edition: 4 }));
  });

  it("promises many chosen in the list to be moved together, what could not be told, and one undo", async () => {
    const { user, server } = screenAt("plan?view=list", {
      ...ANSWERS,
      "GET /plan": week({
        planned: [
          entry(),
          entry({ id: 2, title: "Gears", at: "2026-11-26T10:05:00Z", edition: 5 }),
          entry({ id: 3, title: "Out already", state: "published" }),
        ],
      }),
      "POST /plan/several": { id: 6, changed: 1, refused: [{ id: 2, title: "Gears", why: "This time has passed." }] },
      "POST /plan/several/6/undo": { undone: 1, left: 0 },
    });
    await user.click(await screen.findByLabelText("Choose Gears"));
    expect(screen.queryByLabelText("Choose Out already")).toBeNull();
    await user.click(screen.getAllByRole("checkbox", { name: /^Choose / })[0] as HTMLElement);
    await user.clear(screen.getByLabelText("By how many days"));
    await user.type(screen.getByLabelText("By how many days"), "-2");
    await user.click(screen.getByRole("button", { name: "days earlier" }));
    await waitFor(() =>
      expect(server.sent("POST /plan/several")[0]?.body).toMatchObject({
        what: "move",
        days: -2,
        posts: expect.arrayContaining([{ id: 2, edition: 5 }]),
      }),
    );
    expect(await screen.findByText("Gears: This time has passed.")).toBeTruthy();
    await user.click(screen.getByRole("button", { name: "Undo" }));
    expect(await screen.findByText("1 post as before.")).toBeTruthy();
  });

  it("promises that a pause is seen, and that whoever ends it says what becomes of the rest", async () => {
    const { user, server } = screenAt("plan", {
      ...ANSWERS,
      "GET /plan/going-out": sample("GoingOut", {
        pauses: [
          {
            profile: null,
            name: "",
            why: "A fire next door",
            begun_at: "2026-11-25T09:00:00Z",
            begun_by: "Mira",
            waiting: 3,
          },
        ] as never,
      }),
      "PUT /plan/pauses": { overdue: 1 },
    });
    expect(await screen.findByText(/A fire next door/)).toBeTruthy();
    expect(screen.getByText("3 versions waiting")).toBeTruthy();
    await user.click(screen.getByRole("button", { name: "End the pause" }));
    await user.click(await screen.findByRole("checkbox", { name: /Send at once/ }));
    await user.click(screen.getByRole("button", { name: "End it" }));
    await waitFor(() =>
      expect(server.sent("PUT /plan/pauses")[0]?.body).toEqual({ profile: null, send_overdue: true }),
    );
  });

  it("promises that a draft without a time is not lost, and a list day after day", async () => {
    screenAt("plan?view=list", {
      ...ANSWERS,
      "GET /plan": week({
        planned: [entry()],
        drafts: [entry({ id: 9, title: "Some day", at: null, state: "draft" })],
      }),
    });
    expect((await screen.findByRole("link", { name: /Some day/ })).getAttribute("href")).toContain("/plan/9");
    expect(screen.getByText(/Thursday 26 November/)).toBeTruthy();
  });
});
