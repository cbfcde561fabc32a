import { describe, expect, it } from "vitest";
import { addDays, daysBetween } from "../lib/days";
import { ageName, carried, carriedAll, comparedSpan, languageName, readStudy } from "./study";

const TODAY = "2026-11-25";
const read = (query: string) => readStudy(new URLSearchParams(query), TODAY);

describe("what is studied, as an address has it", () => {
  it("promises four weeks up to today where nothing is said", () => {
    expect(read("")).toMatchObject({ first: "2026-10-29", last: TODAY, compare: "previous", age: undefined });
  });

  it("promises four weeks up to the last day where only that is said", () => {
    expect(read("last=2026-03-31")).toMatchObject({ first: "2026-03-04", last: "2026-03-31" });
  });

  it("promises everything that a colleague chose", () => {
    const query =
      "first=2026-10-01&last=2026-10-31&compare=year_before&network=brevi&profile=7&format=image&tag=3&campaign=2&language=pt&boosted=no&age=0";
    expect(read(query)).toEqual({
      first: "2026-10-01",
      last: "2026-10-31",
      compare: "year_before",
      network: "brevi",
      profile: "7",
      format: "image",
      tag: "3",
      campaign: "2",
      language: "pt",
      boosted: "no",
      age: 0,
    });
  });

  it.each([
    ["first=yesterday", { first: "2026-10-29" }],
    ["first=2026-12-24&last=2026-11-20", { first: "2026-10-24", last: "2026-11-20" }],
    ["compare=nothing", { compare: "previous" }],
    ["age=5", { age: undefined }],
    ["age=", { age: 0 }],
    ["profile=-3&tag=x&campaign=0", { profile: undefined, tag: undefined, campaign: undefined }],
    ["language=<script>", { language: undefined }],
    ["tag=7,3,7,x", { tag: "3,7" }],
    ["tag=!", { tag: undefined }],
    ["format=image,poem", { format: "image" }],
    ["network=!brevi,%20commons", { network: "!brevi,commons" }],
    ["boosted=perhaps", { boosted: undefined }],
  ])("promises that an address somebody mistyped (%s) is read as if it said less", (query, part) => {
    expect(read(query)).toMatchObject(part);
  });
});

describe("the period held against", () => {
  it("promises the same lengths by the same rules as the figures, over any span", () => {
    for (let days = 1; days <= 120; days += 7) {
      for (const last of ["2026-03-31", "2026-11-25", "2024-02-29", "2027-01-01"]) {
        const first = addDays(last, 1 - days);
        const previous = comparedSpan({ first, last, compare: "previous" });
        expect(previous.last).toBe(addDays(first, -1));
        for (const compare of ["previous", "aligned", "year_before"] as const) {
          const other = comparedSpan({ first, last, compare });
          expect(daysBetween(other.first, other.last)).toBe(days - 1);
          expect(other.last < first || compare === "year_before").toBe(true);
          if (compare !== "previous") expect(daysBetween(other.first, first) % 7).toBe(0);
        }
      }
    }
  });
});

describe("what goes along", () => {
  const search = "?first=2026-10-01&last=2026-10-31&network=brevi&tag=3&age=168&sort=-index&open=link";

  it("promises the period from area to area, and what is studied from view to view", () => {
    expect(carried(search)).toBe("?first=2026-10-01&last=2026-10-31");
    expect(carriedAll(search)).toBe("?first=2026-10-01&last=2026-10-31&network=brevi&tag=3&age=168");
    expect(carried("?sort=x")).toBe("");
    expect(carriedAll("")).toBe("");
  });

  it("promises words for ages and languages, known or not", () => {
    expect([0, 24, 168, 672].map(ageName)).toEqual(["as last seen", "at 24 hours", "at 7 days", "at 28 days"]);
    expect(ageName(-1)).toBe("at their final count");
    expect(languageName("pt")).toBe("Portuguese");
    expect(languageName("not a code")).toBe("not a code");
  });
});
