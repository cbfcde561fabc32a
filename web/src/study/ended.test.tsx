// @vitest-environment happy-dom
import { describe, expect, it } from "vitest";
import { Refusal, sample, screen, screenAt, waitFor, within } from "../testing";

const session = (email: string) =>
  sample("Session", { email, brands: [{ slug: "orrery-house", name: "Orrery House", role: "admin" }] });
const profiles = [{ id: 1, name: "Orrery House", network: "commons", kind: "own", authorisation: "valid" }];
const ANSWERS = {
  "GET //networks": [sample("Network", { key: "commons", name: "Commons", offer: { has_publishing: true } })],
  "GET /sources": sample("Sources", { profiles: profiles as never }),
  "POST /plan/check": [],
  "GET /results/groups": sample("Groups"),
  "GET /timing": sample("Timing"),
};

const PLANNED = {
  id: 9,
  state: "draft",
  edition: 1,
  text: "Late",
  versions: [{ id: 1, profile_id: 1, network: "commons", text: "Late", state: "draft" }],
};

describe("a session that ends while somebody is at work", () => {
  it("promises the way in on the same page, with what was typed still there", async () => {
    let isIn = false;
    const { user, server, address } = screenAt("plan/new", {
      ...ANSWERS,
      "POST /plan": () => (isIn ? sample("PlannedPost", { id: 9 }) : new Refusal(401, "Sign in to go on.")),
      "GET /plan/9": sample("PlannedPost", { id: 9 }),
      "POST //session": () => {
        isIn = true;
        return session("mira@ninthbell.example");
      },
    });
    const text = (await screen.findByLabelText("Text for all")) as HTMLTextAreaElement;
    await user.clear(text);
    await user.type(text, "Not lost");
    await user.click(screen.getByRole("button", { name: "Save as draft" }));
    const dialog = within(await screen.findByRole("dialog", { name: "Your session has ended" }));
    expect((dialog.getByLabelText("E-mail address") as HTMLInputElement).value).toBe("mira@ninthbell.example");
    await user.type(dialog.getByLabelText("Password"), "a good long password");
    await user.click(dialog.getByRole("button", { name: "Sign in" }));
    await waitFor(() => expect(screen.queryByRole("dialog")).toBeNull());
    expect(text.value).toBe("Not lost");
    await user.click(screen.getByRole("button", { name: "Save as draft" }));
    await waitFor(() => expect(address()).toContain("/plan/9"));
    expect(server.sent("POST /plan")[1]?.body).toMatchObject({ common: { text: "Not lost" } });
  });

  it("promises that what is looked at stays when a question in the background meets it", async () => {
    let isIn = true;
    const { user } = screenAt("plan/9", {
      ...ANSWERS,
      "GET /plan/9": () => (isIn ? sample("PlannedPost", PLANNED as never) : new Refusal(401, "Sign in to go on.")),
      "POST //session": () => {
        isIn = true;
        return session("mira@ninthbell.example");
      },
    });
    const text = (await screen.findByLabelText("Text for all")) as HTMLTextAreaElement;
    await user.type(text, " indeed");
    isIn = false; // the page asks again every three seconds
    const dialog = within(await screen.findByRole("dialog", { name: "Your session has ended" }, { timeout: 6000 }));
    expect(document.contains(text)).toBe(true);
    expect(text.value).toBe("Late indeed");
    await user.type(dialog.getByLabelText("Password"), "a good long password");
    await user.click(dialog.getByRole("button", { name: "Sign in" }));
    await waitFor(() => expect(screen.queryByRole("dialog")).toBeNull());
    expect(document.contains(text)).toBe(true);
  }, 15_000);
});
