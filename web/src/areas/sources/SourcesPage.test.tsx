// @vitest-environment happy-dom
import { describe, expect, it } from "vitest";
import { type Asked, cells, Refusal, rowOf, sample, screen, screenAt, waitFor } from "../../testing";

const profile = (id: number, name: string, more: object = {}) => ({
  id,
  name,
  network: "commons",
  handle: name.toLowerCase(),
  kind: "own" as const,
  authorisation: "valid",
  followers: 1200,
  post_count: 40,
  last_state: "complete" as const,
  last_success_at: "2026-11-25T11:00:00Z",
  ...more,
});
const sources = (profiles: object[], runs: object[] = []) => sample("Sources", { profiles, runs });

describe("the page of sources", () => {
  it("promises to say what to do first when nothing is collected", async () => {
    screenAt("sources", { "GET /sources": sources([]) });
    expect(await screen.findByText("Nothing is collected yet")).toBeTruthy();
    expect((screen.getByRole("button", { name: "Collect now" }) as HTMLButtonElement).disabled).toBe(true);
  });

  it("promises our profiles apart from others', and each competitor's together under its name", async () => {
    screenAt("sources", {
      "GET /sources": sources([
        profile(1, "Orrery House"),
        profile(2, "Halfmoon", { kind: "competitor", competitor: "Halfmoon", authorisation: "not_needed" }),
        profile(3, "Halfmoon", {
          kind: "competitor",
          competitor: "Halfmoon",
          network: "brevi",
          authorisation: "not_needed",
        }),
      ]),
    });
    expect(await screen.findByRole("region", { name: "Our profiles" })).toBeTruthy();
    const group = screen.getByRole("rowheader", { name: /Halfmoon/ });
    expect(group.textContent).toContain("2 profiles");
    expect(cells(rowOf("Orrery House"))).toEqual(expect.arrayContaining(["1,200", "40"]));
  });

  it("promises that figures nobody told are not zero", async () => {
    screenAt("sources", { "GET /sources": sources([profile(1, "Orrery House", { followers: null })]) });
    const [, followers] = cells(
      (await screen.findByRole("link", { name: "Orrery House" })).closest("tr") as HTMLElement,
    );
    expect(followers).not.toBe("0");
    expect(followers).not.toContain("NaN");
  });

  it("promises that a lapsed authorisation is renewed with one press", async () => {
    const went: string[] = [];
    const { user, server } = screenAt("sources", {
      "GET /sources": sources([profile(4, "Orrery House", { authorisation: "lapsed" })]),
      "POST /sources/connections": ({ body }: Asked) => {
        went.push(JSON.stringify(body));
        return new Refusal(409, "Commons does not answer at the moment. Try again in some minutes.");
      },
    });
    expect(await screen.findByText("lapsed")).toBeTruthy();
    await user.click(screen.getByRole("button", { name: "Renew Orrery House on Commons" }));
    expect(await screen.findByText(/Commons does not answer at the moment/)).toBeTruthy();
    expect(server.sent("POST /sources/connections")[0]?.body).toMatchObject({ network: "commons", renews: 4 });
  });

  it("promises to show a collection while it runs, and what one brought, left out and why", async () => {
    screenAt("sources", {
      "GET /sources": sources(
        [profile(1, "Orrery House")],
        [
          {
            id: 9,
            profile_id: 1,
            profile: "Orrery House",
            network: "commons",
            state: "running",
            step: "reading posts",
            posts_seen: 12,
          },
          {
            id: 8,
            profile_id: 1,
            profile: "Orrery House",
            network: "commons",
            state: "partial",
            message: "The network stopped answering.",
            missing: "comments",
          },
        ],
      ),
    });
    expect(await screen.findByText("1 collection under way")).toBeTruthy();
    expect(screen.getByText("reading posts, 12 posts")).toBeTruthy();
    expect(screen.getByText(/Not brought: comments; the next one brings it/)).toBeTruthy();
    expect(
      (screen.getByRole("button", { name: "Collect Orrery House on Commons" }) as HTMLButtonElement).disabled,
    ).toBe(true);
  });

  it("promises that all profiles are collected on demand and that this is said", async () => {
    const { user } = screenAt("sources", {
      "GET /sources": sources([profile(1, "Orrery House")]),
      "POST /sources/collect": [sample("Run"), sample("Run")],
    });
    await screen.findByRole("link", { name: "Orrery House" });
    await user.click(screen.getByRole("button", { name: "Collect now" }));
    expect(await screen.findByText("2 profiles will be collected.")).toBeTruthy();
  });

  it("promises nothing to press to those who may only look", async () => {
    screenAt(
      "sources",
      { "GET /sources": sources([profile(1, "Orrery House", { authorisation: "lapsed" })]) },
      "viewer",
    );
    expect(await screen.findByText("lapsed")).toBeTruthy();
    expect(screen.queryByRole("button", { name: /Renew|Collect|Connect|Follow/ })).toBeNull();
  });

  it("promises words on what became of the consent", async () => {
    screenAt("sources?consent=cancelled", { "GET /sources": sources([]) });
    expect(await screen.findByText("You cancelled at the network. Nothing was connected.")).toBeTruthy();
  });
});

