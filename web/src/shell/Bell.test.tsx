// @vitest-environment happy-dom
import { describe, expect, it } from "vitest";
import { sample, screen, screenAt, waitFor, within } from "../testing";

const one = (id: number, more: object = {}) =>
  sample("Notification", { id, text: `Finding ${id}`, path: "results/findings", is_read: false, ...more });

describe("the bell", () => {
  it("promises how much is new, the way there, and that what was opened is read", async () => {
    const { user, server, address } = screenAt("results/findings", {
      "GET /results/findings": sample("Findings"),
      "GET /notifications": { unread: 2, notifications: [one(5), one(4), one(3, { is_read: true })] },
      "POST /notifications": { unread: 1, notifications: [one(5, { is_read: true }), one(4)] },
    });
    await user.click(await screen.findByRole("button", { name: "Notices, 2 new" }));
    const sheet = await screen.findByRole("dialog");
    await user.click(within(sheet).getByRole("link", { name: "Finding 5" }));
    expect(address()).toContain("/results/findings");
    await waitFor(() => expect(server.sent("POST /notifications")[0]?.body).toEqual({ ids: [5] }));
    expect(await screen.findByRole("button", { name: "Notices, 1 new" })).toBeTruthy();
  });

  it("promises the way to choosing what one is told, from where it is told", async () => {
    const { user, address } = screenAt("results/findings", {
      "GET /results/findings": sample("Findings"),
      "GET /notifications/choices": sample("Choices", {
        hours: { quiet_from: null, quiet_to: null, digest_at: "08:00" },
      }),
    });
    await user.click(await screen.findByRole("button", { name: "Notices" }));
    const sheet = await screen.findByRole("dialog");
    expect(within(sheet).getByText(/Nothing yet/)).toBeTruthy();
    await user.click(within(sheet).getByRole("link", { name: "Which of them I get, and by mail" }));
    expect(address()).toBe("/orrery-house/team/notices");
  });

  it("promises to take all as read at once", async () => {
    const { user, server } = screenAt("results/findings", {
      "GET /results/findings": sample("Findings"),
      "GET /notifications": { unread: 120, notifications: [one(5)] },
      "POST /notifications": { unread: 0, notifications: [one(5, { is_read: true })] },
    });
    await user.click(await screen.findByRole("button", { name: "Notices, 120 new" }));
    expect(screen.getByText("99+")).toBeTruthy();
    await user.click(await screen.findByRole("button", { name: "Take all as read" }));
    await waitFor(() => expect(server.sent("POST /notifications")[0]?.body).toEqual({}));
    await waitFor(() => expect(screen.queryByRole("button", { name: "Take all as read" })).toBeNull());
  });
});
