// @vitest-environment happy-dom
import { describe, expect, it } from "vitest";
import {
  type Answers,
  type Asked,
  cells,
  Held,
  Refusal,
  sample,
  screen,
  screenAt,
  waitFor,
  within,
} from "../../testing";
import type { Account, Member, Team } from "./queries";
import { heirs, noticesTitle, safetyTitle, said, statusTitle, teamTitle, whoSaid } from "./rules";

const member = (id: number, name: string, role: Member["role"], more: Partial<Member> = {}): Member => ({
  id,
  name,
  role,
  is_me: id === 1,
  is_program: false,
  email: `${name.toLowerCase()}@ninthbell.example`,
  seen_at: "2026-11-25T11:00:00Z",
  has_second_factor: true,
  ...more,
});
const TEAM: Team = {
  members: [member(1, "Mira", "admin"), member(2, "Toma", "author"), member(3, "Vi", "viewer")],
  invitations: [],
  permissions: [
    { name: "plan.write", words: "write posts", roles: ["admin", "analyst", "author", "approver"] },
    { name: "brand.people", words: "invite people and decide what they may do", roles: ["admin"] },
  ],
};
const ACCOUNT: Account = {
  name: "Mira",
  email: "mira@ninthbell.example",
  language: "en",
  time_zone: "Europe/Lisbon",
  theme: "system",
  has_codes: false,
  recovery_codes_left: 0,
  takes_passkeys: true,
  passkeys: [],
  events: [{ at: "2026-11-24T09:00:00Z", words: "changed password", address: "192.0.2.7" }],
  sessions: [
    {
      id: 1,
      began_at: "2026-11-25T08:00:00Z",
      seen_at: "2026-11-25T12:00:00Z",
      address: "192.0.2.7",
      device: "Firefox on Linux",
      is_this: true,
    },
    {
      id: 2,
      began_at: "2026-11-20T08:00:00Z",
      seen_at: "2026-11-24T12:00:00Z",
      address: "2001:db8::7",
      device: "",
      is_this: false,
    },
  ],
};
const CONFIRM_FIRST = new Refusal(409, "Show that it is you.", {}, "confirm_first");
const team = (answers: Answers = {}) => screenAt("team", { "GET /team": TEAM, ...answers });
const you = (answers: Answers = {}) => screenAt("team/you", { "GET //account": ACCOUNT, ...answers });

describe("who works for a brand", () => {
  it("promises people with their role, and the table that every request is held against", async () => {
    team();
    expect(await screen.findByRole("heading", { name: "3 people work for Orrery House" })).toBeTruthy();
    const [people, roles] = screen.getAllByRole("table");
    const first = within(people as HTMLElement).getAllByRole("row")[1] as HTMLElement;
    expect(cells(first).slice(0, 2)).toEqual([expect.stringContaining("Mira"), "admin"]);
    const row = within(roles as HTMLElement).getByRole("row", { name: /write posts/ });
    expect(cells(row).slice(1)).toEqual(["yes", "yes", "yes", "yes", "no", "no"]);
  });

  it("promises an address to hand over where no mail goes out, and what was typed where it is wrong", async () => {
    let isKnown = true;
    const { user, server } = team({
      "POST /team/invitations": () =>
        isKnown
          ? new Refusal(400, "Something is wrong.", { email: ["Vi works for Orrery House already, as viewer."] })
          : {
              invitation: sample("Invitation", { id: 9, email: "new@ninthbell.example", role: "author" }),
              address: "https://dakika.example/join#key",
            },
    });
    await user.type(await screen.findByLabelText("Invite by e-mail"), "vi@ninthbell.example");
    await user.click(screen.getByRole("button", { name: "Invite" }));
    expect(await screen.findByText("Vi works for Orrery House already, as viewer.")).toBeTruthy();
    expect((screen.getByLabelText("Invite by e-mail") as HTMLInputElement).value).toBe("vi@ninthbell.example");
    isKnown = false;
    await user.selectOptions(screen.getByLabelText("As"), "author");
    await user.click(screen.getByRole("button", { name: "Invite" }));
    expect(await screen.findByText("https://dakika.example/join#key")).toBeTruthy();
    expect(server.sent("POST /team/invitations").at(-1)?.body).toEqual({
      email: "vi@ninthbell.example",
      role: "author",
    });
  });

  it("promises that a role that cannot be changed says why", async () => {
    const said = "Orrery House has no other admin. Make somebody else one first.";
    const { user } = team({ "PUT /team/1": new Refusal(400, "Something is wrong.", { role: [said] }) });
    await user.click(await screen.findByRole("button", { name: "Role of Mira" }));
    await user.click(await screen.findByRole("menuitemradio", { name: /^viewer/ }));
    expect(await screen.findByText(said)).toBeTruthy();
  });

  it("promises that nobody is let go before somebody has what was theirs", async () => {
    const { user, server } = team({
      "GET /team/2/leaving": [
        { key: "brands.campaigns", words: "2 campaigns", count: 2, is_personal: false },
        { key: "notices.notifications", words: "4 notices", count: 4, is_personal: true },
      ],
      "POST /team/2/leaving": undefined,
    });
    await user.click(await screen.findByRole("button", { name: "Let go Toma" }));
    const sheet = within(await screen.findByRole("dialog"));
    expect(await sheet.findByText("2 campaigns")).toBeTruthy();
    expect(sheet.getByText("What ends: 4 notices.")).toBeTruthy();
    const go = sheet.getByRole("button", { name: "Let Toma go" });
    expect(go.hasAttribute("disabled")).toBe(true);
    // A viewer could not work with it.
    expect(sheet.getAllByRole("option").map((one) => one.textContent)).toEqual(["Choose somebody", "Mira, admin"]);
    await user.selectOptions(sheet.getByLabelText("Who takes over"), "1");
    await user.click(go);
    await waitFor(() => expect(server.sent("POST /team/2/leaving")[0]?.body).toEqual({ to: 1 }));
  });
});

