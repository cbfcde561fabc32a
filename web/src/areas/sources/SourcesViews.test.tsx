// @vitest-environment happy-dom
import { describe, expect, it } from "vitest";
import { type Asked, Refusal, sample, screen, screenAt, waitFor, within } from "../../testing";

describe("feeds", () => {
  const feeds = (more: object = {}) =>
    sample("Feeds", {
      feeds: [{ id: 3, title: "City museum", address: "https://museum.example/feed.xml", failures: 0 }] as never,
      items: [
        { id: 1, title: "New hours", feed: "City museum", address: "https://museum.example/hours" },
        { id: 2, title: "", feed: "City museum", summary: "A word without a title" },
      ] as never,
      ...more,
    });

  it("promises what is new, with where it came from, and items without title or date as they are", async () => {
    screenAt("sources/feeds", { "GET /sources/feeds": feeds() });
    const link = await screen.findByRole("link", { name: "New hours" });
    expect(link.getAttribute("rel")).toContain("noopener");
    expect(screen.getByText("without a title")).toBeTruthy();
    expect(screen.getAllByText("no date given").length).toBe(2);
  });

  it("promises that no feed followed and nothing new are two things", async () => {
    screenAt("sources/feeds", { "GET /sources/feeds": feeds({ items: [] }) });
    expect(await screen.findByText("Nothing has appeared yet")).toBeTruthy();
    expect(screen.queryByText("No feed is followed yet")).toBeNull();
  });

  it("promises that an address that is no feed is said beside it and stays", async () => {
    const { user } = screenAt("sources/feeds", {
      "GET /sources/feeds": feeds(),
      "POST /sources/feeds": new Refusal(400, "No.", { address: ["The page names no feed."] }),
    });
    await user.type(await screen.findByLabelText("Follow a feed"), "museum.example");
    await user.click(screen.getByRole("button", { name: "Follow" }));
    expect(await screen.findByText("The page names no feed.")).toBeTruthy();
    expect(screen.getByDisplayValue("museum.example")).toBeTruthy();
  });

  it("promises that one can be stopped and that its items stay", async () => {
    const { user, server } = screenAt("sources/feeds", {
      "GET /sources/feeds": feeds(),
      "DELETE /sources/feeds/3": undefined,
    });
    await user.click(await screen.findByRole("button", { name: "Stop following City museum" }));
    expect(await screen.findByText("City museum is no longer followed. Its items stay.")).toBeTruthy();
    expect(server.sent("DELETE /sources/feeds/3")).toHaveLength(1);
  });
});

