import { describe, expect, it } from "vitest";
import { lastOfMonth } from "../../lib/days";
import { asNow } from "./drafts";
import {
  audienceWords,
  chosenIn,
  contentOf,
  type Draft,
  daysOf,
  differences,
  EMPTY,
  onDay,
  ownParts,
  place,
  shifted,
  takenBy,
  textFor,
  weekDays,
  withHashtags,
  withoutAddresses,
  withPage,
  withPart,
} from "./rules";

describe("rules of Plan", () => {
  it("promises a week of seven days that holds the day, from the brand's first weekday on", () => {
    for (const first of [0, 1, 5, 6]) {
      const days = weekDays("2026-11-24", first);
      expect(days).toHaveLength(7);
      expect(days).toContain("2026-11-24");
    }
    expect(weekDays("2026-11-24", 0)[0]).toBe("2026-11-23");
    expect(weekDays("2026-11-24", 6)[0]).toBe("2026-11-22");
  });
  it("promises that posts at the same minute stand beside one another", () => {
    const items = ["10:00", "10:10", "12:00"].map((t) => ({ item: t, instant: `2026-11-24T${t}:00Z` }));
    expect(place(items, "UTC", 30).map((p) => [p.item, p.column, p.columns])).toEqual([
      ["10:00", 0, 2],
      ["10:10", 1, 2],
      ["12:00", 0, 1],
    ]);
  });
  it("promises that an instant stands on the day of the brand's zone", () => {
    const late = [{ at: "2026-11-24T23:30:00Z" }];
    expect(onDay(late, (i) => i.at, "2026-11-25", "Europe/Athens")).toHaveLength(1);
    expect(onDay(late, (i) => i.at, "2026-11-24", "Europe/Athens")).toHaveLength(0);
  });
  it("promises that a page is put in once, and a set of hashtags without those that are there", () => {
    const once = withPage("See you.", "https://a.example/x");
    expect(once).toBe("See you.\nhttps://a.example/x");
    expect(withPage(once, "https://a.example/x")).toBe(once);
    expect(withHashtags("Late #Night", ["night", "sky"])).toBe("Late #Night\n#sky");
    expect(withHashtags("#sky", ["sky"])).toBe("#sky");
    expect(withoutAddresses("See https://a.example/x\n\nsoon")).toBe("See\n\nsoon");
  });
});

const draft = (more: Partial<Draft> = {}): Draft => ({
  ...EMPTY,
  text: "Come: https://a.example/x",
  profiles: [1, 2],
  day: "2026-12-01",
  time: "19:30",
  ...more,
});
const LINK = { id: 7, short: "https://s.example/l/q", destination: "https://a.example/x" };