describe("one's own page", () => {
  it("promises to say what lets one in, and each place where one is signed in", async () => {
    const { user, server } = you({ "DELETE //account/sessions": undefined });
    expect(await screen.findByRole("heading", { name: "Your password alone lets you in" })).toBeTruthy();
    expect(screen.getByRole("heading", { name: "You are signed in here and in 1 other place" })).toBeTruthy();
    const rows = within(screen.getByRole("table")).getAllByRole("row").slice(1).map(cells);
    expect(rows.map((row) => row[0])).toEqual([
      expect.stringContaining("Firefox on Linux"),
      "A browser that does not say its name",
    ]);
    await user.click(screen.getByRole("button", { name: "Sign out everywhere else" }));
    await waitFor(() => expect(server.sent("DELETE //account/sessions")).toHaveLength(1));
  });

  it("promises that what was meant to be done is done once it was shown who is there", async () => {
    let isSure = false;
    const asking = new Held();
    const { user } = you({
      "POST //account/totp": () => (isSure ? sample("Totp", { secret: "ABCDEFGH", picture: "data:," }) : CONFIRM_FIRST),
      "POST //session/confirm": async () => {
        await asking.said;
        isSure = true;
        return undefined;
      },
    });
    await user.click(await screen.findByRole("button", { name: "Set up codes" }));
    const dialog = within(await screen.findByRole("dialog", { name: "Is it you?" }));
    await user.type(dialog.getByLabelText("Password"), "kettle bridge orchard nine");
    await user.click(dialog.getByRole("button", { name: "It is me" }));
    asking.answer(null);
    expect(await screen.findByRole("dialog", { name: "Codes of a device" })).toBeTruthy();
    expect(screen.getByText("ABCD EFGH")).toBeTruthy();
  });

  it("promises that nothing is changed where somebody does not show who they are", async () => {
    const { user, server } = you({ "POST //account/totp": CONFIRM_FIRST });
    await user.click(await screen.findByRole("button", { name: "Set up codes" }));
    await screen.findByRole("dialog", { name: "Is it you?" });
    await user.keyboard("{Escape}");
    await waitFor(() => expect(screen.queryByRole("dialog")).toBeNull());
    expect(server.sent("POST //account/totp")).toHaveLength(1);
    expect(screen.queryByRole("alert")).toBeNull();
  });
});

const HAPPENED = sample("Happened", {
  id: 4,
  at: "2026-11-25T09:15:00Z",
  who: "Toma",
  is_gone: false,
  words: "changed campaign",
  thing: "campaign",
  number: 2,
  name: "Night Openings",
  address: "192.0.2.7",
  rows: [
    {
      thing: "campaign",
      number: 2,
      name: "Night Openings",
      way: "changed",
      values: [
        { name: "last day", before: "2026-11-30", after: "2026-12-06" },
        { name: "profiles", before: [], after: [3, 4] },
      ],
    },
  ],
});
const log = (entries: unknown[], next: string | null = null) => ({
  entries,
  next,
  people: [
    { id: 2, name: "Toma" },
    { id: 0, name: "" },
  ],
  subjects: [{ key: "Campaign", name: "campaign" }],
});

