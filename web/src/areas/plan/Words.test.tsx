// @vitest-environment happy-dom
import { describe, expect, it } from "vitest";
import { sample, screen, screenAt, waitFor, within } from "../../testing";

const ANSWERS = {
  "GET //networks": [
    sample("Network", {
      key: "commons",
      name: "Commons",
      monogram: "Co",
      offer: { has_publishing: true, has_first_comment: false },
      has_options: false,
      title_limit: 0,
      media: { need: "", most_pictures: 4 },
    }),
  ],
  "GET /sources": sample("Sources", {
    profiles: [
      { id: 1, name: "Orrery House", handle: "orrery", network: "commons", kind: "own", authorisation: "valid" },
      { id: 2, name: "Halfmoon Planetarium", handle: "halfmoon", network: "commons", kind: "competitor" },
      { id: 3, name: "Halfmoon Planetarium", handle: "halfmoonpl", network: "brevi", kind: "competitor" },
    ] as never,
  }),
  "POST /plan/check": [
    sample("Check", { profile_id: 1, has_first_comment: false, count: 3, limit: 500, problems: [] }),
  ],
  "GET /timing": sample("Timing"),
  "GET /results/groups": sample("Groups"),
};

describe("words being written", () => {
  it("promises known profiles behind an at sign: arrows choose, Enter puts in, Escape leaves", async () => {
    const { user } = screenAt("plan/new", ANSWERS);
    const field = (await screen.findByLabelText("Text for all")) as HTMLTextAreaElement;
    await user.type(field, "Seen by @half");
    expect(
      within(await screen.findByRole("listbox", { name: "Who is meant" }))
        .getAllByRole("option")
        .map((one) => one.textContent),
    ).toEqual(["Halfmoon Planetarium @halfmoonCo", "Halfmoon Planetarium @halfmoonplBr"]);
    await user.keyboard("{ArrowDown}{Enter}");
    expect(field.value).toBe("Seen by @halfmoonpl ");
    expect(screen.queryByRole("listbox")).toBeNull();
    await user.type(field, "and @orr");
    expect(await screen.findByRole("listbox")).toBeTruthy();
    await user.keyboard("{Escape}");
    expect(screen.queryByRole("listbox")).toBeNull();
    expect(field.value).toBe("Seen by @halfmoonpl and @orr");
  });

  it("promises an Enter to be a line where nobody is meant", async () => {
    const { user } = screenAt("plan/new", ANSWERS);
    const field = (await screen.findByLabelText("Text for all")) as HTMLTextAreaElement;
    await user.type(field, "mira@half{Enter}@zz{Enter}.");
    expect(field.value).toBe("mira@half\n@zz\n.");
  });
});

describe("a file that is not looked into yet", () => {
  it("promises that it is waited for, and that the post can go out then", async () => {
    let state: "checking" | "ready" = "checking";
    const { user } = screenAt("plan/new?media=7", {
      ...ANSWERS,
      "GET /media/7": () => sample("Asset", { id: 7, name: "strike.png", state, kind: "picture" }),
    });
    await user.type(await screen.findByLabelText("Text for all"), "It strikes");
    expect(await screen.findByText("Waits until \u201cstrike.png\u201d is looked into.")).toBeTruthy();
    const button = screen.getByRole("button", { name: /^Schedule/ }) as HTMLButtonElement;
    expect(button.disabled).toBe(true);
    state = "ready";
    await waitFor(() => expect(button.disabled).toBe(false), { timeout: 5000 });
    expect(screen.queryByText(/^Waits until/)).toBeNull();
  });
});
