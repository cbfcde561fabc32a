// @vitest-environment happy-dom
import { describe, expect, it } from "vitest";
import { Refusal, rowOf, screen, screenAt, waitFor } from "../../../testing";

const HOME = "http://127.0.0.1:8000/push";
const CHANNEL = {
  is_on: true,
  page: `${HOME}/abc/`,
  script: `<script async src="${HOME}/ask.js"></script>`,
  worker: `importScripts("${HOME}/abc/worker.js");`,
  browsers: 34,
  edition: 2,
};
const MESSAGE = {
  id: 5,
  title: "It strikes again",
  text: "Come and hear it",
  post: 31,
  link: 7,
  made_at: "2026-11-20T10:00:00Z",
  asked: 34,
  taken: 30,
  gone: 1,
  failed: 2,
  views: 27,
  clicks: 6,
};
const ANSWERS = { "GET /plan/push": { channel: CHANNEL, messages: [MESSAGE], next: null } };

describe("messages to browsers", () => {
  it("promises where people ask for them, and of each what became of it", async () => {
    screenAt("plan/messages", ANSWERS);
    expect(await screen.findByRole("link", { name: CHANNEL.page })).toBeTruthy();
    expect(screen.getByText("34 browsers")).toBeTruthy();
    const row = rowOf("It strikes again").textContent;
    for (const told of ["30 of 34", "1 on the way, 1 gone, 2 failed", "27", "6"]) expect(row).toContain(told);
  });

  it("promises that they are offered in one step, of the edition that is seen", async () => {
    const { user, server } = screenAt("plan/messages", {
      "GET /plan/push": { channel: { ...CHANNEL, is_on: false, edition: 0 }, messages: [], next: null },
      "PUT /plan/push": CHANNEL,
    });
    await user.click(await screen.findByRole("button", { name: "Offer messages" }));
    await waitFor(() => expect(server.sent("PUT /plan/push")[0]?.body).toEqual({ is_on: true, edition: 0 }));
  });

  it("promises to say when a colleague was faster", async () => {
    const { user } = screenAt("plan/messages", {
      ...ANSWERS,
      "PUT /plan/push": new Refusal(409, "Somebody has changed this."),
    });
    await user.click(await screen.findByRole("button", { name: "Switch them off" }));
    expect(await screen.findByText(/Somebody has changed this/)).toBeTruthy();
  });

  it("promises those who may only look no button", async () => {
    screenAt("plan/messages", ANSWERS, "viewer");
    expect(await screen.findByText("It strikes again")).toBeTruthy();
    expect(screen.queryByRole("button", { name: /Switch|Offer/ })).toBeNull();
  });
});
