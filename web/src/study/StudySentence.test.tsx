// @vitest-environment happy-dom

import { describe, expect, it } from "vitest";
import { sample, screen, screenAt, waitFor } from "../testing";
import { readChosen } from "./chosen";

const ANSWERS = {
  "GET /results/posts": sample("PostsPage"),
  "GET /results/posts/totals": sample("Totals"),
  "GET /results/tags": [sample("Tag", { id: 3, name: "gears" })],
  "GET /campaigns": [sample("Campaign", { id: 2, name: "Night Openings" })],
  "GET /line": sample("Line", { languages: ["en", "pt"] }),
  "GET /sources": sample("Sources", {
    profiles: [
      { id: 7, name: "Orrery House", network: "brevi", kind: "own" },
      { id: 8, name: "Halfmoon", network: "brevi", kind: "competitor" },
    ] as never,
  }),
};
const SUMMARY = {
  ...ANSWERS,
  "GET /results/summary": sample("Summary"),
  "GET /results/posts/top": sample("TopPosts"),
  "GET /results/spikes": sample("Spikes"),
};
const sentence = async () => (await screen.findByText(/^Studying/)).textContent?.replaceAll("\u00a0", " ");

describe("the sentence of what is studied", () => {
  it("promises to read as one would say it", async () => {
    screenAt("results/posts?last=2026-11-25&first=2026-11-19", ANSWERS);
    await screen.findByText("any tag or campaign");
    expect(await sentence()).toBe(
      "Studying all profiles, any format, any tag or campaign, last 7 days, posts at 72 hours",
    );
  });

  it("promises what is left open in words, whatever there is to choose from", async () => {
    screenAt("results/posts", { ...ANSWERS, "GET /results/tags": [], "GET /campaigns": [] });
    expect(await screen.findByText("any language")).toBeTruthy();
  });

  it("promises every narrowing in its words", async () => {
    const query =
      "profile=7&format=link&tag=3&campaign=2&language=pt&boosted=no&first=2026-11-02&last=2026-11-10&age=0";
    screenAt(`results/posts?${query}`, ANSWERS);
    await screen.findByRole("button", { name: "Campaigns studied" });
    await waitFor(async () =>
      expect(await sentence()).toBe(
        "Studying Orrery House on Brevi, link, tagged gears, of Night Openings, in Portuguese, not boosted, 9 days, " +
          "posts as last seen",
      ),
    );
  });

  it("promises that what is gone meanwhile is called unknown, and can be let go", async () => {
    const { user, address } = screenAt("results/posts?tag=99", ANSWERS);
    await user.click(await screen.findByRole("button", { name: "Tags studied" }));
    expect(await sentence()).toContain("tagged something unknown");
    await user.click(await screen.findByRole("menuitem", { name: "any tag" }));
    expect(address()).not.toContain("tag=");
  });

  it("promises one's own profiles and all of a network, and never both at once", async () => {
    const { user, address } = screenAt("results/posts?network=commons", ANSWERS);
    await user.click(await screen.findByRole("button", { name: "Profiles studied" }));
    expect(screen.queryByRole("menuitemcheckbox", { name: /Halfmoon/ })).toBeNull();
    await user.click(await screen.findByRole("menuitemcheckbox", { name: /Orrery House/ }));
    expect(address()).toContain("profile=7");
    expect(address()).not.toContain("network=");
  });

  it("promises several at once, all but some, and the way back to everything, by the keyboard alone", async () => {
    const { user, address } = screenAt("results/posts?last=2026-11-25&first=2026-11-19", ANSWERS);
    (await screen.findByRole("button", { name: "Formats studied" })).focus();
    // Down into the menu: "any format" first, then the formats.
    await user.keyboard("{Enter}");
    await waitFor(() => expect(document.activeElement?.textContent).toContain("any format"));
    const press = async (...keys: string[]) => {
      for (const key of keys) await user.keyboard(key);
    };
    await press("{ArrowDown}", "{Enter}", "{ArrowDown}", "{ArrowDown}", "{Enter}");
    expect(address()).toMatch(/format=\w+%2C\w+/);
    const both = readChosen(new URLSearchParams(address().split("?")[1]).get("format"));
    expect(both.values).toHaveLength(2);
    await press("{End}", "{Enter}");
    expect(new URLSearchParams(address().split("?")[1]).get("format")).toBe(`!${both.values.join(",")}`);
    expect(await sentence()).toMatch(/any format|not .+ or .+, any tag/);
    await press("{Home}", "{Enter}");
    await waitFor(() => expect(screen.queryByRole("menu")).toBeNull());
    expect(address()).not.toContain("format=");
    expect(await sentence()).toContain("any format");
  });

  it("promises sets in its words", async () => {
    screenAt("results/posts?network=brevi,commons&tag=!3&format=image,link&last=2026-11-25&first=2026-11-19", ANSWERS);
    await screen.findByText("gears");
    await waitFor(async () =>
      expect(await sentence()).toBe(
        "Studying all on Brevi and Commons, image or link, not tagged gears, any campaign or language, last 7 days, " +
          "posts at 72 hours",
      ),
    );
  });

  it("promises periods by name with their days, and comparisons with theirs", async () => {
    const { user, server, address } = screenAt("results", SUMMARY);
    await user.click(await screen.findByRole("button", { name: "Period" }));
    await user.click(await screen.findByRole("button", { name: "Last month" }));
    expect(address()).toContain("first=2026-10-01&last=2026-10-31");
    await user.click(screen.getByRole("button", { name: "Comparison" }));
    const aligned = await screen.findByRole("menuitemradio", { name: /the same weekdays before/ });
    expect(aligned.textContent).toContain("27 Aug – 26 Sep");
    await user.click(aligned);
    await waitFor(() => expect(server.sent("GET /results/summary").at(-1)?.query.get("compare")).toBe("aligned"));
  });

  it("promises months to click, and days of one's own, typed as one writes them", async () => {
    const { user, address } = screenAt("results", SUMMARY);
    await user.click(await screen.findByRole("button", { name: "Period" }));
    const september = await screen.findByRole("button", { name: "September" });
    expect(september.title).toBe("1 Sep – 30 Sep");
    await user.click(september);
    expect(address()).toContain("first=2026-09-01&last=2026-09-30");
    await user.click(screen.getByRole("button", { name: "Period" }));
    const first = (await screen.findByLabelText("First day")) as HTMLInputElement;
    expect(first.value).toBe("1 Sep 2026");
    await user.clear(first);
    await user.type(first, "24.12.2025");
    expect(screen.getByText("281 days")).toBeTruthy();
    await user.click(screen.getByRole("button", { name: "Study these days" }));
    expect(address()).toContain("first=2025-12-24&last=2026-09-30");
  });

  it("promises that days which do not exist, or end before they begin, are said and not studied", async () => {
    const { user } = screenAt("results?first=2026-11-02&last=2026-11-20", SUMMARY);
    await user.click(await screen.findByRole("button", { name: "Period" }));
    const last = (await screen.findByLabelText("Last day")) as HTMLInputElement;
    await user.clear(last);
    await user.type(last, "30.2.2026");
    await user.tab();
    expect(last.value).toBe("30.2.2026");
    expect(last.getAttribute("aria-invalid")).toBe("true");
    expect((screen.getByRole("button", { name: "Study these days" }) as HTMLButtonElement).disabled).toBe(true);
    await user.clear(last);
    await user.type(last, "1 Nov 2026");
    expect(await screen.findByText("It ends before it begins.")).toBeTruthy();
  });

  it("promises the age at which posts are compared", async () => {
    const { user, server } = screenAt("results/posts", ANSWERS);
    await user.click(await screen.findByRole("button", { name: "Age at which posts are compared" }));
    await user.click(await screen.findByRole("menuitemradio", { name: "at 7 days" }));
    await waitFor(() => expect(server.sent("GET /results/posts").at(-1)?.query.get("age")).toBe("168"));
  });
});
