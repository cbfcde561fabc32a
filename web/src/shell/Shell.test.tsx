// @vitest-environment happy-dom
import { describe, expect, it } from "vitest";
import { type Asked, BRAND, fireEvent, NOW, Refusal, sample, screen, screenAt, waitFor, within } from "../testing";

const shellSession = sample("Session", { name: "New", email: "mira@ninthbell.example" });
const SUMMARY = {
  "GET /results/summary": sample("Summary"),
  "GET /results/posts/top": sample("TopPosts"),
  "GET /results/spikes": sample("Spikes"),
  "GET /links": sample("Links"),
};

describe("signing in", () => {
  it("promises the door to those who are not signed in, and their brand afterwards", async () => {
    const { user, server } = screenAt("results", {
      ...SUMMARY,
      "GET //session": new Refusal(401, "Sign in."),
      "POST //session": sample("Session", {
        name: "Mira Duarte",
        brands: [{ slug: BRAND, name: "Orrery House", role: "admin" }],
      }),
    });
    await user.type(await screen.findByLabelText("E-mail address"), "mira@ninthbell.example");
    await user.type(screen.getByLabelText("Password"), "a good long password");
    await user.click(screen.getByRole("button", { name: "Sign in" }));
    expect(await screen.findByRole("navigation", { name: "Areas" })).toBeTruthy();
    expect(server.sent("POST //session")[0]?.body).toEqual({
      email: "mira@ninthbell.example",
      password: "a good long password",
    });
  });

  it("promises words for a wrong password, and the address typed stays", async () => {
    const { user } = screenAt("results", {
      "GET //session": new Refusal(401, "Sign in."),
      "POST //session": new Refusal(401, "Address and password do not go together."),
    });
    await user.type(await screen.findByLabelText("E-mail address"), "mira@ninthbell.example");
    await user.type(screen.getByLabelText("Password"), "wrong");
    await user.click(screen.getByRole("button", { name: "Sign in" }));
    expect(await screen.findByText("Address and password do not go together.")).toBeTruthy();
    expect(screen.getByDisplayValue("mira@ninthbell.example")).toBeTruthy();
  });

  it("promises to ask for more where a password is not enough, and to go on from there", async () => {
    let isIn = false;
    const { user, server } = screenAt("results", {
      "GET //session": () => (isIn ? shellSession : new Refusal(401, "Sign in.")),
      "POST //session": { ways: ["code"] },
      "POST //session/second": ({ body }: Asked) => {
        isIn = (body as { code: string }).code === "123456";
        return isIn ? shellSession : new Refusal(400, "This is not the code of this minute.", {}, "wrong_code");
      },
    });
    await user.type(await screen.findByLabelText("E-mail address"), "mira@ninthbell.example");
    await user.type(screen.getByLabelText("Password"), "kettle bridge orchard nine");
    await user.click(screen.getByRole("button", { name: "Sign in" }));
    await user.type(await screen.findByLabelText("The code of your device"), "000000");
    await user.click(screen.getByRole("button", { name: "Go on" }));
    expect(await screen.findByText("This is not the code of this minute.")).toBeTruthy();
    await user.clear(screen.getByLabelText("The code of your device"));
    await user.type(screen.getByLabelText("The code of your device"), "123456");
    await user.click(screen.getByRole("button", { name: "Go on" }));
    expect(await screen.findByText(/Ask an admin of one to invite you/)).toBeTruthy();
    expect(server.sent("POST //session/second")).toHaveLength(2);
  });

  it("promises the way back to the password where the step took too long", async () => {
    const { user } = screenAt("results", {
      "GET //session": new Refusal(401, "Sign in."),
      "POST //session": { ways: ["code"] },
      "POST //session/second": new Refusal(400, "Sign in with your password first.", {}, "password_first"),
    });
    await user.type(await screen.findByLabelText("E-mail address"), "mira@ninthbell.example");
    await user.click(screen.getByRole("button", { name: "Sign in" }));
    await user.type(await screen.findByLabelText("The code of your device"), "123456");
    await user.click(screen.getByRole("button", { name: "Go on" }));
    expect(await screen.findByText("Sign in with your password first.")).toBeTruthy();
    await user.click(screen.getByRole("button", { name: "Back to the password" }));
    expect(screen.getByDisplayValue("mira@ninthbell.example")).toBeTruthy();
  });

  it("promises to say who may help somebody without any brand", async () => {
    screenAt("results", { "GET //session": sample("Session", { name: "New" }) });
    expect(await screen.findByText(/Ask an admin of one to invite you/)).toBeTruthy();
  });
});