describe("a draft", () => {
  it("promises each version its own link in the same words, whole addresses alone", () => {
    const linked = draft({ links: { 1: LINK } });
    expect(textFor(linked, 1)).toBe("Come: https://s.example/l/q");
    expect(textFor(linked, 2)).toBe("Come: https://a.example/x");
    const longer = draft({ text: "https://a.example/x/y", links: { 1: LINK } });
    expect(textFor(longer, 1)).toBe("https://a.example/x/y");
  });

  it("promises that what is common reaches all, and that the same words again are no longer own", () => {
    let now = draft({ text: "One" });
    now = { ...now, ...withPart(now, 2, "text", "Two") };
    expect([textFor(now, 1), textFor(now, 2), ownParts(now, 2)]).toEqual(["One", "Two", ["text"]]);
    now = { ...now, ...withPart(now, null, "text", "Three") };
    expect([textFor(now, 1), textFor(now, 2)]).toEqual(["Three", "Two"]);
    now = { ...now, ...withPart(now, 2, "text", "Three") };
    expect(ownParts(now, 2)).toEqual([]);
  });

  it("promises what part of the audience is meant, and no part where none was read", () => {
    expect(audienceWords([], { PT: 0.58 })).toBe("Everybody");
    expect(audienceWords(["PT", "BR"], { PT: 0.58, BR: 0.304 })).toMatch(/^About 88% of its audience/);
    expect(audienceWords(["GR"], { PT: 0.58 })).toMatch(/^About 0%/);
    expect(audienceWords(["PT"], {})).toMatch(/was not read/);
  });

  it("promises the server what is common once, and of each version only what is its own", () => {
    const now = draft({
      own: { 2: { media: [4], when: { day: "2026-12-02", time: "08:00" } } },
      options: { 2: { board: "Sky" } },
      links: { 1: LINK },
    });
    const sent = contentOf(now, [1, 2], (day, time) => `${day}T${time}`);
    expect(sent.common.text).toBe("Come: https://a.example/x");
    expect(sent.versions[0]).toMatchObject({ text: null, media: null, link_id: 7, scheduled_at: null, options: {} });
    expect(sent.versions[1]).toMatchObject({
      text: null,
      media: [4],
      scheduled_at: "2026-12-02T08:00",
      options: { board: "Sky" },
    });
  });

  it("promises that what an earlier version kept is not lost", () => {
    const old = {
      title: "T",
      shared: "All",
      own: { 2: "Own" },
      links: { 1: 3 },
      profiles: [1, 2],
      day: "2026-12-01",
      time: "",
    };
    const now = asNow(old as never);
    expect([textFor(now, 1), textFor(now, 2), now.media]).toEqual(["All", "Own", []]);
  });

  it("promises to say in what two drafts differ", () => {
    const names = { profiles: { 2: "Brevi" }, campaigns: {} };
    expect(differences(draft(), draft(), names)).toEqual([]);
    const rows = differences(draft({ own: { 2: { text: "Mine" } } }), draft({ comment: "Theirs" }), names);
    expect(rows.map((row) => row.what)).toEqual(["First comment", "Brevi"]);
    expect(rows[1]).toMatchObject({ mine: "Mine", theirs: "as for all" });
  });
});

describe("the calendar's days", () => {
  it("promises whole weeks that hold the whole month", () => {
    for (const month of ["2026-02-11", "2026-11-29", "2027-08-01", "2024-02-29"]) {
      for (const first of [0, 6]) {
        const days = daysOf("month", month, first);
        expect(days.length % 7).toBe(0);
        expect(days).toContain(`${month.slice(0, 7)}-01`);
        expect(days).toContain(lastOfMonth(month));
        expect(days.length).toBeLessThanOrEqual(42);
      }
    }
  });
  it("promises that minutes past midnight are the next day", () => {
    expect(shifted("2026-12-31", 1440 + 15)).toEqual({ day: "2027-01-01", time: "00:15" });
    expect(shifted("2026-12-31", -15)).toEqual({ day: "2026-12-30", time: "23:45" });
  });
  it("promises that an address chooses only what there is", () => {
    const chosen = chosenIn(new URLSearchParams("profiles=3,x,-1&states=failed,nonsense&text=a"));
    expect(chosen).toEqual({ profiles: [3], states: ["failed"], text: "a" });
  });
});

describe("standing slots", () => {
  const standing = [
    { profile: 1, at: "2026-12-01T19:20:00Z", id: 5, title: "Near", isOut: false },
    { profile: 1, at: "2026-12-01T19:31:00Z", id: 6, title: "Nearest", isOut: false },
    { profile: 2, at: "2026-12-01T19:30:00Z", id: 7, title: "Another's", isOut: true },
  ];
  it("promises that a slot is taken by the nearest of its own profile within half an hour", () => {
    expect(takenBy(standing, 1, "2026-12-01T19:30:00Z")?.id).toBe(6);
    expect(takenBy(standing, 1, "2026-12-01T18:50:00Z")?.id).toBe(5);
    expect(takenBy(standing, 1, "2026-12-01T18:40:00Z")).toBeUndefined();
    expect(takenBy(standing, 3, "2026-12-01T19:30:00Z")).toBeUndefined();
  });
});
