// @vitest-environment happy-dom
import { describe, expect, it } from "vitest";
import { Refusal, sample, screen, screenAt, waitFor, within } from "../testing";

const KEPT = [
  sample("KeptStudy", { id: 4, name: "Workshops", query: { tag: "3,7", boosted: "no", compare: "aligned" } }),
];
const ANSWERS = { "GET /results/groups": sample("Groups"), "GET /studies": KEPT };

describe("kept studies", () => {
  it("promises what was kept, on the days that one looks at, and nothing of what was studied before", async () => {
    const { user, address } = screenAt("results/groups?first=2026-11-01&last=2026-11-10&format=link", ANSWERS);
    await user.click(await screen.findByRole("button", { name: "Kept studies" }));
    await user.click(await screen.findByRole("button", { name: "Workshops" }));
    const query = new URLSearchParams(address().split("?")[1]);
    expect(Object.fromEntries(query)).toEqual({
      first: "2026-11-01",
      last: "2026-11-10",
      tag: "3,7",
      boosted: "no",
      compare: "aligned",
    });
    expect(screen.queryByRole("dialog")).toBeNull();
  });

  it("promises to keep what is studied under a name, to say what is wrong with it, and to lose no letter of it", async () => {
    const refused = new Refusal(400, "Somebody kept a study by this name just now.", {
      name: ["Somebody kept a study by this name just now."],
    });
    const { user, server } = screenAt("results/groups?tag=3&boosted=no", { ...ANSWERS, "POST /studies": refused });
    await user.click(await screen.findByRole("button", { name: "Kept studies" }));
    const field = await screen.findByLabelText("Keep what is studied now as");
    await user.type(field, "Night");
    await user.click(screen.getByRole("button", { name: "Keep it" }));
    await waitFor(() => expect(server.sent("POST /studies")).toHaveLength(1));
    expect(server.sent("POST /studies")[0]?.body).toMatchObject({ name: "Night", tag: "3", boosted: "no" });
    expect(await screen.findByRole("alert")).toBeTruthy();
    expect((field as HTMLInputElement).value).toBe("Night");
  });

  it("promises that whoever may only look opens studies and changes none", async () => {
    const { user } = screenAt("results/groups", ANSWERS, "viewer");
    await user.click(await screen.findByRole("button", { name: "Kept studies" }));
    const sheet = await screen.findByRole("dialog");
    expect(await within(sheet).findByRole("button", { name: "Workshops" })).toBeTruthy();
    expect(within(sheet).queryByRole("button", { name: /Let/ })).toBeNull();
    expect(within(sheet).queryByRole("button", { name: "Keep it" })).toBeNull();
  });
});
