// @vitest-environment happy-dom
import { describe, expect, it } from "vitest";
import { type Asked, cleanup, Refusal, sample, screen, screenAt, waitFor, within } from "../../testing";

const networks = ["commons", "brevi"].map((key) =>
  sample("Network", {
    key,
    name: key[0]?.toUpperCase() + key.slice(1),
    monogram: key.slice(0, 2),
    offer: { has_publishing: true },
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
    versions: [{ id: 1, profile_id: 1, network: "commons", text: "Tonight we open late", state: "draft" }],
    ...more,
  });
/** Commons takes sixty letters, Brevi ten. */
const checked = ({ body }: Asked) =>
  (body as { versions: { profile_id: number; text: string }[] }).versions.map((v) => {
    const limit = v.profile_id === 1 ? 60 : 10;
    const isOver = v.text.length > limit;
    return sample("Check", {
      profile_id: v.profile_id,
      count: v.text.length,
      limit,
      problems: isOver ? [{ code: "too_long", message: `${v.text.length - limit} too many.`, is_blocking: true }] : [],
    });
  });
const ANSWERS = {
  "GET //networks": networks,
  "GET /sources": sample("Sources", { profiles: profiles as never }),
  "POST /plan/check": checked,
  "GET /timing": sample("Timing"),
};

describe("writing a post", () => {
  it("promises one text for all until a version has words of its own, each checked by its network's rules", async () => {
    const { user } = screenAt("plan/new", ANSWERS);
    await user.type(await screen.findByLabelText("Orrery House on Commons"), "Tonight we open late");
    expect((screen.getByLabelText("Orrery on Brevi") as HTMLTextAreaElement).value).toBe("Tonight we open late");
    expect(await screen.findByText("20 of 60")).toBeTruthy();
    expect(await screen.findByText("20 of 10")).toBeTruthy();
    expect((screen.getByRole("button", { name: /^Schedule/ }) as HTMLButtonElement).disabled).toBe(true);
    await user.clear(screen.getByLabelText("Orrery on Brevi"));
    await user.type(screen.getByLabelText("Orrery on Brevi"), "Tonight");
    expect((screen.getByLabelText("Orrery House on Commons") as HTMLTextAreaElement).value).toBe(
      "Tonight we open late",
    );
    expect(await screen.findByText("7 of 10")).toBeTruthy();
    expect(screen.getByText("own words")).toBeTruthy();
    await user.click(screen.getByRole("button", { name: "take the text above again" }));
    expect((screen.getByLabelText("Orrery on Brevi") as HTMLTextAreaElement).value).toBe("Tonight we open late");
  });

  it("promises that what is typed survives a page that is opened again", async () => {
    const first = screenAt("plan/new", ANSWERS);
    await first.user.type(await screen.findByLabelText("Orrery House on Commons"), "Kept");
    expect(await screen.findByText("Not saved yet; kept in this browser.")).toBeTruthy();
    cleanup();
    screenAt("plan/new", ANSWERS);
    expect(((await screen.findByLabelText("Orrery House on Commons")) as HTMLTextAreaElement).value).toBe("Kept");
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
    await user.type(await screen.findByLabelText("Orrery House on Commons"), "Late tonight");
    await screen.findByText("12 of 60");
    await user.click(screen.getByRole("button", { name: /^Schedule for/ }));
    expect(await screen.findByText(/^Scheduled for/)).toBeTruthy();
    expect(server.sent("POST /plan")[0]?.body).toMatchObject({
      scheduled_at: "2026-12-01T19:30:00Z",
      versions: [{ profile_id: 1, text: "Late tonight", link_id: null }],
    });
    expect(server.sent("POST /plan/9/schedule")[0]?.body).toEqual({
      scheduled_at: "2026-12-01T19:30:00Z",
      edition: 4,
    });
    expect(address()).toContain("/plan?week=2026-12-01");
  });

  it("promises that two who write at once do not write over each other", async () => {
    const { user } = screenAt("plan/9", {
      ...ANSWERS,
      "GET /plan/9": planned(),
      "PUT /plan/9": new Refusal(409, "Tomás changed it meanwhile. Your words are kept here."),
    });
    const text = await screen.findByLabelText("Orrery House on Commons");
    await user.type(text, " indeed");
    await user.click(screen.getByRole("button", { name: "Save as draft" }));
    expect(await screen.findByText(/Tomás changed it meanwhile/)).toBeTruthy();
    expect((text as HTMLTextAreaElement).value).toBe("Tonight we open late indeed");
  });

  it("promises that theirs and mine are seen side by side, and that mine is saved only knowingly", async () => {
    const theirs = planned({
      edition: 5,
      versions: [{ id: 1, profile_id: 1, network: "commons", text: "Tonight we close early", state: "draft" }],
    });
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
    const text = (await screen.findByLabelText("Orrery House on Commons")) as HTMLTextAreaElement;
    await user.type(text, " indeed");
    await user.click(screen.getByRole("button", { name: "Save as draft" }));
    const table = within(await screen.findByRole("table"));
    expect(table.getByText("Tonight we close early")).toBeTruthy();
    expect(table.getByText("Tonight we open late indeed")).toBeTruthy();
    expect(table.queryByText("Campaign")).toBeNull();
    expect(server.sent("PUT /plan/9")[0]?.body).toMatchObject({ edition: 4 });
    await user.click(screen.getByRole("button", { name: "Go on with mine" }));
    expect(text.value).toBe("Tonight we open late indeed");
    await user.click(screen.getByRole("button", { name: "Save as draft" }));
    await waitFor(() => expect(server.sent("PUT /plan/9")[1]?.body).toMatchObject({ edition: 5 }));
  });

  it("promises what was read is what is changed: text kept over a reload keeps its edition", async () => {
    const first = screenAt("plan/9", { ...ANSWERS, "GET /plan/9": planned() });
    await first.user.type(await screen.findByLabelText("Orrery House on Commons"), " indeed");
    cleanup();
    const theirs = planned({ edition: 5, title: "Theirs" });
    const { user } = screenAt("plan/9", { ...ANSWERS, "GET /plan/9": theirs });
    await user.click(await screen.findByRole("button", { name: "Take theirs" }));
    expect((screen.getByLabelText("Orrery House on Commons") as HTMLTextAreaElement).value).toBe(
      "Tonight we open late",
    );
    expect((screen.getByLabelText("Working title") as HTMLInputElement).value).toBe("Theirs");
    expect(screen.queryByText(/Not saved yet/)).toBeNull();
  });

  it("promises that what a closed tab left is offered, and that two tabs never write over each other", async () => {
    const first = screenAt("plan/new", ANSWERS);
    await first.user.type(await screen.findByLabelText("Orrery House on Commons"), "From the first tab");
    cleanup();
    sessionStorage.clear(); // another tab
    const { user } = screenAt("plan/new", ANSWERS);
    const text = (await screen.findByLabelText("Orrery House on Commons")) as HTMLTextAreaElement;
    expect(text.value).toBe("");
    await user.type(text, "From the second");
    expect(await screen.findByText("From the first tab")).toBeTruthy();
    await user.click(screen.getByRole("button", { name: "Take it up" }));
    expect(text.value).toBe("From the first tab");
  });

  it("promises nobody the drafts of another person or brand", async () => {
    const first = screenAt("plan/new", ANSWERS);
    await first.user.type(await screen.findByLabelText("Orrery House on Commons"), "Mine");
    cleanup();
    const other = {
      ...ANSWERS,
      "GET //session": sample("Session", {
        email: "other@ninthbell.example",
        brands: [{ slug: "orrery-house", name: "Orrery House", role: "admin" }],
      }),
    };
    screenAt("plan/new", other);
    expect(((await screen.findByLabelText("Orrery House on Commons")) as HTMLTextAreaElement).value).toBe("");
    expect(screen.queryByText("Mine")).toBeNull();
  });

  it("promises that an hour in the address wins over a draft of before", async () => {
    const first = screenAt("plan/new?at=2026-12-01T19:30:00Z&profile=2", ANSWERS);
    await first.user.type(await screen.findByLabelText("Orrery on Brevi"), "Kept");
    cleanup();
    screenAt("plan/new?at=2026-12-03T08:15:00Z&profile=1", ANSWERS);
    expect(((await screen.findByLabelText("Orrery House on Commons")) as HTMLTextAreaElement).value).toBe("Kept");
    expect((screen.getByLabelText("Day") as HTMLInputElement).value).toBe("3 Dec 2026");
    expect((screen.getByLabelText("Time") as HTMLInputElement).value).toBe("08:15");
    expect(screen.queryByLabelText("Orrery on Brevi")).toBeNull();
  });

  it("promises that what went out is not written on", async () => {
    screenAt("plan/9", {
      ...ANSWERS,
      "GET /plan/9": planned({
        state: "failed",
        versions: [
          { id: 1, profile_id: 1, network: "commons", text: "Out", state: "published" },
          { id: 2, profile_id: 2, network: "brevi", text: "Not out", state: "failed" },
        ],
      }),
    });
    expect(((await screen.findByLabelText("Orrery House on Commons")) as HTMLTextAreaElement).readOnly).toBe(true);
    expect((screen.getByLabelText("Orrery on Brevi") as HTMLTextAreaElement).readOnly).toBe(false);
    expect((screen.getByRole("checkbox", { name: /Orrery House$/ }) as HTMLInputElement).disabled).toBe(true);
  });

  it("promises a link of its own for each version", async () => {
    const link = (id: number) =>
      sample("Link", { id, short: `https://short.example/${id}`, destination: "https://orrery.example/" });
    const { user, server } = screenAt("plan/new", {
      ...ANSWERS,
      "POST /links/preview": sample("Proposal"),
      "POST /links": link(1),
      "POST /links/bulk": [link(2)],
    });
    await user.type(await screen.findByLabelText("Orrery House on Commons"), "Come");
    await user.click(screen.getAllByRole("button", { name: "put in a tracked link" })[0] as HTMLElement);
    const sheet = await screen.findByRole("dialog");
    await user.type(within(sheet).getByLabelText("Leads to"), "https://orrery.example/");
    await user.click(within(sheet).getByRole("button", { name: "Make the link" }));
    await waitFor(() =>
      expect((screen.getByLabelText("Orrery on Brevi") as HTMLTextAreaElement).value).toBe(
        "Come\nhttps://short.example/2",
      ),
    );
    expect((screen.getByLabelText("Orrery House on Commons") as HTMLTextAreaElement).value).toBe(
      "Come\nhttps://short.example/1",
    );
    expect(server.sent("POST /links/bulk")[0]?.body).toMatchObject({ rows: [{ network: "brevi", profile_id: 2 }] });
  });

  it("promises what became of each version, and that a failed one says why", async () => {
    screenAt("plan/9", {
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
          },
          { id: 2, profile_id: 2, network: "brevi", state: "failed", error: "Brevi refused the text: too long." },
        ],
      }),
    });
    expect(await screen.findByText("Brevi refused the text: too long.")).toBeTruthy();
    expect(screen.getByRole("link", { name: "its results" }).getAttribute("href")).toContain("/results/posts/77");
  });

  it("promises that those who may only look change nothing", async () => {
    screenAt("plan/9", { ...ANSWERS, "GET /plan/9": planned() }, "viewer");
    expect(((await screen.findByLabelText("Orrery House on Commons")) as HTMLTextAreaElement).readOnly).toBe(true);
    expect(screen.queryByRole("button", { name: /Save|Schedule|Publish|Throw/ })).toBeNull();
  });

  it("promises a way on when no profile is connected", async () => {
    screenAt("plan/new", { ...ANSWERS, "GET /sources": sample("Sources") });
    expect(await screen.findByRole("link", { name: "Connect a profile first" })).toBeTruthy();
  });
});