describe("choosing among the accounts that a consent covers", () => {
  const connection = (more: object = {}) =>
    sample("Connection", {
      network: "commons",
      may_publish: true,
      offered: [
        { external_id: "a", name: "Orrery House", followers: 900 },
        { external_id: "b", name: "Tomás privately", followers: 12, refusal: "Commons gives figures of pages alone." },
        { external_id: "c", name: "Orrery Shop", followers: 80, is_connected: true },
      ],
      ...more,
    });

  it("promises that one that cannot be connected is shown with the reason, and cannot be ticked", async () => {
    screenAt("sources?connection=5", { "GET /sources": sources([]), "GET /sources/connections/5": connection() });
    const personal = (await screen.findByText("Commons gives figures of pages alone.")).closest("label") as HTMLElement;
    expect((personal.querySelector("input") as HTMLInputElement).disabled).toBe(true);
    expect(screen.getByText(/connected already, this renews it/)).toBeTruthy();
  });

  it("promises to connect exactly those that are ticked", async () => {
    const { user, server } = screenAt("sources?connection=5", {
      "GET /sources": sources([]),
      "GET /sources/connections/5": connection(),
      "POST /sources/connections/5": sources([]),
    });
    await user.click(await screen.findByRole("checkbox", { name: /^Orrery House/ }));
    await user.click(screen.getByRole("checkbox", { name: /Orrery Shop/ }));
    await user.click(screen.getByRole("checkbox", { name: /Orrery Shop/ }));
    await user.click(screen.getByRole("button", { name: "Connect 1 profile" }));
    await waitFor(() => expect(server.sent("POST /sources/connections/5")).toHaveLength(1));
    expect(server.sent("POST /sources/connections/5")[0]?.body).toEqual({ external_ids: ["a"] });
    expect(await screen.findByText("1 profile is connected; their history is being collected.")).toBeTruthy();
  });

  it("promises the reason when somebody was faster", async () => {
    const { user } = screenAt("sources?connection=5", {
      "GET /sources": sources([]),
      "GET /sources/connections/5": connection(),
      "POST /sources/connections/5": new Refusal(409, "Orrery House is connected to the brand Night Ferry."),
    });
    await user.click(await screen.findByRole("checkbox", { name: /^Orrery House/ }));
    await user.click(screen.getByRole("button", { name: "Connect 1 profile" }));
    expect(await screen.findByText("Orrery House is connected to the brand Night Ferry.")).toBeTruthy();
  });
});

