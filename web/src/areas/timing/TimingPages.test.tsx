// @vitest-environment happy-dom
import { describe, expect, it, vi } from "vitest";
import { cells, rowOf, sample, screen, screenAt, within } from "../../testing";
import type { Asked } from "../../testing/server";

vi.mock("../../lib/useSize", () => ({ useSize: () => [() => undefined, { width: 800, height: 300 }] }));

const US = { id: 1, name: "Orrery House", network: "commons", is_own: true };
const hours = Array.from({ length: 168 }, (_, i) => ({
  index: i === 19 ? 1.6 : 1,
  low80: i === 19 ? 1.2 : 0.8,
  high80: i === 19 ? 2.1 : 1.2,
  low95: i === 19 ? 1.1 : 0.7,
  high95: 2.4,
  nearby: 3,
  from_posts: 0.7,
  certainty: i === 19 ? "sure" : "open",
}));
const timing = (more: object = {}) =>
  sample("Timing", {
    chosen: [US],
    profiles: [US, { id: 2, name: "Orrery", network: "brevi", is_own: true }],
    of: "interactions",
    wanted: [
      { key: "interactions", name: "interactions", least: 0 },
      { key: "reach", name: "reach", least: 0 },
    ],
    zone: "Europe/Lisbon",
    brand_zone: "Europe/Lisbon",
    age_hours: 72,
    hours: hours as never,
    posts_used: 210,
    stands_by: "posts",
    has_effect: true,
    odds: 4000,
    free: [{ at: "2026-11-30T19:00:00Z", hour: 19, index: 1.6, low80: 1.2, high80: 2.1, certainty: "sure" }],
    missed: [{ first: 43, hours: 2, index: 1.3, low: 1.1, high: 1.5, presence: 0.9, posts: 0 }],
    ...more,
  } as never);
const RHYTHM = sample("Rhythm", { profile: 1, name: "Orrery House", network: "commons", used: 3.2 });
const at = (path: string, answers: object, role: "editor" | "viewer" = "editor") =>
  screenAt(path, { "GET /timing": timing(), ...answers } as never, role);

