// @vitest-environment happy-dom
import { describe, expect, it } from "vitest";
import { type Asked, cells, Refusal, rowOf, sample, screen, screenAt, waitFor, within } from "../../testing";

const preview = (item: object = {}, more: object = {}) =>
  sample("Preview", {
    item: { id: 3, file_name: "autumn.csv", state: "waiting", kind: "posts", row_count: 10, is_exact: true, ...item },
    options: {
      form: "csv",
      encoding: "utf-8",
      delimiter: ";",
      zone: "Europe/Lisbon",
      date_order: "dmy",
      decimal: "",
      as_of: "2026-11-25T12:00:00Z",
      head_row: 1,
      head_lines: 1,
      layout: "rows",
    },
    detected: { date_order: "", date_fits: ["dmy", "mdy"], as_of_why: "now" },
    encodings: ["utf-8", "cp1252"],
    header: ["Datum", "Gefällt mir", "Text"],
    columns: [
      { index: 0, name: "Datum", field: "published_at", sure: "name", looks: "dates", examples: ["03.04.2026"] },
      { index: 1, name: "Gefällt mir", field: "reactions", sure: "name", looks: "counts", examples: ["12"] },
      {
        index: 2,
        name: "Herzen",
        field: "",
        sure: "",
        looks: "counts",
        note: "numbers that nothing uses yet",
        examples: ["3"],
      },
    ],
    mapping: { published_at: [0], reactions: [1] },
    fields_of_kind: [
      { key: "published_at", is_needed: true, adds_up: false },
      { key: "reactions", is_needed: true, adds_up: true },
      { key: "text", is_needed: false, adds_up: false },
    ],
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
    expect((screen.getByLabelText("Datum") as HTMLSelectElement).value).toBe("published_at");
    // Every column of the file is listed, also the one that nothing uses.
    expect(screen.getByText("2 columns of 3 understood")).toBeTruthy();
    expect(cells(rowOf("Herzen")).at(-1)).toBe("numbers that nothing uses yet: 3");
    expect(cells(rowOf("2"))).toContain("12");
    expect(server.asked.filter((a) => a.method !== "GET")).toEqual([]);
  });

  it("promises that a corrected column is read anew, and that a column stands for one thing", async () => {
    const { user, server } = open({ "PUT /sources/imports/3": preview() });
    await user.selectOptions(await screen.findByLabelText("Gefällt mir"), "text");
    await waitFor(() => expect(server.sent("PUT /sources/imports/3")).toHaveLength(1));
    expect(server.sent("PUT /sources/imports/3")[0]?.body).toEqual({ mapping: { published_at: [0], text: [1] } });
  });

  it("promises that two columns of one count add up", async () => {
    const { user, server } = open({ "PUT /sources/imports/3": preview() });
    await user.selectOptions(await screen.findByLabelText("Herzen"), "reactions");
    await waitFor(() =>
      expect(server.sent("PUT /sources/imports/3")[0]?.body).toEqual({
        mapping: { published_at: [0], reactions: [1, 2] },
      }),
    );
  });

  it("promises that dates which can be read in two ways are asked about, with the first of them under each", async () => {
    const { user, server } = open({
      "PUT /sources/imports/3": preview(),
      "GET /sources/imports/3": preview(
        {},
        {
          options: { form: "csv", zone: "Europe/Lisbon", date_order: "", head_row: 1, layout: "rows" },
          mapping_problems: ["The dates of this file can be read in more than one order. Choose which is right."],
          date_choices: [
            {
              order: "dmy",
              name: "the day comes first",
              rows: [{ written: "03.04.2026", read: "2026-04-03T00:00:00" }],
            },
            {
              order: "mdy",
              name: "the month comes first",
              rows: [{ written: "03.04.2026", read: "2026-03-04T00:00:00" }],
            },
          ],
        },
      ),
    });
    const question = await screen.findByRole("group", { name: "In which order are the dates written?" });
    expect(within(question).getByText(/is Friday 3 April/)).toBeTruthy();
    expect(within(question).getByText(/is Wednesday 4 March/)).toBeTruthy();
    await user.click(within(question).getAllByRole("button", { name: "Read them so" })[1] as HTMLElement);
    await waitFor(() =>
      expect(server.sent("PUT /sources/imports/3")[0]?.body).toEqual({ options: { date_order: "mdy" } }),
    );
  });

  it("promises that the moment of the export is shown with what says so, and can be told", async () => {
    const { user, server } = open({ "PUT /sources/imports/3": preview() });
    expect(await screen.findByText("The figures are as of: just now")).toBeTruthy();
    const time = screen.getByLabelText("Time of the export") as HTMLInputElement;
    expect(time.value).toBe("12:00");
    await user.clear(time);
    await user.type(time, "09:30");
    await user.tab();
    await waitFor(() =>
      expect(server.sent("PUT /sources/imports/3")[0]?.body).toEqual({ options: { as_of: "2026-11-25T09:30:00Z" } }),
    );
  });

  it("promises that several accounts in one file are offered as several, each with what becomes of it", async () => {
    const accounts = [
      { network: "commons", handle: "@orreryhouse", rows: 40, profile_id: 1 },
      { network: "commons", handle: "@lanternline", rows: 2, profile_id: null },
    ];
    const { user, server } = open({
      "GET /sources/imports/3": preview({}, { accounts }),
      "POST /sources/imports/3": sample("Import", { id: 3, state: "running" }),
    });
    await screen.findByRole("option", { name: "the 2 accounts that the rows name" });
    const button = screen.getByRole("button", { name: /^Bring in/ }) as HTMLButtonElement;
    expect(button.disabled).toBe(true);
    await user.selectOptions(screen.getByLabelText("@lanternline on commons"), "leave");
    await user.click(button);
    await waitFor(() =>
      expect(server.sent("POST /sources/imports/3")[0]?.body).toMatchObject({
        is_per_row: true,
        accounts: [
          { handle: "@orreryhouse", profile_id: 1 },
          { handle: "@lanternline", what: "leave" },
        ],
      }),
    );
  });

  it("promises words for cells that were emptied, and for posts that are known", async () => {
    open({
      "GET /sources/imports/3": preview(
        {},
        {
          notes: [{ column: "Gefällt mir", message: "“--” is read as nothing", count: 12, row: 4 }],
          known_in_sample: { known: 3, together: 1, rows: 10 },
        },
      ),
    });
    expect(await screen.findByText(/3 rows are posts that are known here already/)).toBeTruthy();
    expect(screen.getByText(/1 row says what another row of the file says/)).toBeTruthy();
    expect(screen.getByText(/“--” is read as nothing \(first in row 4\)/)).toBeTruthy();
  });

  it("promises that what is remembered can be forgotten", async () => {
    const { user, server } = open({
      "PUT /sources/imports/3": preview(),
      "GET /sources/imports/3": preview({}, { detected: { is_remembered: true, remembered_of: "Orrery House" } }),
    });
    await user.click(await screen.findByRole("button", { name: "Forget that" }));
    await waitFor(() => expect(server.sent("PUT /sources/imports/3")[0]?.body).toEqual({ is_forgotten: true }));
  });

  it("promises that each setting can be told otherwise", async () => {
    const { user, server } = open({ "PUT /sources/imports/3": ({ body }: Asked) => preview({}, body as object) });
    await user.selectOptions(await screen.findByLabelText(/Dates like/), "mdy");
    await waitFor(() =>
      expect(server.sent("PUT /sources/imports/3")[0]?.body).toEqual({ options: { date_order: "mdy" } }),
    );
    await user.selectOptions(screen.getByLabelText("Decimal sign"), ",");
    await waitFor(() => expect(server.sent("PUT /sources/imports/3")[1]?.body).toEqual({ options: { decimal: "," } }));
  });

  it("promises that nothing comes in before it is said whose rows they are", async () => {
    let answer: (said: unknown) => void = () => {};
    const told = new Promise((done) => {
      answer = done;
    });
    const { user, server } = open({
      "POST /sources/imports/3": sample("Import", { id: 3, state: "running" }),
      "PUT /sources/imports/3": () => told,
    });
    const button = (await screen.findByRole("button", { name: "Bring in 9 rows" })) as HTMLButtonElement;
    expect(button.disabled).toBe(true);
    await screen.findByRole("option", { name: "Orrery House on Commons" });
    await user.selectOptions(screen.getByLabelText("The rows belong to"), "1");
    // What is known of that profile may change what is shown: until it stands here, nothing is brought in.
    await waitFor(() => expect(server.sent("PUT /sources/imports/3")).toHaveLength(1));
    expect(button.disabled).toBe(true);
    answer(preview());
    await waitFor(() => expect(button.disabled).toBe(false));
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

  it("promises that a file that was sent is not shown as waiting while the next answer is slow", async () => {
    let asked = 0;
    const { user } = open({
      "GET /sources/imports/3": () => (asked++ ? new Promise(() => undefined) : preview()),
      "POST /sources/imports/3": sample("Import", { id: 3, state: "running" }),
      "PUT /sources/imports/3": preview(),
    });
    await screen.findByRole("option", { name: "Orrery House on Commons" });
    await user.selectOptions(screen.getByLabelText("The rows belong to"), "1");
    await user.click(screen.getByRole("button", { name: "Bring in 9 rows" }));
    await waitFor(() => expect(screen.queryByRole("button", { name: /^Bring in/ })).toBeNull());
    expect(asked).toBeGreaterThan(1);
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
    expect(((await screen.findByLabelText("Datum")) as HTMLSelectElement).disabled).toBe(true);
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
    open({
      "GET /sources/imports/3": preview({
        state: "done",
        accepted: 9,
        added: 6,
        posts_added: 2,
        refused: 1,
        known: 3,
        profile_id: 1,
        first_day: "2016-01-01",
        last_day: "2016-12-31",
      }),
    });
    expect(await screen.findByText("1 row was left out, and why")).toBeTruthy();
    expect(screen.getByText("6, with 2 new posts")).toBeTruthy();
    expect(screen.getByText("3 rows speak of posts that were here")).toBeTruthy();
    const there = screen.getByRole("link", { name: "See them in Results" }).getAttribute("href");
    expect(there).toMatch(/results\/posts\?first=2016-01-01&last=2016-12-31&profile=1$/);
    expect(screen.getByRole("link", { name: "download them" }).getAttribute("href")).toMatch(/imports\/3\/refused$/);
    const left = screen.getByRole("list", { name: "Rows that were left out" });
    expect(within(left).getByText("Row 7")).toBeTruthy();
  });

  it("promises that it says while figures are still being worked out, and how far that is", async () => {
    open({
      "GET /sources/imports/3": preview(
        { state: "done", accepted: 9 },
        { rebuild: { done: 300, total: 1200, is_waiting: false } },
      ),
    });
    expect(await screen.findByText(/being worked out: 300 of 1,200 steps/)).toBeTruthy();
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

describe("a workbook on its way through a worker", () => {
  it("promises that it is being looked into, and what was found as soon as it was", async () => {
    let state = "looking";
    const { user } = open({
      "GET /sources/imports/3": () =>
        state === "looking" ? preview({ state }, { header: [], columns: [] }) : preview({ state }),
    });
    expect(await screen.findByText(/Being looked into/)).toBeTruthy();
    expect(screen.queryByRole("button", { name: /^Bring in/ })).toBeNull();
    state = "waiting";
    expect(await screen.findByText("9 rows can be read, 1 row cannot")).toBeTruthy();
    expect(user).toBeTruthy();
  });

  it("promises in words why it could not be read, and another try", async () => {
    const message = "This workbook is locked with a password. Open it, save it without one, and bring that in.";
    open({ "GET /sources/imports/3": preview({ state: "failed", message }, { header: [] }) });
    expect(await screen.findByText(`${message} Nothing was changed.`)).toBeTruthy();
    expect(screen.getByRole("link", { name: "Bring in another file" })).toBeTruthy();
    expect(screen.queryByRole("button", { name: /^Undo/ })).toBeNull();
  });

  it("promises that what was told stands while it is looked into again, and that a refusal is said", async () => {
    let said = preview({ state: "waiting" });
    const { user } = open({
      "GET /sources/imports/3": () => said,
      "PUT /sources/imports/3": () => preview({ state: "looking" }),
    });
    await user.selectOptions(await screen.findByLabelText("The rows belong to"), "new");
    await user.type(screen.getByLabelText("Its name"), "An old page");
    said = preview({ state: "looking" });
    await user.selectOptions(screen.getByLabelText("Datum"), "text");
    // Meanwhile nothing can be brought in, and nothing of what one types into is out of reach.
    const button = screen.getByRole("button", { name: /^Bring in/ }) as HTMLButtonElement;
    await waitFor(() => expect((screen.getByLabelText("The rows belong to") as HTMLSelectElement).disabled).toBe(true));
    expect(button.disabled).toBe(true);
    expect(screen.getByLabelText("Its name").closest("[inert]")).toBeNull();
    said = preview({ state: "waiting", message: "There is no sheet Other." });
    expect(await screen.findByText(/There is no sheet Other\. It stands as it stood before\./)).toBeTruthy();
    expect((screen.getByLabelText("Its name") as HTMLInputElement).value).toBe("An old page");
  });
});