describe("the week", () => {
  const week = (more: object = {}) => sample("Plan", more);

  it("promises planned posts beside published ones, and those that went wrong named", async () => {
    screenAt("plan", {
      ...ANSWERS,
      "GET /plan": week({
        planned: [
          planned({ id: 1, state: "scheduled", scheduled_at: "2026-11-26T10:00:00Z", title: "Sky tonight" }),
          planned({ id: 2, state: "failed", scheduled_at: "2026-11-24T10:00:00Z", title: "Gears" }),
        ],
        published: [{ id: 5, at: "2026-11-23T09:00:00Z", network: "brevi", text: "A clock", index: 1.42 }],
      }),
    });
    expect(await screen.findByText(/1 post scheduled/)).toBeTruthy();
    expect(screen.getByText(/1 post not published: open it to see why/)).toBeTruthy();
    expect(screen.getByRole("link", { name: /10:00 Sky tonight/ })).toBeTruthy();
    expect(screen.getByText("1.42 A clock")).toBeTruthy();
  });

  it("promises weeks one after the other, kept in the address", async () => {
    const { user, address } = screenAt("plan", { ...ANSWERS, "GET /plan": week() });
    await user.click(await screen.findByRole("button", { name: "The week after" }));
    expect(address()).toContain("week=2026-11-30");
    await user.click(screen.getByRole("button", { name: "this week" }));
    expect(address()).not.toContain("week=");
  });

  it("promises that a draft without a time is not lost", async () => {
    screenAt("plan", { ...ANSWERS, "GET /plan": week({ drafts: [planned({ title: "Some day" })] }) });
    expect((await screen.findByRole("link", { name: /Some day/ })).getAttribute("href")).toContain("/plan/9");
  });
});
