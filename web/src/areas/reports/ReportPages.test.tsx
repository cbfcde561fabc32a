// @vitest-environment happy-dom
import { describe, expect, it } from "vitest";
import { Refusal, rowOf, sample, screen, screenAt, waitFor } from "../../testing";

const LOOK = {
  has_cover: true,
  subtitle: "",
  logo: null,
  accent: "",
  ground: "",
  face: "serif",
  header: "",
  footer: "",
};
const ITEM = {
  id: "f1",
  kind: "results.course",
  params: { metrics: "reach" },
  study: null,
  drawing: "tiles",
  title: "",
  cells: [],
  rows: 12,
  words: [],
  asset: null,
  x: 0,
  y: 0,
  w: 12,
  h: 2,
};
const PAGE = { id: "p1", title: "At a glance", words: null, has_words: true, notes: "", ground: "", items: [ITEM] };
const REPORT = {
  id: 7,
  title: "Weekly review",
  label: "Team",
  language: "en",
  study: { span: "last_week" },
  look: LOOK,
  pages: [PAGE],
  is_template: false,
  edition: 3,
  changed_at: "2026-11-20T10:00:00Z",
  changed_by: "Mira",
};
const NUMBER = { text: "1,200", item: "f1", cell: "reach", what: "now", said: 1, is_gone: false, has_turned: false };
const WORDS = (text: string) => ({ ...NUMBER, text, item: "", cell: "", said: null });
const CELL = {
  key: "reach",
  name: "Reach",
  unit: "count",
  row: "",
  column: "Reach",
  now: { value: 1200, n: 3, missing: 0, numerator: null, denominator: null, interval: null },
  before: { value: 1000, n: 3, missing: 0, numerator: null, denominator: null, interval: null },
  more_is_better: true,
};
const SHOWN = {
  words: {
    days: "16–22 Nov 2026",
    against: "9–15 Nov 2026",
    page: "page",
    before: "before",
    unknown: "",
    locale: "en-GB",
  },
  pages: [
    {
      id: "p1",
      is_made: true,
      words: [[WORDS("Reach rose to "), NUMBER, WORDS(".")]],
      items: [
        {
          id: "f1",
          kind: "results.course",
          name: "Figures",
          title: "Reach by day",
          study: "Studying all profiles",
          days: "16–22 Nov 2026",
          note: "",
          error: "",
          query: { first: "2026-11-16", last: "2026-11-22", metrics: "reach" },
          cells: [CELL],
          series: [],
          words: [],
        },
      ],
    },
  ],
};
const ANSWERS = {
  "GET /reports/7": REPORT,
  "GET /reports/7/shown": SHOWN,
  "GET /reports/beginnings": { templates: [], own: [], languages: [{ key: "en", name: "English" }] },
};
const ROW = {
  id: 7,
  title: "Weekly review",
  label: "Team",
  language: "en",
  is_template: false,
  pages: 3,
  figures: 9,
  links: 2,
  changed_at: REPORT.changed_at,
  changed_by: "Mira",
};