describe("the week", () => {
  it("promises how sure it is beside what it proposes, and a draft in one step", async () => {
    const { user, address } = at("timing", {});
    expect(await screen.findByText(/more than 1,000 times likelier with an effect of the hour/)).toBeTruthy();
    expect(screen.getByRole("heading", { name: /Around Mon 19:00 a post gets 1.60 times the usual/ })).toBeTruthy();
    await user.click(screen.getByRole("button", { name: /^Draft for Mon 30 Nov/ }));
    expect(address()).toContain("/plan/new?profile=1&at=2026-11-30T19%3A00%3A00Z");
  });

  it("promises missed hours with what they would bring, and a draft there", async () => {
    const { user, address } = at("timing", {});
    expect((await screen.findByText("Tue 19:00–21:00")).closest("li")?.textContent).toContain(
      "1.30 times the usual (1.10 to 1.50, 80 %)",
    );
    await user.click(screen.getByRole("button", { name: "Draft for Tue 19:00–21:00" }));
    expect(address()).toContain("/plan/new?profile=1&at=");
  });

  it("promises plain words where the hour makes no difference, and where posts are too few", async () => {
    at("timing", { "GET /timing": timing({ has_effect: false, odds: 0.8 }) });
    expect(await screen.findByText(/about as likely without any effect of the hour/)).toBeTruthy();
  });

  it("promises something to begin with where posts are too few, and claims nothing of it", async () => {
    at("timing", { "GET /timing": timing({ stands_by: "network", posts_used: 12, has_effect: false }) });
    expect(await screen.findByText("Too few posts to claim anything: 12 of the 30 that it takes")).toBeTruthy();
    expect(screen.getByText(/By the network's usual hours, until 30 posts tell more/)).toBeTruthy();
    expect(screen.getAllByRole("slider")).toHaveLength(7);
  });

  it("promises the week as a table and as a ranked list too", async () => {
    const { user, address } = at("timing", {});
    await user.click(await screen.findByRole("button", { name: "as a table" }));
    expect(screen.getByText("1.60", { selector: "td *" }).closest("tr")?.textContent).toContain("sure");
    await user.click(screen.getByRole("button", { name: "as a chart" }));
    await user.click(screen.getByRole("button", { name: "ranked" }));
    expect(address()).toContain("read=ranked");
    expect(cells(rowOf("Mon 19:00"))[1]).toBe("1.60");
  });

  it("promises that the question is chosen in the sentence and goes into the address", async () => {
    const { user, address, server } = at("timing", {});
    await user.click(await screen.findByRole("button", { name: "For what" }));
    await user.click(await screen.findByRole("menuitemradio", { name: /reach/ }));
    expect(address()).toContain("of=reach");
    await user.click(screen.getByRole("button", { name: "Whose hours" }));
    await user.click(await screen.findByRole("menuitemcheckbox", { name: /all of the brand/ }));
    expect(address()).toContain("whose=brand");
    expect(server.sent("GET /timing").at(-1)?.query.get("whose")).toBe("brand");
  });

  it("promises that a planned post is moved to a missed hour from the list, with the edition that was read", async () => {
    const planned = [
      { id: 4, profile_id: 1, at: "2026-12-01T10:00:00Z", hour: 34, title: "Sky", edition: 2, state: "draft" },
    ];
    const { user, server } = at("timing", {
      "GET /timing": timing({ planned }),
      "POST /plan/4/move": sample("PlannedPost", { id: 4 }),
    });
    await user.click(await screen.findByRole("button", { name: "Move Sky from Tue 10:00" }));
    await user.click(await screen.findByRole("menuitemradio", { name: /Tue 20:00/ }));
    const sent = server.sent("POST /plan/4/move").at(-1)?.body as { edition: number; scheduled_at: string };
    expect(sent.edition).toBe(2);
    expect(sent.scheduled_at).toMatch(/^20\d\d-\d\d-\d\dT20:00:00Z$/);
  });

  it("promises no draft on somebody else's profile, and none to those who may only look", async () => {
    const theirs = { id: 1, name: "Halfmoon", network: "commons", is_own: false };
    at("timing", { "GET /timing": timing({ chosen: [theirs], profiles: [theirs] }) });
    await screen.findByText(/times likelier/);
    expect(screen.queryByRole("button", { name: /^Draft for/ })).toBeNull();
  });
});

describe("the rhythm", () => {
  const proposal = sample("RhythmProposal", {
    zone: "Europe/Lisbon",
    gain: { ratio: 1.12, low: 1.02, high: 1.23, chance: 0.95, is_worth_it: true },
    profiles: [
      {
        profile: 1,
        short: 1,
        stands_by: "posts",
        gain: { ratio: 1.12, low: 1.02, high: 1.23, chance: 0.95, is_worth_it: true },
        now: [10],
        slots: [
          { minute: 1200, index: 1.3, low: 1.1, high: 1.5, is_learning: false, narrows: 0.01 },
          { minute: 3960, index: 1, low: 0.7, high: 1.4, is_learning: true, narrows: 0.04 },
        ],
      },
    ],
  } as never);
  const kept = (body: unknown) =>
    sample("Rhythm", { ...RHYTHM, edition: 1, slots: (body as { slots: object[] }).slots } as never);
  const ANSWERS = {
    "GET /timing/rhythms": [RHYTHM],
    "POST /timing/rhythms/propose": proposal,
    "PUT /timing/rhythms/1": ({ body }: Asked) => kept(body),
  };

  it("promises times with their reasons and what they gain, and keeps them when somebody says so", async () => {
    const { user, server } = at("timing/rhythm", ANSWERS);
    await user.click(await screen.findByRole("button", { name: "Propose times for 1 profile" }));
    expect(await screen.findByText("Against today's hours: +12 % expected (2 to 23 %, 80 %)")).toBeTruthy();
    const one = within(screen.getByRole("article", { name: "Orrery House on Commons" }));
    expect(one.getByText(/the rules leave no room for 1 more/)).toBeTruthy();
    expect(one.getByText("20:00")).toBeTruthy();
    expect(one.getByText("to learn")).toBeTruthy();
    await user.click(one.getByRole("button", { name: "Take Wed 18:00 out" }));
    await user.click(one.getByRole("button", { name: "Keep these times" }));
    const sent = server.sent("PUT /timing/rhythms/1").at(-1)?.body as { slots: object[]; edition: null };
    expect(sent.slots).toEqual([{ minute: 1200, is_learning: false }]);
    expect(sent.edition).toBeNull();
  });

  it("promises that rules are sent as they are set", async () => {
    const { user, server } = at("timing/rhythm", ANSWERS);
    await user.click(await screen.findByRole("button", { name: "Sun", pressed: false }));
    await user.click(screen.getByRole("checkbox", { name: /A tenth of the times/ }));
    await user.click(screen.getByRole("button", { name: /^Propose/ }));
    const sent = server.sent("POST /timing/rhythms/propose").at(-1)?.body as { rules: object; wishes: object[] };
    expect(sent.rules).toMatchObject({ days_off: [6], learning: 0, own_quarters: true });
    expect(sent.wishes).toEqual([{ profile: 1, times: 3 }]);
  });

  it("promises that a viewer may look and propose, and keeps nothing", async () => {
    const { user } = at("timing/rhythm", ANSWERS, "viewer");
    await user.click(await screen.findByRole("button", { name: /^Propose/ }));
    await screen.findByText(/Against today's hours/);
    expect(screen.queryByRole("button", { name: "Keep these times" })).toBeNull();
  });
});

describe("trials", () => {
  const ANSWERS = {
    "GET /timing/rhythms": [RHYTHM],
    "GET /timing/trials": { trials: [] },
    "POST /timing/trials/length": { pairs: 6, power: 0.82, usual: 4, most: 26 },
    "POST /timing/trials": sample("Trial", { id: 3 }),
  };

  it("promises the length before it begins, and starts on a Monday to come", async () => {
    const { user, server } = at("timing/trials", ANSWERS);
    await user.click(await screen.findByRole("checkbox", { name: /Orrery House/ }));
    expect(await screen.findByText(/^12 weeks at most/)).toBeTruthy();
    await user.click(screen.getByRole("button", { name: /^Start on/ }));
    const sent = server.sent("POST /timing/trials").at(-1)?.body as Record<string, unknown>;
    expect(sent).toMatchObject({ profiles: [1], first: [2160], second: [2640], pairs: 6, worth: 1.25, error: 0.05 });
    expect(new Date(`${sent.starts}T12:00Z`).getUTCDay()).toBe(1);
  });

  it("promises that a kept rhythm is held against what would be proposed, profile by profile", async () => {
    const rhythm = (profile: number, minutes: number[]) =>
      sample("Rhythm", {
        profile,
        name: `Profile ${profile}`,
        network: "commons",
        slots: minutes.map((minute) => sample("Slot", { minute })),
        rules: null,
      } as never);
    const proposed = sample("RhythmProposal", {
      profiles: [sample("ProposedProfile", { profile: 1, slots: [sample("ProposedSlot", { minute: 2640 })] } as never)],
    } as never);
    const { user, server } = at("timing/trials", {
      ...ANSWERS,
      "GET /timing/rhythms": [rhythm(1, [2160]), rhythm(2, [])],
      "POST /timing/rhythms/propose": proposed,
    });
    await user.click(await screen.findByRole("radio", { name: /kept rhythm/ }));
    expect(screen.getByText(/^1 profile without one is left out/)).toBeTruthy();
    await user.click(screen.getByRole("checkbox", { name: /Profile 1/ }));
    expect(await screen.findByText("Second, as proposed: Tue 20:00; 1 of 1 differ")).toBeTruthy();
    await user.click(await screen.findByRole("button", { name: /^Start on/ }));
    const sent = server.sent("POST /timing/trials").at(-1)?.body as Record<string, unknown>;
    expect(sent).toMatchObject({
      name: "As kept or as proposed",
      profiles: [1],
      rhythms: [{ profile: 1, first: [2160], second: [2640] }],
    });
    expect(sent.first).toBeUndefined();
  });

  it("promises that a rhythm which is proposed already is left out, and said to be", async () => {
    const kept = sample("Rhythm", {
      profile: 1,
      name: "One",
      network: "commons",
      rules: null,
      slots: [sample("Slot", { minute: 2640 })],
    } as never);
    const same = sample("ProposedProfile", { profile: 1, slots: [sample("ProposedSlot", { minute: 2640 })] } as never);
    const { user } = at("timing/trials", {
      ...ANSWERS,
      "GET /timing/rhythms": [kept],
      "POST /timing/rhythms/propose": sample("RhythmProposal", { profiles: [same] } as never),
    });
    await user.click(await screen.findByRole("radio", { name: /kept rhythm/ }));
    await user.click(screen.getByRole("checkbox", { name: /One/ }));
    expect(await screen.findByText("What would be proposed is what is kept; it is left out.")).toBeTruthy();
    expect(screen.getByText(/there is nothing to try/)).toBeTruthy();
    expect((screen.getByRole("button", { name: "Start" }) as HTMLButtonElement).disabled).toBe(true);
  });

  it("promises that nothing starts before it is known how long it takes", async () => {
    at("timing/trials", ANSWERS);
    const start = (await screen.findByRole("button", { name: "Start" })) as HTMLButtonElement;
    expect(start.disabled).toBe(true);
    expect(screen.getByText("None yet")).toBeTruthy();
  });

  it("promises that it can be stopped or kept at any time, by those who may", async () => {
    const trial = sample("Trial", {
      id: 3,
      name: "Noon or evening",
      first: [720],
      second: [1200],
      pairs: 4,
      starts: "2026-11-30",
      ends: "2027-01-24",
      profiles: [{ profile: 1, name: "Orrery House", network: "commons", first: [720], second: [1200], weeks: [] }],
      of_rhythms: false,
      outcome: { pairs: 0, ratio: null, low: null, high: null, spent: 0, verdict: "running" },
    } as never);
    const answers = { ...ANSWERS, "GET /timing/trials": { trials: [trial] }, "POST /timing/trials/3/stop": trial };
    const { user, server } = at("timing/trials", answers);
    await user.click(await screen.findByRole("button", { name: "Stop it" }));
    await user.click(screen.getByRole("button", { name: "Keep Mon 20:00" }));
    expect(server.sent("POST /timing/trials/3/stop").map((s) => s.body)).toEqual([{ keep: "" }, { keep: "second" }]);
  });
});
