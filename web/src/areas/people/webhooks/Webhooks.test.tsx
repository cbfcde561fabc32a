// @vitest-environment happy-dom
import { describe, expect, it } from "vitest";
import { type Answers, Refusal, sample, screen, screenAt, waitFor, within } from "../../../testing";
import type { Delivery, WebHook } from "./queries";
import { became, byAbout, standing } from "./rules";

// Promise: whoever looks after a brand sees which programs are told, whether they take it, what each was sent, and can
// try, send again, change and take away; a secret is shown once.

const hook = (more: Partial<WebHook> = {}): WebHook => ({
  ...sample("WebHook"),
  id: 3,
  name: "The till",
  address: "https://till.example/in",
  kinds: ["post.published"],
  is_on: true,
  off_because: "",
  failing_since: null,
  rests_until: null,
  before_until: null,
  waiting: 0,
  taken_at: "2026-11-25T11:00:00Z",
  ...more,
});
const told = (more: Partial<Delivery> = {}): Delivery => ({
  ...sample("HookDelivery"),
  id: 9,
  kind: "post.published",
  state: "taken",
  attempts: 1,
  status: 204,
  error: "",
  took_ms: 41,
  at: "2026-11-25T11:00:00Z",
  tried_at: "2026-11-25T11:00:01Z",
  next_at: null,
  body: '{"id":"7","about":{"text":"Zwölf Schläge"}}',
  ...more,
});
const KINDS = [
  { name: "post.failed", words: "A post did not go out", about: {} },
  { name: "post.published", words: "A post is out on a network", about: {} },
  { name: "finding.made", words: "Something was found", about: {} },
];

const open = (webhooks: WebHook[], answers: Answers = {}, deliveries = [told()]) =>
  screenAt("team/webhooks", {
    "GET //account": sample("OwnAccount"),
    "GET /webhooks": { webhooks, kinds: KINDS },
    "GET /webhooks/3/deliveries": { deliveries, next: null },
    ...answers,
  });

describe("what other programs are told", () => {
  it("says what will stand here where nobody is told, and leads there", async () => {
    const { user, server } = open([], {
      "POST /webhooks": { webhook: hook(), secret: "dakika_hook_x" },
    });
    await user.click(await screen.findByRole("button", { name: "Tell one" }));
    await user.type(screen.getByLabelText("Whom it tells"), "The till");
    await user.type(screen.getByLabelText("Its address"), "https://till.example/in");
    await user.click(screen.getByRole("checkbox", { name: /A post is out on a network/ }));
    await user.click(screen.getByRole("button", { name: "Tell it" }));
    expect(await screen.findByText("dakika_hook_x")).toBeTruthy();
    expect(server.sent("POST /webhooks")[0]?.body).toEqual({
      name: "The till",
      address: "https://till.example/in",
      kinds: ["post.published"],
    });
    await user.click(screen.getByRole("button", { name: "I have it" }));
    expect(screen.queryByText("dakika_hook_x")).toBeNull();
  });

  it("shows what is wrong beside where it is, and keeps what was typed", async () => {
    const { user } = open([], {
      "POST /webhooks": new Refusal(400, "Something is wrong.", {
        address: ["Only addresses that begin with https:// are told."],
      }),
    });
    await user.click(await screen.findByRole("button", { name: "Tell one" }));
    await user.type(screen.getByLabelText("Its address"), "http://till.example/in");
    await user.click(screen.getByRole("button", { name: "Tell it" }));
    expect(await screen.findByText("Only addresses that begin with https:// are told.")).toBeTruthy();
    expect(screen.getByLabelText<HTMLInputElement>("Its address").value).toBe("http://till.example/in");
  });

  it("opens what was sent, and sends it again under the same number", async () => {
    const { user, server } = open([hook()], { "POST /webhooks/3/deliveries/9": told({ state: "waiting" }) });
    const list = await screen.findByRole("list", { name: "What it was told" });
    await user.click(within(list).getByRole("button"));
    expect(within(list).getByText(/"text": "Zwölf Schläge"/)).toBeTruthy();
    await user.click(within(list).getByRole("button", { name: "Send it again" }));
    await waitFor(() => expect(server.sent("POST /webhooks/3/deliveries/9")).toHaveLength(1));
  });

  it("says why one was switched off, and lets it be switched on", async () => {
    const off = hook({ is_on: false, off_because: "Nothing was taken for three days." });
    const { user, server } = open([off], { "PUT /webhooks/3": hook() });
    expect(await screen.findByText("switched off by itself")).toBeTruthy();
    expect(screen.getByRole<HTMLButtonElement>("button", { name: "Try it" }).disabled).toBe(true);
    await user.click(screen.getByRole("button", { name: "Change" }));
    await user.click(screen.getByRole("checkbox", { name: /It is told/ }));
    await user.click(screen.getByRole("button", { name: "Keep it so" }));
    await waitFor(() => expect(server.sent("PUT /webhooks/3")[0]?.body).toMatchObject({ is_on: true }));
  });

  it("asks before one is taken away", async () => {
    const { user, server } = open([hook()], { "DELETE /webhooks/3": undefined });
    await user.click(await screen.findByRole("button", { name: "Take away" }));
    expect(server.sent("DELETE /webhooks/3")).toHaveLength(0);
    await user.click(await screen.findByRole("button", { name: "Take it away" }));
    await waitFor(() => expect(server.sent("DELETE /webhooks/3")).toHaveLength(1));
  });
});

describe("in a word or two", () => {
  it.each([
    [hook(), "takes it"],
    [hook({ taken_at: null }), "told nothing yet"],
    [hook({ waiting: 2 }), "2 events on the way"],
    [hook({ failing_since: "2026-11-25T11:00:00Z", waiting: 2 }), "does not take it"],
    [hook({ is_on: false }), "off"],
  ])("how an address stands", (one, words) => expect(standing(one).words).toBe(words));

  it.each([
    [told(), "taken"],
    [told({ state: "failed" }), "given up"],
    [told({ state: "waiting", attempts: 0 }), "on its way"],
    [told({ state: "waiting", attempts: 1, error: "It answered 503." }), "to be tried again"],
  ])("what became of one telling", (one, words) => expect(became(one, hook()).words).toBe(words));

  it("what waits for an address that is away or off is told so", () => {
    const waiting = told({ state: "waiting", attempts: 0 });
    expect(became(waiting, hook({ rests_until: "2026-11-25T11:05:00Z" })).words).toBe("waits its turn");
    expect(became(waiting, hook({ is_on: false })).words).toBe("not sent: it is off");
  });

  it("kinds stand by what they are about", () => {
    expect(byAbout(KINDS).map(([about, some]) => [about, some.length])).toEqual([
      ["post", 2],
      ["finding", 1],
    ]);
  });
});