describe("one profile", () => {
  const detail = (more: object = {}, profile: object = {}) =>
    sample("ProfileDetail", {
      profile: {
        id: 1,
        name: "Orrery House",
        handle: "orreryhouse",
        network: "commons",
        kind: "own",
        followers: 1200,
        post_count: 310,
        has_history: true,
        ...profile,
      } as never,
      coverage: { first: "2026-08-28", days: `${"c".repeat(88)}mp` },
      reading_count: 4100,
      comment_count: 77,
      zone: "Europe/Lisbon",
      ...more,
    });
  const open = (answers: object = {}) =>
    screenAt("sources/profiles/1", { "GET /sources/profiles/1": detail(), ...answers });

  it("promises what is known of it in numbers, and what no network tells in words", async () => {
    open();
    expect(await screen.findByRole("heading", { name: "Orrery House on Commons" })).toBeTruthy();
    expect(screen.getByText(/1,200 followers, 310 posts, 4,100 readings/)).toBeTruthy();
    expect(screen.getByText(/Commons tells nothing of who the audience is/)).toBeTruthy();
  });

  it("promises that leaving keeps the history unless one says otherwise, and names what goes", async () => {
    const { user, server } = open({ "DELETE /sources/profiles/1": undefined });
    await user.click(await screen.findByRole("button", { name: "Disconnect" }));
    const sheet = await screen.findByRole("dialog", { name: "Disconnect Orrery House?" });
    expect(within(sheet).getByRole("button", { name: "Disconnect, keep the history" })).toBeTruthy();
    await user.click(within(sheet).getByRole("checkbox"));
    expect(within(sheet).getByText(/310 posts, 4,100 readings, 77 comments. This cannot be undone/)).toBeTruthy();
    await user.click(within(sheet).getByRole("button", { name: "Stop and erase everything" }));
    expect(await screen.findByText("Orrery House is being erased.")).toBeTruthy();
    expect(server.sent("DELETE /sources/profiles/1")[0]?.query.get("erase")).toBe("true");
  });

  it("promises that it is not collected twice at once", async () => {
    open({ "GET /sources/profiles/1": detail({ runs: [{ id: 1, profile_id: 1, state: "running" }] }) });
    const button = (await screen.findByRole("button", { name: "Being collected" })) as HTMLButtonElement;
    expect(button.disabled).toBe(true);
  });

  it("promises a competitor's profile to be followed, not connected", async () => {
    open({ "GET /sources/profiles/1": detail({}, { kind: "competitor", competitor: "Halfmoon" }) });
    expect(await screen.findByRole("button", { name: "Stop following" })).toBeTruthy();
    expect(screen.getByText(/no network tells of other people's profiles/)).toBeTruthy();
  });
});

describe("the brand", () => {
  it("promises that a time zone that does not exist is said beside it, and what was typed stays", async () => {
    const { user } = screenAt("sources/brand", {
      "PUT /": new Refusal(400, "No.", { time_zone: ["There is no time zone Atlantis/Ys."] }),
    });
    const zone = await screen.findByLabelText("Time zone");
    await user.clear(zone);
    await user.type(zone, "Atlantis/Ys");
    await user.click(screen.getByRole("button", { name: /^(Keep|Save)/ }));
    expect(await screen.findByText("There is no time zone Atlantis/Ys.")).toBeTruthy();
    expect(screen.getByDisplayValue("Atlantis/Ys")).toBeTruthy();
  });

  it("promises the picture of one of its own profiles", async () => {
    const profile = (id: number, network: string) => ({ id, name: "Orrery House", network, kind: "own", handle: "o" });
    const { user, server } = screenAt("sources/brand", {
      "GET /sources": sample("Sources", { profiles: [profile(1, "commons"), profile(2, "brevi")] as never }),
      "PUT /sources/picture": undefined,
    });
    await user.click(await screen.findByRole("radio", { name: "Take the picture of Orrery House on Brevi" }));
    await waitFor(() => expect(server.asked.some((a) => a.method === "PUT")).toBe(true));
    expect(server.asked.find((a) => a.method === "PUT")?.body).toEqual({ profile_id: 2 });
  });
});

describe("files in and out", () => {
  it("promises each file with what it brought, and everything out in three forms", async () => {
    screenAt("sources/import", {
      "GET /sources/imports": [
        sample("Import", {
          id: 1,
          file_name: "autumn.csv",
          state: "done",
          kind: "posts",
          accepted: 90,
          added: 80,
          refused: 2,
        }),
        sample("Import", {
          id: 2,
          file_name: "huge.csv",
          state: "running",
          kind: "posts",
          rows_read: 500,
          row_count: 1000,
          is_exact: true,
        }),
        sample("Import", {
          id: 3,
          file_name: "torn.csv",
          state: "failed",
          kind: "posts",
          message: "Row 9 ends within a quote.",
        }),
      ],
    });
    expect(await screen.findByText(/90 rows taken, 80 new, 2 left out/)).toBeTruthy();
    expect(screen.getByText(/500 of 1,000 rows, 50 %/)).toBeTruthy();
    expect(screen.getByText("Row 9 ends within a quote.")).toBeTruthy();
    expect(screen.getAllByRole("link", { name: /as CSV$/ }).length).toBe(10);
  });

  it("promises that a file is looked at first, and that a wrong one changes nothing", async () => {
    const files: unknown[] = [];
    const { user, address } = screenAt("sources/import", {
      "GET /sources/imports": [],
      "POST /sources/imports": ({ body }: Asked) => {
        files.push(body);
        return files.length === 1
          ? new Refusal(400, "“notes.csv” has a head but no rows.")
          : sample("Preview", { item: { id: 8 } });
      },
      "GET /sources/imports/8": sample("Preview", { item: { id: 8, state: "waiting", file_name: "good.csv" } }),
    });
    const picker = await screen.findByLabelText("File to bring in");
    await user.upload(picker, new File(["a"], "notes.csv"));
    expect(await screen.findByText(/has a head but no rows. Nothing was changed/)).toBeTruthy();
    await user.upload(picker, new File(["a"], "good.csv"));
    await waitFor(() => expect(address()).toContain("/sources/import/8"));
    expect(files).toEqual(["notes.csv", "good.csv"]);
  });
});
