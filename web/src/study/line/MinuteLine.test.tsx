// @vitest-environment happy-dom
import { describe, expect, it } from "vitest";
import { BRAND, fireEvent, sample, screen, screenAt, waitFor } from "../../testing";
import { toX, viewAround, ZOOMS } from "./geometry";

const WIDTH = 1200;
const NOW = Date.parse("2026-11-25T12:00:00Z");
const VIEW = viewAround(NOW, ZOOMS[0].days, "past");
const DAY = WIDTH / ZOOMS[0].days;
const PERIOD = "first=2026-11-01&last=2026-11-10";
const LINE = sample("Line", {
  posts: [
    { id: 1, at: "2026-10-20T10:00:00Z", posts: 1, height: 4, text: "Before all of it" },
    { id: 2, at: "2026-10-25T10:00:00Z", posts: 1, height: 4, text: "Held against" },
    { id: 3, at: "2026-11-05T10:00:00Z", posts: 1, height: 9, text: "The gears of the tower clock" },
    { id: 4, at: "2026-11-06T10:00:00Z", posts: 1, height: 1, text: "" },
  ] as never,
  holes: ["2026-11-08"],
  campaigns: [{ name: "Night Openings", first_day: "2026-11-01", last_day: "2026-11-30", colour: 1 }] as never,
});

/** The line above a screen that asks for little else. */
async function line(query = PERIOD, answers: object = {}) {
  const opened = screenAt(`competitors?${query}`, {
    "GET /competitors": sample("PeerTable"),
    "GET /line": LINE,
    ...answers,
  });
  const drawn = await screen.findByRole("group", { name: /in half a year$/ });
  await waitFor(() => expect(drawn.getAttribute("aria-label")).toBe("4 posts in half a year"));
  return { ...opened, drawn };
}

const ticks = (drawn: HTMLElement, colour: string) =>
  (drawn.querySelector(`path.mark[stroke="var(--${colour})"]`)?.getAttribute("d") ?? "").split("M").length - 1;
const titles = (drawn: HTMLElement) => [...drawn.querySelectorAll("title")].map((title) => title.textContent);
const at = (instant: string) => toX(Date.parse(instant), VIEW, WIDTH);

