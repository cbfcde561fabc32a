// @vitest-environment happy-dom
import { describe, expect, it } from "vitest";
import { type Asked, cells, Refusal, rowOf, sample, screen, screenAt, waitFor, within } from "../../testing";

const preview = (item: object = {}, more: object = {}) =>
  sample("Preview", {
    item: { id: 3, file_name: "autumn.csv", state: "waiting", kind: "posts", row_count: 10, is_exact: true, ...item },
    options: { form: "csv", encoding: "utf-8", delimiter: ";", zone: "Europe/Lisbon", is_day_first: true, decimal: "" },
    encodings: ["utf-8", "cp1252"],
    header: ["Datum", "Gefällt mir", "Text"],
    mapping: { published_at: 0, reactions: 1 },
    fields_of_kind: [
      { key: "published_at", is_needed: true },
      { key: "reactions", is_needed: true },
      { key: "text", is_needed: false },
    ],
    sample: [["03.04.2026", "12", "Heute Nacht"]],
    items: [{ row: 2, values: { published_at: "2026-04-03T10:00:00Z", reactions: "12" } }],
    readable: 9,
    rows_looked_at: 10,
    problem_count: 1,
    problems: [{ row: 7, column: "Datum", message: "“soon” is no date." }],
    ...more,
  });
const sources = sample("Sources", {
  profiles: [{ id: 1, name: "Orrery House", network: "commons", kind: "own", authorisation: "valid" }],
});
const open = (answers: object, role: "editor" | "viewer" = "editor") =>
  screenAt("sources/import/3", { "GET /sources": sources, "GET /sources/imports/3": preview(), ...answers }, role);

