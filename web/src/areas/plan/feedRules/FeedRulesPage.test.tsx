// @vitest-environment happy-dom
import { describe, expect, it } from "vitest";
import { cleanup, Refusal, sample, screen, screenAt, waitFor, within } from "../../../testing";

const RULE = sample("FeedRule", {
  id: 4,
  edition: 2,
  name: "Half Moon’s news",
  feed: 7,
  feed_title: "Half Moon",
  becomes: "draft",
  template: null,
  profiles: [1],
  campaign: null,
  group: null,
  any_of: ["comet*"],
  none_of: [],
  most_a_day: 2,
  minutes_after: 0,
  minutes_apart: 60,
  quiet_from: "21:00",
  quiet_to: "08:00",
  makes_links: true,
  is_on: true,
  problem: "",
  acts_as: "Elif",
  made: 3,
  left_out: 12,
  failed: 0,
  waiting: 1,
});
const item = (more: object) =>
  sample("FeedRuleItem", { id: 1, title: "A comet", outcome: "made", reason: "", post: 31, state: "draft", ...more });
const ANSWERS = {
  "GET //networks": [sample("Network", { key: "commons", name: "Commons", monogram: "Co" })],
  "GET /sources": sample("Sources", {
    profiles: [{ id: 1, name: "Orrery House", network: "commons", kind: "own" }] as never,
  }),
  "GET /sources/feeds": sample("Feeds", { feeds: [{ id: 7, title: "Half Moon" }] as never, items: [] }),
  "GET /plan/feed-rules": [RULE],
  "GET /plan/feed-rules/4/items": {
    items: [
      item({}),
      item({
        id: 2,
        title: "Rain",
        outcome: "left_out",
        reason: "Its words are not those asked for.",
        post: null,
        state: null,
      }),
    ],
    next: null,
  },
  "GET /plan/templates": [],
  "GET /plan/ideas/groups": sample("IdeaGroups"),
  "POST /plan/feed-rules/preview": sample("FeedRulePreview", {
    items_a_day: 5,
    items: [
      {
        title: "A comet at dawn",
        published_at: null,
        reason: "",
        at: "2026-11-26T09:00:00Z",
        words: [{ profile: 1, text: "A comet at dawn", count: 15, limit: 500, problems: ["Commons: Too long."] }],
      },
    ],
  }),
};

describe("rules for feeds", () => {
  it("promises what a rule did, why of some nothing came, and what it would do now", async () => {
    screenAt("plan/rules?rule=4", ANSWERS);
    const does = await screen.findByRole("region", { name: "What it does" });
    expect(await within(does).findByText("3 posts in 30 days, 12 left out, 1 to go out")).toBeTruthy();
    expect((await within(does).findByText("A comet")).getAttribute("href")).toMatch(/plan\/31$/);
    expect(within(does).getByText("Its words are not those asked for.")).toBeTruthy();
    expect(await within(does).findByText(/more than 2 a day, so that some are left out/)).toBeTruthy();
    expect(within(does).getByText("Commons: Too long.")).toBeTruthy();
  });

  it("promises that a new rule is sent as it was written, words parted", async () => {
    const { user, server } = screenAt("plan/rules?rule=new", { ...ANSWERS, "POST /plan/feed-rules": RULE });
    await user.selectOptions(await screen.findByLabelText("What they become"), "scheduled");
    await user.type(screen.getByLabelText("And say nothing of"), "advert, job* ,");
    await user.click(await screen.findByRole("checkbox", { name: "Commons" }));
    await user.click(screen.getByRole("button", { name: "None" }));
    await user.click(screen.getByRole("button", { name: "Begin" }));
    await waitFor(() =>
      expect(server.sent("POST /plan/feed-rules")[0]?.body).toMatchObject({
        name: "Half Moon",
        feed: 7,
        becomes: "scheduled",
        profiles: [1],
        none_of: ["advert", "job*"],
        quiet_from: null,
        quiet_to: null,
      }),
    );
  });

  it("promises that what is typed outlives an error and a reload, and a colleague's change is shown when asked", async () => {
    const answers = { ...ANSWERS, "PUT /plan/feed-rules/4": new Refusal(409, "Somebody has changed this rule.") };
    const { user, server } = screenAt("plan/rules?rule=4", answers);
    const name = (await screen.findByLabelText("Name of the rule")) as HTMLInputElement;
    await user.clear(name);
    await user.type(name, "Another name");
    await user.click(screen.getByRole("button", { name: "Keep it so" }));
    expect(await screen.findByText(/Somebody has changed this rule/)).toBeTruthy();
    expect(server.sent("PUT /plan/feed-rules/4")[0]?.body).toMatchObject({ edition: 2 });
    cleanup();
    const { user: again } = screenAt("plan/rules?rule=4", answers);
    const kept = (await screen.findByLabelText("Name of the rule")) as HTMLInputElement;
    expect(kept.value).toBe("Another name");
    await again.click(screen.getByRole("button", { name: "Keep it so" }));
    await again.click(await screen.findByRole("button", { name: "Show it as it is now" }));
    expect(kept.value).toBe("Half Moon’s news");
  });

  it("promises that taking it away asks about what is to go out", async () => {
    const { user, server } = screenAt("plan/rules?rule=4", {
      ...ANSWERS,
      "DELETE /plan/feed-rules/4": { posts: 1 },
    });
    await user.click(await screen.findByRole("button", { name: "Take it away" }));
    await user.click(await screen.findByRole("button", { name: "Take away both" }));
    await waitFor(() => expect(server.sent("DELETE /plan/feed-rules/4")[0]?.query.get("takes_back")).toBe("true"));
  });

  it("promises whoever may only look no button that would be refused", async () => {
    screenAt("plan/rules?rule=4", ANSWERS, "viewer");
    expect(await screen.findByLabelText("Name of the rule")).toBeTruthy();
    expect(screen.queryByRole("button", { name: /Keep it so|Take it away|A new rule/ })).toBeNull();
  });
});
