// @vitest-environment happy-dom
import { describe, expect, it } from "vitest";
import { Refusal, rowOf, screen, screenAt, waitFor } from "../../../testing";

const FEED = { is_on: true, title: "News", site: "", address: "http://127.0.0.1:8000/feeds/abc.atom", edition: 2 };
const ITEM = {
  id: 5,
  title: "It strikes again",
  post: 31,
  link: 7,
  published_at: "2026-11-20T10:00:00Z",
  is_away: false,
  views: 1234,
  clicks: 12,
};
const ANSWERS = { "GET /plan/own-feed": { feed: FEED, items: [ITEM], next: null } };

describe("the site's own feed", () => {
  it("promises its address, and of each item how often it was seen and clicked on", async () => {
    screenAt("plan/feed", ANSWERS);
    expect(await screen.findByRole("link", { name: FEED.address })).toBeTruthy();
    const row = rowOf("It strikes again");
    expect(row.textContent).toContain("1,234");
    expect(row.textContent).toContain("12");
  });

  it("promises that an item is taken out where it stands", async () => {
    const { user, server } = screenAt("plan/feed", {
      ...ANSWERS,
      "PUT /plan/own-feed/items/5": { ...ITEM, is_away: true },
    });
    await user.click(await screen.findByRole("button", { name: "take it out" }));
    await waitFor(() => expect(server.sent("PUT /plan/own-feed/items/5")[0]?.body).toEqual({ is_away: true }));
  });

  it("promises that what is typed stays when a colleague was faster", async () => {
    const { user, server } = screenAt("plan/feed", {
      ...ANSWERS,
      "PUT /plan/own-feed": new Refusal(409, "Somebody has changed the feed."),
    });
    const title = (await screen.findByLabelText("Title")) as HTMLInputElement;
    await user.clear(title);
    await user.type(title, "All news");
    await user.click(screen.getByRole("button", { name: "Keep it so" }));
    expect(await screen.findByText(/Somebody has changed the feed/)).toBeTruthy();
    expect(server.sent("PUT /plan/own-feed")[0]?.body).toMatchObject({ title: "All news", is_on: true, edition: 2 });
    expect(title.value).toBe("All news");
  });

  it("promises those who may only look no button", async () => {
    screenAt("plan/feed", ANSWERS, "viewer");
    expect(await screen.findByText("It strikes again")).toBeTruthy();
    expect(screen.queryByRole("button", { name: /take it out|Keep it so/ })).toBeNull();
  });
});