describe("what happened", () => {
  it("promises who changed what, from where, and what it was before", async () => {
    const { user } = screenAt("team/log", { "GET /log": log([HAPPENED]) });
    const line = await screen.findByRole("button", { name: /changed campaign: Night Openings/ });
    expect(line.textContent).toContain("last day: 2026-11-30 → 2026-12-06");
    expect(line.textContent).toContain("192.0.2.7");
    await user.click(line);
    const rows = within(await screen.findByRole("table"))
      .getAllByRole("row")
      .slice(1)
      .map(cells);
    expect(rows).toEqual([
      ["last day", "2026-11-30", "2026-12-06"],
      ["profiles", "nothing", "3, 4"],
    ]);
  });

  it("promises that it is narrowed in the address, page by page, and as a file", async () => {
    const { user, server, address } = screenAt("team/log", {
      "GET /log": ({ query }: Asked) => (query.get("cursor") ? log([]) : log([HAPPENED], "more")),
    });
    await user.click(await screen.findByRole("button", { name: "By whom" }));
    await user.click(await screen.findByRole("menuitemradio", { name: "Dakika" }));
    await waitFor(() => expect(address()).toContain("person=0"));
    await user.type(screen.getByRole("searchbox"), "night");
    await waitFor(() => expect(server.sent("GET /log").at(-1)?.query.get("text")).toBe("night"));
    expect(server.sent("GET /log").at(-1)?.query.get("person")).toBe("0");
    const file = screen.getByRole("link", { name: "These as CSV" });
    expect(file.getAttribute("href")).toBe("/api/brands/orrery-house/log/csv?person=0&text=night");
    await user.click(await screen.findByRole("button", { name: "Earlier ones" }));
    await waitFor(() => expect(server.sent("GET /log").at(-1)?.query.get("cursor")).toBe("more"));
    await user.click(screen.getByRole("link", { name: "Everything" }));
    await waitFor(() => expect((screen.getByRole("searchbox") as HTMLInputElement).value).toBe(""));
    expect(address()).toBe("/orrery-house/team/log");
  });

  it("promises to say that nothing like it happened, and whom nobody knows any more", async () => {
    screenAt("team/log?text=x", { "GET /log": log([]) });
    expect(await screen.findByText("Nothing like it happened")).toBeTruthy();
    expect([whoSaid("", true), whoSaid("", false)]).toEqual(["Dakika", "somebody who is gone"]);
    expect([said(true), said("2026-11-25T09:15:00+00:00"), said({ a: 1 }), said(0)]).toEqual([
      "yes",
      "2026-11-25 09:15",
      '{"a":1}',
      "0",
    ]);
  });
});

const CHOICES = {
  kinds: [
    { kind: "task", words: "Tasks that somebody gives you", is_shown: true, by_mail: "never" as const, by_push: false },
    {
      kind: "findings",
      words: "What the figures say in the morning",
      is_shown: true,
      by_mail: "soon" as const,
      by_push: false,
    },
  ],
  hours: { quiet_from: null, quiet_to: null, digest_at: "08:00:00" },
  zone: "Europe/Lisbon",
  email: "mira@ninthbell.example",
};

describe("how one is told", () => {
  it("promises a choice kind by kind, the hours by whose clock, and what is kept", async () => {
    const { user, server } = screenAt("team/notices", {
      "GET /notifications/choices": CHOICES,
      "GET //account/browsers": { key: "BK", browsers: [] },
      "PUT /notifications/choices": CHOICES,
    });
    const title = "You are told everything of Orrery House here, and 1 by mail";
    expect(await screen.findByRole("heading", { name: title })).toBeTruthy();
    expect(screen.queryByLabelText("The day's letter at")).toBeNull();
    await user.selectOptions(screen.getByLabelText("By mail: Tasks that somebody gives you"), "daily");
    await user.click(screen.getByLabelText("Here: What the figures say in the morning"));
    await user.click(screen.getByLabelText("In browsers: Tasks that somebody gives you"));
    await user.click(screen.getByLabelText("Not at night"));
    expect(screen.getByLabelText("The day's letter at")).toBeTruthy();
    await user.click(screen.getByRole("button", { name: "Keep it so" }));
    await waitFor(() =>
      expect(server.sent("PUT /notifications/choices")[0]?.body).toEqual({
        kinds: [
          { kind: "task", is_shown: true, by_mail: "daily", by_push: true },
          { kind: "findings", is_shown: false, by_mail: "soon", by_push: false },
        ],
        hours: { quiet_from: "21:00", quiet_to: "07:00", digest_at: "08:00" },
      }),
    );
  });

  it("promises to say what cannot be kept", async () => {
    const { user } = screenAt("team/notices", {
      "GET /notifications/choices": CHOICES,
      "GET //account/browsers": { key: "BK", browsers: [] },
      "PUT /notifications/choices": new Refusal(400, "Wrong.", { hours: ["Quiet hours have a beginning and an end."] }),
    });
    await user.click(await screen.findByRole("button", { name: "Keep it so" }));
    expect(await screen.findByText("Quiet hours have a beginning and an end.")).toBeTruthy();
    expect(noticesTitle([], "X")).toBe("You are told nothing of X");
  });
});

