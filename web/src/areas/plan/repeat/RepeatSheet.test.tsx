// @vitest-environment happy-dom
import { describe, expect, it } from "vitest";
import { type Asked, sample, screen, screenAt, waitFor, within } from "../../../testing";

const planned = sample("PlannedPost", {
  id: 9,
  state: "draft",
  text: "The bells ring.",
  scheduled_at: "2026-12-01T10:00:00Z",
  edition: 1,
  from_idea: null,
  from_post: null,
  repetition: null,
  versions: [{ id: 1, profile_id: 1, network: "brevi", text: "The bells ring.", state: "draft", own: [] }],
});
const occurrence = (number: number, problems: string[] = []) => ({
  number,
  at: `2026-12-${8 + number * 7 < 10 ? "0" : ""}${8 + number * 7}T10:00:00Z`,
  text: "",
  problems,
});
const ANSWERS = {
  "GET //networks": [
    sample("Network", {
      key: "brevi",
      name: "Brevi",
      offer: { has_publishing: true },
      has_options: false,
      title_limit: 0,
      media: { need: "", most_pictures: 4 },
    }),
  ],
  "GET /sources": sample("Sources", {
    profiles: [{ id: 1, name: "Orrery", network: "brevi", kind: "own", authorisation: "valid" }] as never,
  }),
  "POST /plan/check": [],
  "GET /timing": sample("Timing"),
  "GET /results/groups": sample("Groups"),
  "GET /plan/9": planned,
};

describe("coming again", () => {
  it("promises times that are looked at beforehand, those too soon left out, and a warning where it wears out", async () => {
    const { user, server } = screenAt("plan/9", {
      ...ANSWERS,
      "POST /plan/9/repetition/preview": ({ body }: Asked) => ({
        times: [
          occurrence(0),
          occurrence(1, ["Brevi takes the same words again after 7 days; they come on 08 December."]),
        ],
        conflicts: 1,
        said_before: 2,
        nth: [
          {
            number: 3,
            posts: 12,
            index: 0.6,
            low: 0.4,
            high: 0.8,
            is_worn: (body as { texts: string[] }).texts.length === 0,
          },
        ],
      }),
      "POST /plan/9/repetition": { id: 4, posts: 1, left_out: 1 },
    });
    await user.click(await screen.findByRole("button", { name: "Come again" }));
    const times = await screen.findByRole("list", { name: "Times" });
    expect(within(times).getByText(/takes the same words again after 7 days/)).toBeTruthy();
    expect(
      screen.getByText(/Repeating wears out here: the third time 0.60 times the usual \(0.40 to 0.80\)/),
    ).toBeTruthy();
    await user.click(screen.getByRole("button", { name: /another text/ }));
    const text = screen.getByLabelText("Text 2");
    await user.clear(text);
    await user.type(text, "Once more.");
    await user.click(screen.getByRole("button", { name: "Thu" }));
    await waitFor(() => expect(screen.queryByText(/Repeating wears out/)).toBeNull());
    await user.click(screen.getByRole("button", { name: "Schedule 1 post" }));
    await waitFor(() =>
      expect(server.sent("POST /plan/9/repetition")[0]?.body).toEqual({
        rule: "FREQ=WEEKLY;INTERVAL=2;BYDAY=TH",
        first: "2026-12-08",
        last: "2027-02-02",
        at: "10:00",
        texts: ["Once more."],
        becomes_scheduled: true,
      }),
    );
    expect(await screen.findByText("1 post made. 1 time left out.")).toBeTruthy();
  });

  it("promises one of a repetition to say which it is, and the way to take back the rest", async () => {
    const { user, server } = screenAt("plan/9", {
      ...ANSWERS,
      "GET /plan/9": { ...planned, repetition: 4 },
      "GET /plan/repetitions/4": {
        id: 4,
        of: 3,
        rule: "FREQ=WEEKLY;INTERVAL=1",
        first: "2026-11-24",
        last: "2026-12-08",
        at: "10:00",
        texts: [],
        posts: [
          { id: 8, state: "published", scheduled_at: "2026-11-24T10:00:00Z", text: "" },
          { id: 9, state: "draft", scheduled_at: "2026-12-01T10:00:00Z", text: "" },
        ],
      },
      "DELETE /plan/repetitions/4": { posts: 1 },
    });
    expect(await screen.findByText(/Comes again every week, .*: 2 of 2/)).toBeTruthy();
    await user.click(screen.getByRole("button", { name: "take back the 1 that are not out" }));
    await waitFor(() => expect(server.sent("DELETE /plan/repetitions/4")).toHaveLength(1));
  });
});
