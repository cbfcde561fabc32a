// @vitest-environment happy-dom
import { describe, expect, it } from "vitest";
import { Refusal, sample, screen, screenAt, waitFor, within } from "../../testing";

describe("rules of links", () => {
  const settings = (more: object = {}) =>
    sample("ShownSettings", {
      rules: {
        templates: { source: "{network}", medium: "social" },
        separator: "-",
        is_lower: true,
        is_transliterated: true,
        existing: "keep",
      } as never,
      shared_host: "short.example",
      domains: [{ id: 3, host: "go.orrery.example", links: 4, is_chosen: true }],
      ...more,
    });
  const proposal = sample("Proposal", { target: "https://www.example.org/page?utm_source=commons" });
  const open = (answers: object = {}) =>
    screenAt("links/rules", { "GET /links/settings": settings(), "POST /links/preview": proposal, ...answers });

  it("promises an example of what they make, and what is wrong with one beside it", async () => {
    const { user } = open({
      "PUT /links/settings": new Refusal(400, "No.", { "rules.separator": ["A separator is one of - _ and a dot."] }),
    });
    expect(await screen.findByText("https://www.example.org/page?utm_source=commons")).toBeTruthy();
    await user.click(screen.getByRole("button", { name: "Keep the rules" }));
    expect(await screen.findByText("A separator is one of - _ and a dot.")).toBeTruthy();
  });

  it("promises that the host of new links is chosen, and a wrong one refused in words", async () => {
    const { user, server } = open({
      "PUT /links/domains": undefined,
      "POST /links/domains": new Refusal(400, "No.", { host: ["That is an address, not a host."] }),
    });
    expect(((await screen.findByRole("radio", { name: /go.orrery.example/ })) as HTMLInputElement).checked).toBe(true);
    await user.click(screen.getByRole("radio", { name: /short.example/ }));
    await waitFor(() => expect(server.sent("PUT /links/domains")[0]?.body).toEqual({ id: null }));
    await user.type(screen.getByLabelText("One more host"), "https://x");
    await user.click(screen.getByRole("button", { name: "Add" }));
    expect(await screen.findByText("That is an address, not a host.")).toBeTruthy();
  });
});

describe("pages of links", () => {
  const page = sample("Page", {
    id: 4,
    title: "Now at the house",
    slug: "orrery",
    address: "https://short.example/p/orrery",
    is_shown: true,
    clicks: 12,
    entries: [
      { link_id: 1, title: "Tickets" },
      { link_id: 2, title: "Shop" },
    ],
  });
  const links = sample("Links", {
    links: [
      { id: 1, name: "Night tickets" },
      { id: 2, name: "Shop" },
      { id: 3, name: "Workshop" },
    ] as never,
  });
  const open = (answers: object = {}) =>
    screenAt("links/pages", { "GET /links/pages": [page], "GET /links": links, ...answers });

  it("promises their address, what they list, and their clicks", async () => {
    open();
    expect((await screen.findByText("12")).parentElement?.textContent).toBe("12 clicks in these days");
    expect(screen.getByText("Tickets · Shop")).toBeTruthy();
  });

  it("promises that entries are added, moved and taken out before anything is kept", async () => {
    const { user, server } = open({ "PUT /links/pages/4": page });
    await user.click(await screen.findByRole("button", { name: "Change" }));
    const sheet = await screen.findByRole("dialog");
    await within(sheet).findByRole("option", { name: "Workshop" });
    await user.selectOptions(within(sheet).getByLabelText("Add a link"), "Workshop");
    await user.click(within(sheet).getAllByRole("button", { name: "Up" })[2] as HTMLElement);
    await user.click(within(sheet).getAllByRole("button", { name: "Out" })[0] as HTMLElement);
    expect(server.sent("PUT /links/pages/4")).toHaveLength(0);
    await user.click(within(sheet).getByRole("button", { name: "Keep the page" }));
    await waitFor(() => expect(server.sent("PUT /links/pages/4")).toHaveLength(1));
    expect(server.sent("PUT /links/pages/4")[0]?.body).toMatchObject({
      entries: [
        { link_id: 3, title: "Workshop" },
        { link_id: 2, title: "Shop" },
      ],
    });
    expect(await screen.findByText("Now at the house is shown as it is now.")).toBeTruthy();
  });

  it("promises that a word that is taken is said beside the address, and nothing is lost", async () => {
    const { user } = open({
      "POST /links/pages": new Refusal(400, "No.", { slug: ["Another page stands at “orrery”."] }),
    });
    await user.click((await screen.findAllByRole("button", { name: "Make a page" }))[0] as HTMLElement);
    const sheet = await screen.findByRole("dialog");
    await user.type(within(sheet).getByLabelText("Title"), "Autumn");
    await user.type(within(sheet).getByLabelText("Address"), "orrery");
    await user.click(within(sheet).getByRole("button", { name: "Keep the page" }));
    expect(await within(sheet).findByText("Another page stands at “orrery”.")).toBeTruthy();
    expect(within(sheet).getByDisplayValue("Autumn")).toBeTruthy();
  });
});