describe("a file before it comes in", () => {
  it("promises what was found out of it, which rows cannot be read and why, and changes nothing yet", async () => {
    const { server } = open({});
    expect(await screen.findByText("9 rows can be read, 1 row cannot")).toBeTruthy();
    expect(screen.getByText("“soon” is no date.")).toBeTruthy();
    expect((screen.getByLabelText(/^Published/) as HTMLSelectElement).selectedOptions[0]?.textContent).toBe("Datum");
    expect(cells(rowOf("2"))).toContain("12");
    expect(server.asked.filter((a) => a.method !== "GET")).toEqual([]);
  });

  it("promises that a corrected column is read anew, and that a column stands for one thing", async () => {
    const { user, server } = open({ "PUT /sources/imports/3": preview() });
    await user.selectOptions(await screen.findByLabelText("Text"), "Gefällt mir");
    await waitFor(() => expect(server.sent("PUT /sources/imports/3")).toHaveLength(1));
    expect(server.sent("PUT /sources/imports/3")[0]?.body).toEqual({ mapping: { published_at: 0, text: 1 } });
  });

  it("promises that each setting can be told otherwise", async () => {
    const { user, server } = open({ "PUT /sources/imports/3": ({ body }: Asked) => preview({}, body as object) });
    await user.selectOptions(await screen.findByLabelText(/Dates like/), "month");
    await waitFor(() =>
      expect(server.sent("PUT /sources/imports/3")[0]?.body).toEqual({ options: { is_day_first: false } }),
    );
    await user.selectOptions(screen.getByLabelText("Decimal sign"), ",");
    await waitFor(() => expect(server.sent("PUT /sources/imports/3")[1]?.body).toEqual({ options: { decimal: "," } }));
  });

  it("promises that nothing comes in before it is said whose rows they are", async () => {
    const { user, server } = open({ "POST /sources/imports/3": sample("Import", { id: 3, state: "running" }) });
    const button = (await screen.findByRole("button", { name: "Bring in 9 rows" })) as HTMLButtonElement;
    expect(button.disabled).toBe(true);
    await screen.findByRole("option", { name: "Orrery House on Commons" });
    await user.selectOptions(screen.getByLabelText("The rows belong to"), "1");
    await user.click(button);
    await waitFor(() =>
      expect(server.sent("POST /sources/imports/3")[0]?.body).toMatchObject({ profile_id: 1, is_per_row: false }),
    );
  });

  it("promises a profile of any network, also one that is not collected here", async () => {
    const { user, server } = open({ "POST /sources/imports/3": sample("Import", { id: 3, state: "running" }) });
    await user.selectOptions(await screen.findByLabelText("The rows belong to"), "new");
    await user.type(screen.getByLabelText("Its name"), "Night Ferry");
    await user.type(screen.getByLabelText("Its network"), "harbour-board");
    await user.click(screen.getByRole("button", { name: "Bring in 9 rows" }));
    await waitFor(() =>
      expect(server.sent("POST /sources/imports/3")[0]?.body).toMatchObject({
        new_profile: "Night Ferry",
        network: "harbour-board",
      }),
    );
  });

  it("promises words and no button that works when a needed column is missing", async () => {
    open({
      "GET /sources/imports/3": preview({}, { mapping_problems: ["No column says when a post was published."] }),
    });
    expect(await screen.findByText("This cannot come in yet")).toBeTruthy();
    expect(screen.getByText("No column says when a post was published.")).toBeTruthy();
    expect((screen.getByRole("button", { name: /Bring in/ }) as HTMLButtonElement).disabled).toBe(true);
  });

  it("promises to say when only a part was looked at", async () => {
    open({ "GET /sources/imports/3": preview({ row_count: 900_000, is_exact: false }) });
    expect(await screen.findByText(/Of the first 10 rows/)).toBeTruthy();
    expect(screen.getByRole("button", { name: "Bring in about 900,000 rows" })).toBeTruthy();
  });

  it("promises that throwing it away says that nothing was changed", async () => {
    const { user } = open({
      "DELETE /sources/imports/3": undefined,
      "GET /sources/imports": [],
      "GET /sources/feeds": sample("Feeds"),
    });
    await user.click(await screen.findByRole("button", { name: "Throw it away" }));
    expect(await screen.findByText("The file was thrown away. Nothing was changed.")).toBeTruthy();
  });

  it("promises that those who may only look see it and change nothing", async () => {
    open({}, "viewer");
    expect(((await screen.findByLabelText("Text")) as HTMLSelectElement).disabled).toBe(true);
    expect(screen.queryByRole("button", { name: /Bring in|Throw/ })).toBeNull();
  });
});

describe("a file while it comes in and afterwards", () => {
  it("promises progress with numbers, and that one may leave", async () => {
    open({ "GET /sources/imports/3": preview({ state: "running", rows_read: 4, row_count: 10 }) });
    expect(await screen.findByText("4 of 10 rows. You may leave this page.")).toBeTruthy();
    expect(screen.getByRole("button", { name: "Stop and take it out" })).toBeTruthy();
  });

  it("promises what came, what was known already, what was left out, and the rows to mend", async () => {
    open({ "GET /sources/imports/3": preview({ state: "done", accepted: 9, added: 6, posts_added: 2, refused: 1 }) });
    expect(await screen.findByText("1 row was left out, and why")).toBeTruthy();
    expect(screen.getByText("6, with 2 new posts")).toBeTruthy();
    expect(screen.getByText("3, left as they were")).toBeTruthy();
    expect(screen.getByRole("link", { name: "download them" }).getAttribute("href")).toMatch(/imports\/3\/refused$/);
    const left = screen.getByRole("list", { name: "Rows that were left out" });
    expect(within(left).getByText("Row 7")).toBeTruthy();
  });

  it("promises that it can be undone as a whole, and says so when it cannot now", async () => {
    const { user } = open({
      "GET /sources/imports/3": preview({ state: "done", accepted: 9 }),
      "POST /sources/imports/3/undo": new Refusal(409, "It is being taken out already."),
    });
    await user.click(await screen.findByRole("button", { name: /^Undo/ }));
    expect(await screen.findByText("It is being taken out already.")).toBeTruthy();
  });
});
