// @vitest-environment happy-dom
import { describe, expect, it } from "vitest";
import { cleanup, Refusal, sample, screen, screenAt, waitFor, within } from "../../../testing";

const idea = (more: object = {}) =>
  sample("Idea", {
    id: 4,
    title: "Frost on the roof",
    note: "who is in first",
    edition: 2,
    group: null,
    page: "",
    origin: "post",
    post: 8,
    figures: [{ key: "index", value: 2.4, at: null }],
    kept_at: "2026-11-20T10:00:00Z",
    for_it: 2,
    remarks: 1,
    ...more,
  });
const GROUPS = sample("IdeaGroups", {
  groups: [{ id: 3, name: "Winter", ideas: 1 }],
  in_none: 4,
  open: 5,
  written: 1,
  shut: 0,
});
const ANSWERS = {
  "GET /sources": sample("Sources", {
    profiles: [{ id: 7, name: "Orrery House", network: "commons", kind: "own" }] as never,
  }),
  "GET /plan/ideas": { ideas: [idea()], next: null },
  "GET /plan/ideas/groups": GROUPS,
  "GET /plan/ideas/4": idea(),
  "GET /campaigns": [],
};

describe("ideas", () => {
  it("promises each with its origin, the figure that was kept, and who is for it", async () => {
    screenAt("plan/ideas", ANSWERS);
    const list = await screen.findByRole("list", { name: "Ideas" });
    expect(await within(list).findByText("2.40 times typical")).toBeTruthy();
    expect(within(list).getByText("from a post")).toBeTruthy();
    expect(screen.getByRole("button", { name: /open 5/ })).toBeTruthy();
  });

  it("promises that a change is saved with the edition that was read, and a colleague's is not written over", async () => {
    let tries = 0;
    const { user, server } = screenAt("plan/ideas?idea=4", {
      ...ANSWERS,
      "GET /plan/ideas/4": () => (tries ? idea({ edition: 3, title: "Snow" }) : idea()),
      "PUT /plan/ideas/4": () =>
        tries++ ? idea({ edition: 4, title: "Ice" }) : new Refusal(409, "Somebody has changed this idea."),
    });
    const title = await screen.findByLabelText("The idea in a few words");
    await user.clear(title);
    await user.type(title, "Ice");
    await user.click(screen.getByRole("button", { name: "Save" }));
    await user.click(await screen.findByRole("button", { name: "Go on with mine" }));
    expect((screen.getByLabelText("The idea in a few words") as HTMLInputElement).value).toBe("Ice");
    await user.click(screen.getByRole("button", { name: "Save" }));
    await waitFor(() =>
      expect(server.sent("PUT /plan/ideas/4").map((a) => (a.body as { edition: number }).edition)).toEqual([2, 3]),
    );
  });

  it("promises a draft from a wording as it was changed, what is typed saved before", async () => {
    const { user, server } = screenAt("plan/ideas?idea=4", {
      ...ANSWERS,
      "POST /plan/ideas/wordings": sample("Wordings", {
        language: "en",
        languages: ["en"],
        posts: 40,
        days: 365,
        characters: null,
        wordings: [{ text: "Did you know Frost \u2026?", patterns: [] }],
      }),
      "POST /plan/ideas/4/write": sample("PlannedPost", { id: 31 }),
      "GET /plan/31": sample("PlannedPost", { id: 31, state: "draft", versions: [], from_idea: 4 }),
      "POST /plan/check": [],
    });
    await user.click(await screen.findByRole("button", { name: "First wording" }));
    const text = await screen.findByLabelText("Wording 1");
    await user.type(text, " Yes");
    await user.click(screen.getByRole("button", { name: "Write a draft from it" }));
    await waitFor(() =>
      expect(server.sent("POST /plan/ideas/4/write")[0]?.body).toEqual({ text: "Did you know Frost \u2026? Yes" }),
    );
  });

  it("promises that what is typed of a new idea outlives a reload and an error", async () => {
    const answers = { ...ANSWERS, "POST /plan/ideas": new Refusal(503, "The database is away.") };
    const { user } = screenAt("plan/ideas/new", answers);
    await user.type(await screen.findByLabelText("The idea in a few words"), "Snow");
    await user.click(screen.getByRole("button", { name: "Keep the idea" }));
    expect(await screen.findByText(/database is away/)).toBeTruthy();
    cleanup();
    screenAt("plan/ideas/new", ANSWERS);
    expect(((await screen.findByLabelText("The idea in a few words")) as HTMLInputElement).value).toBe("Snow");
  });

  it("promises that a page that is handed over fills the form and names its picture", async () => {
    const { user, server } = screenAt(
      "plan/ideas/new?title=Comet&text=At%20dawn&url=https://a.example/c&picture=https://a.example/c.jpg",
      { ...ANSWERS, "POST /plan/ideas": sample("KeptIdea", { id: 4, problem: "" }) },
    );
    await user.click(await screen.findByRole("button", { name: "Keep the idea" }));
    await waitFor(() =>
      expect(server.sent("POST /plan/ideas")[0]?.body).toMatchObject({
        content: { title: "Comet", note: "At dawn", page: "https://a.example/c" },
        origin: { origin: "page", picture: "https://a.example/c.jpg" },
      }),
    );
  });

  it("promises an idea opened as a post to be shown where ideas are", async () => {
    screenAt("plan/4", { ...ANSWERS, "GET /plan/4": sample("PlannedPost", { id: 4, state: "idea", versions: [] }) });
    expect(await screen.findByRole("list", { name: "Ideas" })).toBeTruthy();
  });
});