describe("what the line shows", () => {
  it("promises each post once: of the period, of the one held against, or of neither", async () => {
    const { drawn } = await line();
    expect([ticks(drawn, "berry"), ticks(drawn, "against"), ticks(drawn, "tick")]).toEqual([2, 1, 1]);
    expect(screen.getByText("1 Nov – 10 Nov · 10 days")).toBeTruthy();
    expect(screen.getByText("against 22 Oct – 31 Oct")).toBeTruthy();
  });

  it("promises that posts too many to be told apart stand as days, which lead to their posts", async () => {
    const days = sample("Line", {
      posts: [
        { id: null, at: "2026-10-20T12:00:00Z", posts: 1200, height: 4, interactions: 16, text: "" },
        { id: null, at: "2026-11-05T12:00:00Z", posts: 900, height: 9, interactions: null, text: "" },
      ] as never,
    });
    const { user, address } = screenAt(`competitors?${PERIOD}&format=image`, {
      "GET /competitors": sample("PeerTable"),
      "GET /results/posts": sample("PostsPage"),
      "GET /results/posts/totals": sample("Totals"),
      "GET /line": days,
    });
    const drawn = await screen.findByRole("group", { name: "2,100 posts in half a year" });
    expect([ticks(drawn, "berry"), ticks(drawn, "tick")]).toEqual([1, 1]);
    const walk = screen.getByRole("slider", { name: /Posts on the line/ });
    walk.focus();
    await user.keyboard("{Home}");
    expect(walk.getAttribute("aria-valuetext")).toBe("20 Oct: 1,200 posts, 16 interactions each");
    await user.keyboard("{ArrowRight}");
    expect(walk.getAttribute("aria-valuetext")).toBe("5 Nov: 900 posts");
    await user.keyboard("{Enter}");
    await waitFor(() => expect(address()).toContain("/results/posts?first=2026-11-05&last=2026-11-05&format=image"));
  });

  it("promises that missing days and campaigns are named where they lie", async () => {
    const { drawn } = await line();
    expect(titles(drawn)).toEqual(["No data of a profile on 8 Nov", "Campaign Night Openings, 1 Nov – 30 Nov"]);
  });

  it("promises the post under the pointer in words, one click away, with what is studied kept", async () => {
    const { drawn, address } = await line(`${PERIOD}&network=brevi`);
    fireEvent.pointerMove(drawn, { clientX: at("2026-11-05T10:00:00Z") + 2, clientY: 50 });
    expect(screen.getByText("5 Nov: The gears of the tower clock")).toBeTruthy();
    fireEvent.pointerMove(drawn, { clientX: at("2026-11-06T10:00:00Z"), clientY: 50 });
    expect(screen.getByText("6 Nov: no text")).toBeTruthy();
    fireEvent.pointerLeave(drawn);
    expect(screen.queryByText(/no text/)).toBeNull();
    fireEvent.pointerMove(drawn, { clientX: at("2026-11-05T10:00:00Z"), clientY: 50 });
    fireEvent.click([...drawn.querySelectorAll("g.cursor-pointer")].at(-1) as Element);
    expect(address()).toBe(`/${BRAND}/results/posts/3?${PERIOD}&network=brevi`);
  });

  it("promises no post where none is near", async () => {
    const { drawn } = await line();
    fireEvent.pointerMove(drawn, { clientX: at("2026-09-01T10:00:00Z"), clientY: 50 });
    expect(screen.queryByText(/^\d+ \w{3}: /)).toBeNull();
  });

  it("promises what is planned ahead of now, and that one leads to it", async () => {
    const { drawn, address } = await line(PERIOD, {
      "GET /plan": sample("Plan", {
        planned: [
          { id: 9, title: "Night opening", at: "2026-12-01T19:00:00Z", state: "scheduled" },
          { id: 10, title: "Out already", at: "2026-11-24T19:00:00Z", state: "published" },
          { id: 11, title: "Some day", at: null, state: "draft" },
        ] as never,
      }),
      "GET /plan/9": sample("PlannedPost", { id: 9, title: "Night opening" }),
    });
    await waitFor(() => expect(titles(drawn)).toContain("Planned: Night opening"));
    expect(titles(drawn).filter((title) => title?.startsWith("Planned"))).toHaveLength(1);
    fireEvent.click(drawn.querySelector("rect.cursor-pointer") as Element);
    expect(address()).toBe(`/${BRAND}/plan/9`);
  });
});

