// @vitest-environment happy-dom
import { describe, expect, it } from "vitest";
import { Refusal, sample, screen, screenAt, waitFor, within } from "../../testing";
import { boxAround, secondsWords, sizeWords } from "./rules";

const asset = (id: number, name: string, more: object = {}) =>
  sample("Asset", {
    id,
    name,
    state: "ready",
    kind: "picture",
    words: "",
    width: 1600,
    height: 900,
    size: 120_000,
    focus_x: 0.5,
    focus_y: 0.5,
    created_at: "2026-11-20T10:00:00Z",
    ...more,
  });
const ANSWERS = {
  "GET /media": sample("Assets", { assets: [asset(3, "clock.jpg"), asset(4, "tower.jpg")] as never, next: null }),
  "GET /media/tags": [{ tag: "night", files: 2 }],
  "GET /media/3/uses": [
    { text: "Night opening on Commons, published", path: "results/posts/7", result: "1.42 times its usual" },
  ],
  "GET /media/4/uses": [],
};

describe("the files", () => {
  it("promises where a file is used and with what result", async () => {
    const { user } = screenAt("plan/files", ANSWERS);
    await user.click(await screen.findByRole("button", { name: /clock.jpg/ }));
    expect(await screen.findByText("1.42 times its usual")).toBeTruthy();
    expect(screen.getByRole("link", { name: /Night opening/ }).getAttribute("href")).toContain("/results/posts/7");
  });

  it("promises that what is in use is not taken away, and says why", async () => {
    const { user } = screenAt("plan/files", {
      ...ANSWERS,
      "DELETE /media/3": new Refusal(409, "It is used for Night opening. Take it out there first."),
    });
    await user.click(await screen.findByRole("button", { name: /clock.jpg/ }));
    await user.click(screen.getByRole("button", { name: "Take away" }));
    expect((await screen.findByRole("alert")).textContent).toContain("Take it out there first");
  });

  it("promises words, tags and focus kept, and that work on it makes another file", async () => {
    const { user, server } = screenAt("plan/files", {
      ...ANSWERS,
      "PATCH /media/3": asset(3, "clock.jpg"),
      "POST /media/3/edits": asset(5, "clock.jpg", { state: "checking" }),
    });
    await user.click(await screen.findByRole("button", { name: /clock.jpg/ }));
    await user.click(screen.getByRole("button", { name: "Open and work on it" }));
    const sheet = within(await screen.findByRole("dialog"));
    await user.type(sheet.getByLabelText("Alternative text"), "A clock at night");
    await user.type(sheet.getByLabelText("Tags"), "night, sky");
    sheet.getByRole("button", { name: /What must stay/ }).focus();
    await user.keyboard("{ArrowRight}{ArrowUp}");
    await user.click(sheet.getByRole("button", { name: "Keep" }));
    await waitFor(() =>
      expect(server.sent("PATCH /media/3")[0]?.body).toMatchObject({
        words: "A clock at night",
        tags: ["night", "sky"],
        focus_x: 0.55,
        focus_y: 0.45,
      }),
    );
    await user.click(screen.getByRole("button", { name: "Open and work on it" }));
    const again = within(await screen.findByRole("dialog"));
    expect((again.getByRole("button", { name: "Make another file of it" }) as HTMLButtonElement).disabled).toBe(true);
    await user.click(again.getByRole("button", { name: "1:1" }));
    await user.type(again.getByLabelText("Words on it"), "Open late");
    await user.click(again.getByRole("button", { name: "Make another file of it" }));
    await waitFor(() =>
      expect(server.sent("POST /media/3/edits")[0]?.body).toMatchObject({ turn: 0, words: [{ text: "Open late" }] }),
    );
  });

  it("promises that those who may only look change nothing", async () => {
    const { user } = screenAt("plan/files", ANSWERS, "viewer");
    await user.click(await screen.findByRole("button", { name: /clock.jpg/ }));
    expect(screen.queryByRole("button", { name: /Bring|Take away|Replace/ })).toBeNull();
  });
});

describe("rules of files", () => {
  it("promises the largest box of a shape within the picture", () => {
    expect(boxAround(1600, 900, 1, 0.9, 0.5)).toEqual({ left: 0.4375, top: 0, width: 0.5625, height: 1 });
    const tall = boxAround(900, 1600, 16 / 9, 0.5, 0);
    expect([tall.top, tall.width]).toEqual([0, 1]);
  });
  it("promises lengths and weights as people read them", () => {
    expect([secondsWords(5), secondsWords(65), secondsWords(3725)]).toEqual(["0:05", "1:05", "1:02:05"]);
    expect([sizeWords(900), sizeWords(120_000), sizeWords(2_340_000)]).toEqual(["900 B", "120 kB", "2.3 MB"]);
  });
});
