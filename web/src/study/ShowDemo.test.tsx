// @vitest-environment happy-dom
import { describe, expect, it } from "vitest";
import { Refusal, sample, screen, screenAt, waitFor } from "../testing";

type State = "none" | "waiting" | "ready" | "failed" | "going";
const demo = (state: State, slug: string | null = null) =>
  sample("Demo", { state, slug, is_offered: true, until: slug ? "2026-12-30T12:00:00Z" : null });
const step = sample("FirstStep", { key: "file", title: "Do it", permission: "sources.files", is_done: false });
const empty = (answers: object) =>
  screenAt("sources", {
    "GET /sources": sample("Sources", { profiles: [], runs: [] }),
    "GET /first-steps": [step],
    ...answers,
  });

describe("the demo beside one's own brands", () => {
  it("promises to be made while one goes on, and a way there when it is", async () => {
    let state = demo("none");
    const { user, server } = empty({
      "GET //account/demo": () => state,
      "POST //account/demo": () => {
        state = demo("waiting", "orrery-house-demo");
        return state;
      },
    });
    await user.click(await screen.findByRole("button", { name: "Show me with the demo’s data" }));
    expect(await screen.findByText(/The demo is being made/)).toBeTruthy();
    expect(server.sent("POST //account/demo").length).toBe(1);
    state = demo("ready", "orrery-house-demo");
    const there = await screen.findByRole("link", { name: "Open the demo" }, { timeout: 8000 });
    expect(there.getAttribute("href")).toBe("/orrery-house-demo/results");
  });

  it("promises to say that it could not be made, and to try again", async () => {
    const { user } = empty({
      "GET //account/demo": demo("failed", "orrery-house-demo"),
      "POST //account/demo": new Refusal(409, "The last demo is just being taken away."),
    });
    expect(await screen.findByText(/it is still empty/)).toBeTruthy();
    await user.click(screen.getByRole("button", { name: "Try the demo once more" }));
    expect(await screen.findByText("The last demo is just being taken away.")).toBeTruthy();
  });

  it("promises nothing where it cannot be made", async () => {
    empty({ "GET //account/demo": sample("Demo", { state: "none", is_offered: false, slug: null, until: null }) });
    await screen.findByRole("link", { name: "Do it" });
    expect(screen.queryByText(/demo/i)).toBeNull();
  });
});

describe("within the demo", () => {
  it("promises to say on every screen that figures are invented, and a way to be rid of them", async () => {
    const { user, server } = empty({
      "GET /": sample("Brand", {
        slug: "orrery-house",
        name: "Orrery House (demo)",
        role: "admin",
        is_demo: true,
        time_zone: "Europe/Lisbon",
        now: "2026-11-30T12:00:00Z",
        may: ["brand.read", "sources.read", "sources.files", "brand.change"],
      }),
      "GET //account/demo": demo("ready", "orrery-house"),
      "DELETE //account/demo": undefined,
    });
    expect(await screen.findByText(/Invented figures.*Gone by itself on 30 Dec/)).toBeTruthy();
    // Its own first figures are no task of anybody's.
    expect(screen.queryByRole("link", { name: "Do it" })).toBeNull();
    await user.click(screen.getByRole("button", { name: "Take the demo away" }));
    await user.click(await screen.findByRole("button", { name: "Take it away" }));
    await waitFor(() => expect(server.sent("DELETE //account/demo").length).toBe(1));
  });
});