describe("what the line is told", () => {
  const grip = (name: RegExp) => screen.getByRole("slider", { name });

  it("promises that a drag shows at once, and counts when it is let go", async () => {
    const { address } = await line();
    const whole = grip(/^Period, /);
    fireEvent.pointerDown(whole, { clientX: 500, pointerId: 1 });
    fireEvent.pointerMove(whole, { clientX: 500 - 3 * DAY, pointerId: 1 });
    expect(screen.getByText(/^29 Oct – 7 Nov · 10 days$/)).toBeTruthy();
    expect(address()).toContain(PERIOD);
    fireEvent.pointerUp(whole, { pointerId: 1 });
    await waitFor(() => expect(address()).toContain("first=2026-10-29&last=2026-11-07"));
  });

  it("promises that an end does not pass the other", async () => {
    const { address } = await line();
    const end = grip(/^Period ends/);
    fireEvent.pointerDown(end, { clientX: 900, pointerId: 1 });
    fireEvent.pointerMove(end, { clientX: 900 - 60 * DAY, pointerId: 1 });
    fireEvent.pointerUp(end, { pointerId: 1 });
    await waitFor(() => expect(address()).toContain("first=2026-11-01&last=2026-11-01"));
  });

  it("promises that a drag back to where it began changes nothing", async () => {
    const { address } = await line("");
    const whole = grip(/^Period, /);
    fireEvent.pointerDown(whole, { clientX: 500, pointerId: 1 });
    fireEvent.pointerMove(whole, { clientX: 560, pointerId: 1 });
    fireEvent.pointerMove(whole, { clientX: 501, pointerId: 1 });
    fireEvent.pointerUp(whole, { pointerId: 1 });
    expect(address()).not.toContain("first=");
  });

  it("promises weeks by Page keys and each end by its own arrows", async () => {
    const { address } = await line();
    const press = (of: RegExp, key: string, times = 1) => {
      for (let i = 0; i < times; i++) fireEvent.keyDown(grip(of), { key });
      fireEvent.keyUp(grip(of), { key });
    };
    press(/^Period, /, "PageUp");
    await waitFor(() => expect(address()).toContain("first=2026-10-25&last=2026-11-03"));
    press(/^Period begins/, "ArrowRight");
    await waitFor(() => expect(address()).toContain("first=2026-10-26&last=2026-11-03"));
    press(/^Period begins/, "Enter");
    expect(address()).toContain("first=2026-10-26&last=2026-11-03");
    // A held key counts each time that it comes.
    press(/^Period begins/, "ArrowRight", 3);
    await waitFor(() => expect(address()).toContain("first=2026-10-29&last=2026-11-03"));
  });

  it("promises a month by a double click, the present one up to today", async () => {
    const { drawn, address } = await line();
    fireEvent.doubleClick(drawn, { clientX: at("2026-09-15T12:00:00Z") });
    await waitFor(() => expect(address()).toContain("first=2026-09-01&last=2026-09-30"));
    fireEvent.doubleClick(drawn, { clientX: at("2026-11-12T12:00:00Z") });
    await waitFor(() => expect(address()).toContain("first=2026-11-01&last=2026-11-25"));
  });

  it("promises nearer and farther views, and to go along in time within what there is", async () => {
    const { user, drawn } = await line();
    const months = () => drawn.querySelectorAll("line[stroke='var(--rule)']").length;
    const wide = months();
    const more = screen.getByRole("button", { name: "Show more time" }) as HTMLButtonElement;
    expect(more.disabled).toBe(true);
    await user.click(screen.getByRole("button", { name: "Show less time" }));
    await user.click(screen.getByRole("button", { name: "Show less time" }));
    expect(more.disabled).toBe(false);
    expect(months()).toBeLessThan(wide);
    for (let i = 0; i < 40; i++) fireEvent.click(screen.getByRole("button", { name: "Earlier" }));
    const now = () => Number(drawn.querySelector("line[stroke='var(--ink)']")?.getAttribute("x1"));
    const earliest = now();
    fireEvent.click(screen.getByRole("button", { name: "Earlier" }));
    expect(now()).toBe(earliest);
    fireEvent.click(screen.getByRole("button", { name: "Later" }));
    expect(now()).toBeLessThan(earliest);
  });

  it("promises that a handle is dragged and never opens the post beneath it", async () => {
    const { drawn, address } = await line();
    const x = at("2026-11-01T00:00:00Z");
    fireEvent.pointerMove(drawn, { clientX: x + 3, clientY: 60 });
    fireEvent.click(grip(/^Period begins/), { clientX: x + 3, clientY: 60 });
    expect(address()).not.toContain("/posts/");
  });

  it("promises the posts of the line by keyboard", async () => {
    const { address } = await line(PERIOD, {
      "GET /results/posts/4": sample("PostDetail"),
      "GET /sources/posts/4/comments": [],
      "GET /links": sample("Links"),
    });
    const walk = screen.getByRole("slider", { name: /^Posts on the line/ });
    fireEvent.keyDown(walk, { key: "ArrowLeft" });
    await waitFor(() => expect(walk.getAttribute("aria-valuetext")).not.toBe("none chosen"));
    fireEvent.keyDown(walk, { key: "Enter" });
    await waitFor(() => expect(address()).toContain("/results/posts/"));
  });
});