describe("messages to one's browsers", () => {
  const browsers = [{ id: 4, device: "Firefox on Linux", since: "2026-11-25T11:00:00Z", mark: "0a" }];

  it("promises to say which browsers show them, and to end each", async () => {
    const { user, server } = screenAt("team/notices", {
      "GET /notifications/choices": CHOICES,
      "GET //account/browsers": { key: "BK", browsers },
      "DELETE //account/browsers/4": undefined,
    });
    const list = await screen.findByRole("region", { name: "Browsers that show them" });
    await user.click(within(list).getByRole("button", { name: "No more on Firefox on Linux" }));
    await waitFor(() => expect(server.sent("DELETE //account/browsers/4")).toHaveLength(1));
  });

  it("promises to say why a browser cannot", async () => {
    screenAt("team/notices", {
      "GET /notifications/choices": CHOICES,
      "GET //account/browsers": { key: "BK", browsers: [] },
    });
    expect(await screen.findByRole("heading", { name: "No browser of yours shows them yet" })).toBeTruthy();
    expect(screen.getByText("This browser cannot show any: it takes an address with https.")).toBeTruthy();
  });
});

describe("what is worked out", () => {
  it("promises to name what is missing, not what is there", () => {
    const bare = { ...TEAM, members: [member(1, "Mira", "admin", { has_second_factor: false })] };
    expect(teamTitle(bare, "Orrery House")).toBe(
      "You alone work for Orrery House; you, an admin, sign in with a password alone",
    );
    expect(safetyTitle({ ...ACCOUNT, has_codes: true })).toBe("If your device is lost, nothing lets you in");
    expect(safetyTitle({ ...ACCOUNT, has_codes: true, recovery_codes_left: 2 })).toMatch(/^Only 2 recovery codes left/);
    expect(safetyTitle({ ...ACCOUNT, has_codes: true, recovery_codes_left: 9 })).toMatch(/protected/);
  });

  it("promises that what somebody leaves goes to those who may work with it", () => {
    expect(heirs(TEAM.members, member(2, "Toma", "author")).map((one) => one.name)).toEqual(["Mira"]);
  });
});

describe("going for good", () => {
  it("asks, and says why the last admin cannot", async () => {
    const said = "Orrery House has no other admin. Make somebody else one first.";
    const { user, server } = you({ "DELETE //account/everything": new Refusal(400, "Wrong.", { to: [said] }) });
    expect((await screen.findByText("Everything about you, as a file")).getAttribute("href")).toBe(
      "/api/account/everything",
    );
    await user.click(screen.getByRole("button", { name: "Erase your account" }));
    expect(server.sent("DELETE //account/everything")).toHaveLength(0);
    await user.click(screen.getByRole("button", { name: "Erase it" }));
    expect(await screen.findByText(said)).toBeTruthy();
  });
});

describe("how the installation runs", () => {
  const part = (name: string, more = {}) => ({
    name,
    words: name,
    told: `${name} told`,
    is_well: true,
    is_down: false,
    advice: "",
    ...more,
  });
  const parts = [
    part("Database"),
    part("Letters", { is_well: false, advice: "Look at DAKIKA_SMTP." }),
    part("Worker", { is_well: false, is_down: true, advice: "Start it." }),
  ];

  it("says first what does not work, and what to do", async () => {
    screenAt("team/status", { "GET /status": { version: "0.1.0", at: "2026-11-25T12:00:00Z", parts } });
    const rows = within(await screen.findByRole("table"))
      .getAllByRole("row")
      .slice(1);
    expect(rows.map((row) => cells(row)[0])).toEqual(["Worker", "Letters", "Database"]);
    expect(screen.getByRole("heading", { level: 1 }).textContent).toBe("Not everything works: worker");
    expect(within(rows[0] as HTMLElement).getByText("Start it.")).toBeTruthy();
  });

  it.each([
    [parts, "Not everything works: worker"],
    [parts.slice(0, 2), "Everything works; look at letters"],
    [parts.slice(0, 1), "Everything works"],
  ])("its heading says no more than is seen", (some, title) => expect(statusTitle(some)).toBe(title));
});