describe("following a competitor", () => {
  const open = (answers: object) => screenAt("sources?open=competitor", { "GET /sources": sources([]), ...answers });
  const site = sample("Site", {
    address: "https://halfmoon.example/",
    name: "Halfmoon",
    profiles: [
      { network: "commons", handle: "halfmoon", account: { name: "Halfmoon", followers: 5000 } },
      { network: "brevi", handle: "half", problem: "Brevi knows nobody of this handle." },
      { network: "brevi", handle: "halfmoon", account: { name: "Halfmoon", followers: 700 }, is_followed: true },
    ],
  });

  it("promises the profiles that the web site names, and why some cannot be followed", async () => {
    const { user, server } = open({ "POST /sources/site": site, "POST /sources/follow": sources([]) });
    await user.type(await screen.findByLabelText("Address of their web site"), "halfmoon.example");
    await user.click(screen.getByRole("button", { name: "Find their profiles" }));
    expect(await screen.findByText("3 profiles named on the page")).toBeTruthy();
    expect(screen.getByText(/Brevi knows nobody of this handle/)).toBeTruthy();
    expect(screen.getByText(/followed already/)).toBeTruthy();
    await user.click(screen.getByRole("button", { name: "Follow 1 profile" }));
    await waitFor(() => expect(server.sent("POST /sources/follow")).toHaveLength(1));
    expect(server.sent("POST /sources/follow")[0]?.body).toEqual({
      name: "Halfmoon",
      website: "https://halfmoon.example/",
      profiles: [{ network: "commons", handle: "halfmoon" }],
    });
  });

  it("promises that a page that may not be read is refused in words beside the address", async () => {
    const { user } = open({
      "POST /sources/site": new Refusal(400, "No.", { address: ["This address is not open to the public."] }),
    });
    await user.type(await screen.findByLabelText("Address of their web site"), "localhost");
    await user.click(screen.getByRole("button", { name: "Find their profiles" }));
    expect(await screen.findByText("This address is not open to the public.")).toBeTruthy();
    expect(screen.getByDisplayValue("localhost")).toBeTruthy();
  });

  it("promises to keep what was typed when a handle is not there", async () => {
    const { user } = open({
      "GET /sources/search": [],
      "POST /sources/competitors": new Refusal(400, "No.", { handle: ["Commons knows nobody called nobody."] }),
    });
    await user.click(await screen.findByRole("tab", { name: "By name or handle" }));
    await user.type(screen.getByLabelText("Handle"), "nobody");
    await user.click(screen.getByRole("button", { name: "Follow" }));
    expect(await screen.findByText("Commons knows nobody called nobody.")).toBeTruthy();
    expect(screen.getByDisplayValue("nobody")).toBeTruthy();
  });
});

describe("the health of sources", () => {
  const health = (profiles: object[], more: object = {}) => sample("Health", { profiles, ...more });
  const row = (id: number, name: string, troubles: object[] = []) => ({
    profile: profile(id, name),
    coverage: { first: "2026-08-28", days: `${"b".repeat(40)}${"c".repeat(48)}mp` },
    troubles,
  });

  it("promises one sentence when all is well", async () => {
    screenAt("sources/health", { "GET /sources/health": health([row(1, "Orrery House"), row(2, "Orrery Shop")]) });
    expect(await screen.findByText("All 2 profiles are collected as they should be")).toBeTruthy();
  });

  it("promises each trouble with what to do and the act that does it", async () => {
    const { user, server } = screenAt("sources/health", {
      "GET /sources/health": health([
        row(1, "Orrery House", [
          { kind: "failed", text: "The network refused.", advice: "It is tried again by itself.", act: "collect" },
          { kind: "hole", text: "3 days are missing in 90.", advice: "Bring the days in from a file.", act: "" },
        ]),
        row(2, "Orrery Shop"),
      ]),
      "POST /sources/collect": [sample("Run")],
    });
    expect(await screen.findByText("1 profile needs a look, 1 are well")).toBeTruthy();
    expect(screen.getByRole("link", { name: "bring in a file" })).toBeTruthy();
    await user.click(screen.getByRole("button", { name: "Collect Orrery House on Commons again" }));
    await waitFor(() => expect(server.sent("POST /sources/collect")[0]?.body).toEqual({ profile_id: 1 }));
  });

  it("promises the feeds and files in trouble beside the profiles", async () => {
    screenAt("sources/health", {
      "GET /sources/health": health([row(1, "Orrery House")], {
        feeds: [{ id: 1, title: "City museum news", message: "The page is gone (410).", failures: 3 }],
        imports: [
          { id: 4, file_name: "autumn.csv", state: "failed", message: "Row 12 ends within a quote.", accepted: 11 },
        ],
      }),
    });
    expect(await screen.findByText("The page is gone (410).")).toBeTruthy();
    expect(screen.getByText("Row 12 ends within a quote.")).toBeTruthy();
    expect(screen.getByText(/Failed 3 times in a row/)).toBeTruthy();
  });
});