describe("reports", () => {
  it("promises a list with what each has, and a beginning in one step", async () => {
    const { user, server } = screenAt("reports", {
      "GET /reports": { reports: [ROW], labels: ["Team"], next: null },
      ...ANSWERS,
      "GET /reports/beginnings": {
        ...ANSWERS["GET /reports/beginnings"],
        templates: [{ key: "weekly", name: "Weekly review", words: "What the week brought.", pages: ["At a glance"] }],
      },
      "POST /reports": REPORT,
    });
    expect((await screen.findByRole("link", { name: "Weekly review" })).getAttribute("href")).toContain("/reports/7");
    expect(rowOf("Weekly review").textContent).toContain("2 links");
    await user.click(screen.getByRole("button", { name: "Make a report" }));
    await user.click(await screen.findByRole("button", { name: /^Weekly review What the week/ }));
    await waitFor(() =>
      expect(server.sent("POST /reports")[0]?.body).toEqual({
        template: "weekly",
        own: null,
        title: "",
        language: "en",
      }),
    );
  });

  it("promises words whose numbers open how they are made, and figures as on paper", async () => {
    screenAt("reports/7", ANSWERS);
    expect(await screen.findByText("16–22 Nov 2026")).toBeTruthy();
    const bound = await screen.findAllByRole("button", { name: /Basis of Reach/ });
    expect(bound.map((one) => one.textContent)).toContain("1,200");
    expect(screen.getByText("+20%")).toBeTruthy();
  });

  it("promises to mark a number that goes another way than was written, and one whose figure is gone", async () => {
    const turned = { ...NUMBER, has_turned: true };
    const gone = { ...NUMBER, cell: "nothing", text: "–", is_gone: true };
    const pages = [{ ...SHOWN.pages[0], is_made: false, words: [[WORDS("Rose by 12 to "), turned, gone]] }];
    screenAt("reports/7", {
      ...ANSWERS,
      "GET /reports/7": { ...REPORT, pages: [{ ...PAGE, words: [[]] }] },
      "GET /reports/7/shown": { ...SHOWN, pages },
    });
    expect(await screen.findByTitle(/goes another way than when this was written/)).toBeTruthy();
    expect(screen.getByTitle(/not on the page any more/)).toBeTruthy();
    // What is typed by hand is of the day it was typed on.
    expect(screen.getByTitle(/Typed by hand/).textContent).toBe("12");
  });

  it("promises that what is changed is saved, and that a colleague's change is never overwritten without a word", async () => {
    let reads = 0;
    const { user, server } = screenAt("reports/7", {
      ...ANSWERS,
      "PUT /reports/7": (asked: { body: unknown }) =>
        (asked.body as { edition: number }).edition === 3
          ? new Refusal(409, "Mira has changed this report since you opened it.")
          : { ...REPORT, title: "Weekly review!", edition: 9 },
      "GET /reports/7": () => ({ ...REPORT, edition: reads++ === 0 ? 3 : 8 }),
    });
    const title = (await screen.findByLabelText("Title of the report")) as HTMLInputElement;
    await user.type(title, "!");
    expect(await screen.findByText(/Mira has changed this report/)).toBeTruthy();
    expect(server.sent("PUT /reports/7")[0]?.body).toMatchObject({ title: "Weekly review!", edition: 3 });
    expect(title.value).toBe("Weekly review!");
    await user.click(screen.getByRole("button", { name: "Keep mine" }));
    await waitFor(() => expect(server.sent("PUT /reports/7").length).toBe(2));
    expect(await screen.findByText("Saved")).toBeTruthy();
  });

  it("promises that what is typed is saved when one goes elsewhere at once", async () => {
    const { user, server } = screenAt("reports/7", {
      ...ANSWERS,
      "PUT /reports/7": { ...REPORT, edition: 4 },
      "GET /reports": { reports: [], labels: [], next: null },
    });
    await user.type(await screen.findByLabelText("Title of the report"), "?");
    await user.click(screen.getAllByRole("link", { name: "Reports" }).at(-1) as HTMLElement);
    await waitFor(() => expect(server.sent("PUT /reports/7")[0]?.body).toMatchObject({ title: "Weekly review?" }));
  });

  it("promises that a figure is moved by keyboard and taken back", async () => {
    const { user, server } = screenAt("reports/7", { ...ANSWERS, "PUT /reports/7": { ...REPORT, edition: 4 } });
    const figure = await screen.findByRole("group", { name: /Reach by day/ });
    figure.focus();
    await user.keyboard("{ArrowDown}{Shift>}{ArrowDown}{/Shift}");
    await waitFor(() =>
      expect(server.sent("PUT /reports/7").at(-1)?.body).toMatchObject({ pages: [{ items: [{ y: 1, h: 3 }] }] }),
    );
    await user.click(screen.getByRole("button", { name: "Undo" }));
    await waitFor(() =>
      expect(server.sent("PUT /reports/7").at(-1)?.body).toMatchObject({ pages: [{ items: [{ y: 0, h: 2 }] }] }),
    );
  });

  it("promises those who may only look the report and no way to change it", async () => {
    screenAt("reports/7", ANSWERS, "viewer");
    expect(await screen.findByText("16–22 Nov 2026")).toBeTruthy();
    expect(screen.queryByRole("button", { name: /Put something|Undo|Give it to others|Edit the words/ })).toBeNull();
  });

  it("promises that a link which cannot be made says why, beside what it is about or on top, and keeps what was typed", async () => {
    let asked = 0;
    const { user, server } = screenAt("reports/7", {
      ...ANSWERS,
      "GET /reports/7/links": [],
      "POST /reports/7/links": () =>
        asked++ === 0
          ? new Refusal(400, "No", { until: ["That day is over."] })
          : new Refusal(409, "This report has two hundred links already."),
    });
    await user.click(await screen.findByRole("button", { name: "Give it to others" }));
    await user.type(await screen.findByLabelText("For whom"), "The board");
    await user.click(screen.getByRole("button", { name: "Make the link" }));
    expect(await screen.findByText("That day is over.")).toBeTruthy();
    expect(document.activeElement).toBe(screen.getByLabelText("Open until"));
    await user.click(screen.getByRole("button", { name: "Make the link" }));
    expect(await screen.findByText("This report has two hundred links already.")).toBeTruthy();
    expect(screen.getByLabelText<HTMLInputElement>("For whom").value).toBe("The board");
    expect(server.sent("POST /reports/7/links")[1]?.body).toMatchObject({ name: "The board", is_frozen: false });
  });

  it("promises what was sent as it was, with what changed since", async () => {
    screenAt("reports/7?run=5", {
      ...ANSWERS,
      "GET /reports/7/runs/5": {
        ...REPORT,
        as_of: "2026-11-20T10:00:00Z",
        shown: SHOWN,
        run: sample("DeliveryRun", { ended_at: "2026-11-20T10:00:00Z" }),
        changed: [{ page: "At a glance", item: "", name: "Reach", sent: "1,200", now: "1,240" }],
      },
    });
    const changed = await screen.findByRole("region", { name: "What changed since" });
    expect(changed.textContent).toContain("1,200 then, 1,240 now");
  });
});