describe("the shell", () => {
  it("promises every area by two letters, and the period carried along", async () => {
    const { user, address } = screenAt("results?first=2026-10-01&last=2026-10-31", SUMMARY);
    await screen.findByRole("navigation", { name: "Areas" });
    await user.keyboard("gl");
    await waitFor(() => expect(address()).toContain(`/${BRAND}/links`));
    expect(address()).toContain("first=2026-10-01");
  });

  it("promises that keys typed into a field are letters", async () => {
    const { user, address } = screenAt("links?new=1", { ...SUMMARY, "POST /links/preview": sample("Proposal") });
    await user.type(await screen.findByLabelText("Leads to"), "gr?");
    expect(screen.getByDisplayValue("gr?")).toBeTruthy();
    expect(address()).toContain("/links");
  });

  it("promises the list of keys with a question mark", async () => {
    const { user } = screenAt("results", SUMMARY);
    await screen.findByRole("navigation", { name: "Areas" });
    await user.keyboard("?");
    expect(await screen.findByRole("dialog", { name: "Keys" })).toBeTruthy();
    await user.keyboard("{Escape}");
    await waitFor(() => expect(screen.queryByRole("dialog", { name: "Keys" })).toBeNull());
  });

  it("promises to find a post, a profile and an act by a few letters", async () => {
    const { user, address } = screenAt("results", {
      ...SUMMARY,
      "GET /sources": sample("Sources", {
        profiles: [{ id: 4, name: "Halfmoon", handle: "halfmoon", network: "brevi" }] as never,
      }),
      "GET /results/posts": sample("PostsPage", { posts: [{ id: 31, text: "The gears of the tower clock" }] as never }),
    });
    await screen.findByRole("navigation", { name: "Areas" });
    await user.keyboard("{Control>}k{/Control}");
    const palette = await screen.findByRole("dialog", { name: "Go to or find" });
    await user.type(within(palette).getByRole("combobox"), "gears");
    await user.click(await within(palette).findByText("The gears of the tower clock"));
    expect(address()).toContain("/results/posts/31");
  });

  it("promises one's brands by name, and that one which is gone is said, with those that are there", async () => {
    const { user, address } = screenAt("results", {
      ...SUMMARY,
      "GET //session": sample("Session", {
        name: "Mira Duarte",
        brands: [
          { slug: "night-ferry", name: "Night Ferry", role: "viewer" },
          { slug: BRAND, name: "Orrery House", role: "admin" },
        ],
      }),
      "GET //brands/night-ferry": new Refusal(404, "There is nothing here, or you may not see it."),
    });
    await user.click(await screen.findByRole("button", { name: "Brand: Orrery House" }));
    expect(await screen.findByText("may look")).toBeTruthy();
    await user.click(screen.getByRole("menuitem", { name: /Night Ferry/ }));
    expect(await screen.findByText(/^There is no brand “night-ferry”/)).toBeTruthy();
    await user.click(screen.getByRole("link", { name: "Orrery House" }));
    await waitFor(() => expect(address()).toContain(`/${BRAND}/results`));
  });

  it("promises words for an address that leads nowhere", async () => {
    screenAt("nowhere", SUMMARY);
    expect(await screen.findByText("There is no page at this address.")).toBeTruthy();
  });
});

