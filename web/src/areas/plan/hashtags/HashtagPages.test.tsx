// @vitest-environment happy-dom
import { describe, expect, it } from "vitest";
import { sample, screen, screenAt, waitFor, within } from "../../../testing";

const result = (more: object = {}) => ({
  posts: 30,
  index: 1.2,
  verdict: "better",
  times: 1.5,
  low: 1.2,
  high: 1.9,
  ...more,
});
const tag = (name: string, more: object = {}) =>
  sample("Hashtag", {
    tag: name,
    likeness: null,
    own: null,
    field: null,
    wear: null,
    seen: [
      {
        network: "commons",
        at: "2026-11-25T10:00:00Z",
        uses: 5000,
        week: 40,
        warm: 0.6,
        cold: 0.1,
        is_restricted: false,
        problem: "",
      },
    ],
    ...more,
  });
const network = sample("Network", {
  key: "commons",
  name: "Commons",
  monogram: "Co",
  offer: { has_publishing: true, has_first_comment: true },
  has_options: false,
  title_limit: 0,
  media: { need: "", most_pictures: 4 },
});
const ANSWERS = {
  "GET //networks": [network],
  "GET /sources": sample("Sources", {
    profiles: [{ id: 1, name: "Orrery House", network: "commons", kind: "own", authorisation: "valid" }] as never,
  }),
  "POST /plan/check": [sample("Check", { profile_id: 1, has_first_comment: true, count: 3, limit: 500, problems: [] })],
  "GET /timing": sample("Timing"),
  "GET /results/groups": sample("Groups"),
  "GET /plan/hashtags": [{ id: 2, name: "Night", tags: ["skytonight", "moon"], network: "" }],
  "POST /plan/hashtags/proposals": sample("HashtagProposals", {
    by_why: { text: ["moon"], own: ["moon", "gears"], field: [], similar: [] },
    days: 365,
    posts: 90,
    posts_of_field: 0,
    is_asked: false,
    tags: [
      tag("moon", { own: result() }),
      tag("gears", {
        own: result({ verdict: "open", times: 1.1, low: 0.8, high: 1.4 }),
        wear: { times: 0.6, low: 0.4, high: 0.9, recent: 10, earlier: 30, is_worn: true },
      }),
    ],
  }),
};

describe("hashtags", () => {
  it("promises that what is gathered goes into the text or the first comment in one step, and is kept as a set", async () => {
    const { user, server } = screenAt("plan/new?text=The moon", {
      ...ANSWERS,
      "POST /plan/hashtags": { id: 3, name: "Both", tags: ["moon", "gears"], network: "" },
    });
    await user.click((await screen.findAllByRole("button", { name: "Hashtags" }))[0] as HTMLElement);
    const fits = await screen.findByRole("region", { name: "Fit the text" });
    expect(within(fits).getByText("you 1.50 (1.20–1.90), 30 posts")).toBeTruthy();
    expect(screen.getByText(/worn out: the last 10 posts got 0.60 times/)).toBeTruthy();
    await user.click(within(fits).getByRole("button", { name: "Take #moon" }));
    await user.type(screen.getByLabelText("Hashtags for the tray"), "#Gears");
    await user.click(screen.getByRole("button", { name: "Add" }));
    await user.click(screen.getByRole("button", { name: "keep as a set" }));
    await user.type(screen.getByLabelText("Name of the set"), "Both");
    await user.click(screen.getByRole("button", { name: "Keep" }));
    await waitFor(() =>
      expect(server.sent("POST /plan/hashtags")[0]?.body).toEqual({
        name: "Both",
        tags: ["moon", "gears"],
        network: "",
      }),
    );
    await user.click(screen.getByRole("button", { name: "Into the text" }));
    expect((screen.getByLabelText("Text for all") as HTMLTextAreaElement).value).toBe("The moon\n#moon #gears");
    await user.click(screen.getByRole("button", { name: "Into the first comment" }));
    expect((screen.getByLabelText("First comment") as HTMLTextAreaElement).value).toBe("#moon #gears");
  });

  it("promises followed ones with their figures, and one of them over time", async () => {
    const { user, server } = screenAt("plan/hashtags", {
      ...ANSWERS,
      "GET /plan/hashtags/followed": { is_asked: false, tags: [tag("moon", { own: result() })] },
      "GET /plan/hashtags/course": {
        tag: "moon",
        own: [{ month: "2026-10-01", posts: 4, index: 1.3, low: 0.9, high: 1.8 }],
        field: [],
        readings: [
          { network: "commons", at: "2026-11-20T10:00:00Z", uses: 4000, week: null },
          { network: "commons", at: "2026-11-25T10:00:00Z", uses: 5000, week: null },
        ],
      },
      "POST /plan/hashtags/followed": { tag: "comet" },
    });
    expect(await screen.findByText("1.50 (1.20–1.90)")).toBeTruthy();
    await user.click(screen.getByRole("button", { name: "#moon" }));
    expect(await screen.findByText(/from 4.0k on|from 4k on/)).toBeTruthy();
    await user.type(screen.getByLabelText("A hashtag to follow"), "#Comet");
    await user.click(screen.getByRole("button", { name: "Follow" }));
    await waitFor(() => expect(server.sent("POST /plan/hashtags/followed")[0]?.body).toEqual({ tag: "comet" }));
  });
});