describe("what is studied", () => {
  it("promises a sentence that reads as what the figures are about", async () => {
    screenAt("results?network=brevi&format=image&compare=aligned", SUMMARY);
    const sentence = (await screen.findByText(/^Studying/)).textContent ?? "";
    expect(sentence).toContain("all on Brevi");
    expect(sentence.toLowerCase()).toContain("image");
    expect(sentence).toContain("the same weekdays before");
  });

  it("promises that a choice narrows every figure and stands in the address", async () => {
    const { user, server, address } = screenAt("results", {
      ...SUMMARY,
      "GET /results/tags": [sample("Tag", { id: 7, name: "workshop" })],
    });
    await user.click(await screen.findByRole("button", { name: /^Narrow to a tag/ }));
    await user.click(await screen.findByRole("menuitemradio", { name: /workshop/ }));
    expect(address()).toContain("tag=7");
    await waitFor(() => expect(server.sent("GET /results/summary").at(-1)?.query.get("tag")).toBe("7"));
  });
});

describe("the minute line", () => {
  const line = sample("Line", {
    as_of: NOW,
    posts: [
      { id: 1, at: "2026-11-20T10:00:00Z", height: 9 },
      { id: 2, at: "2026-11-02T10:00:00Z", height: 4 },
    ] as never,
  });

  it("promises the period by arrow keys: whole, and its end with Shift", async () => {
    const { address } = screenAt("results?first=2026-11-01&last=2026-11-10", { ...SUMMARY, "GET /line": line });
    const brush = await screen.findByRole("slider", { name: /^Period, / });
    fireEvent.keyDown(brush, { key: "ArrowRight" });
    fireEvent.keyUp(brush, { key: "ArrowRight" });
    await waitFor(() => expect(address()).toContain("first=2026-11-02&last=2026-11-11"));
    fireEvent.keyDown(brush, { key: "ArrowLeft", shiftKey: true });
    fireEvent.keyUp(brush, { key: "ArrowLeft" });
    await waitFor(() => expect(address()).toContain("first=2026-11-02&last=2026-11-10"));
  });

  it("promises to say how old the data are, and that there are none yet", async () => {
    screenAt("results", { ...SUMMARY, "GET /line": line });
    expect(await screen.findByText(/^Data as of/)).toBeTruthy();
  });

  it("promises that a server that cannot be reached is said in words", async () => {
    const { server } = screenAt("results", {
      ...SUMMARY,
      "GET /results/summary": (_: Asked) => {
        throw new TypeError("connection refused");
      },
    });
    expect(await screen.findByText(/Dakika cannot be reached/, undefined, { timeout: 20_000 })).toBeTruthy();
    expect(server.sent("GET /results/summary").length).toBeGreaterThan(1);
  }, 25_000);
});

describe("addresses that name what is not there", () => {
  it("promises that a brand which is not there is said, with one's own to go to, and nobody is led elsewhere", async () => {
    const { address } = screenAt("results", { ...SUMMARY, "GET /": new Refusal(404, "Not found.") });
    expect(await screen.findByText(/^There is no brand/)).toBeTruthy();
    expect(screen.getByRole("link", { name: "Orrery House" }).getAttribute("href")).toBe(`/${BRAND}/results`);
    expect(address()).toContain(`/${BRAND}/results`);
  });

  it.each([
    ["first=2026-02-30&last=2026-03-05", /asks for 2026-02-30, and there is no such day/],
    ["last=soon", /asks for soon, and there is no such day/],
    ["first=2026-11-20&last=2026-11-02", /ends before it begins/],
    ["first=2019-01-01&last=2026-11-02", /at most 800 days/],
  ])("promises that the days of %s are said to be none, not replaced", async (query, words) => {
    const { user, server, address } = screenAt(`results?${query}`, SUMMARY);
    expect(await screen.findByText(words)).toBeTruthy();
    expect(server.sent("GET /results/summary")).toEqual([]);
    await user.click(screen.getByRole("button", { name: "The last 28 days" }));
    expect(address()).not.toContain("first=");
  });
});
