import { describe, expect, it } from "vitest";
import { bookmarklet, filled, keptWords, originWords, patternWords, sharedIn, subjectOf, writtenWords } from "./rules";

const pattern = (more: object) =>
  ({
    kind: "opening",
    words: "Did you",
    posts: 12,
    verdict: "open",
    times: 1.2,
    low: 0.9,
    high: 1.6,
    ...more,
  }) as never;

describe("what an idea says", () => {
  it("promises that places are filled by their names and what has no value stays", () => {
    expect(filled("{What} until { hour } on {day}", { what: "Open", hour: "nine", day: " " })).toBe(
      "Open until nine on {day}",
    );
    expect(filled("{a} {b}", { a: "{b}", b: "$&" })).toBe("{b} $&");
    expect(filled("{a+b}(x)", { "a+b": "yes" })).toBe("yes(x)");
    expect(filled("no place", {})).toBe("no place");
  });

  it("promises that better is said where it is certain, and chance is named where it may be", () => {
    expect(patternWords(pattern({}))).toContain("not told apart");
    expect(patternWords(pattern({ low: 1.05 }))).toContain("may be chance");
    expect(patternWords(pattern({ verdict: "better", low: 1.05 }))).toContain(
      "they did better, 1.20 times the others (1.05 to 1.60)",
    );
    expect(patternWords(pattern({ times: null }))).toContain("cannot be told");
  });

  it("promises that a page is taken from wherever a program puts its address, and nothing that is none", () => {
    const told = (query: string) => sharedIn(new URLSearchParams(query));
    expect(told("title=T&text=Look https://a.example/x")).toEqual({
      title: "T",
      text: "Look",
      page: "https://a.example/x",
      picture: "",
    });
    expect(told("url=https://a.example/y&text=See https://b.example").page).toBe("https://a.example/y");
    expect(told("url=javascript:alert(1)&picture=data:image/png;base64,x")).toEqual({
      title: "",
      text: "",
      page: "",
      picture: "",
    });
  });

  it("promises that the browser's mark reads four things and asks for our own address", () => {
    const code = bookmarklet("https://dakika.example");
    expect(code.startsWith("javascript:(()=>{")).toBe(true);
    expect(code).toContain('"https://dakika.example/share?"');
    expect(code).not.toMatch(/cookie|fetch|XMLHttp|[\n"]\s*\+\s*document\.body/);
    const opened: string[] = [];
    const page = {
      title: "A page & more",
      querySelector: (asked: string) => (asked.includes("og:image") ? { content: "https://a.example/p.jpg" } : null),
    };
    new Function("document", "location", "getSelection", "window", code.replace("javascript:", ""))(
      page,
      { href: "https://a.example/x?y=1" },
      () => "marked",
      { open: (address: string) => opened.push(address) },
    );
    expect(sharedIn(new URL(opened[0] ?? "").searchParams)).toEqual({
      title: "A page & more",
      text: "marked",
      page: "https://a.example/x?y=1",
      picture: "https://a.example/p.jpg",
    });
  });

  it("promises words for where it came from, its figures and what came of it", () => {
    expect(keptWords({ key: "index", value: 2.414, at: null })).toBe("2.41 times typical");
    expect(originWords({ origin: "feed", feed: "Night sky", day: null })).toBe("from Night sky");
    expect(subjectOf({ origin: "post", title: "The moon rises. Come, by Tide Museum" })).toBe("The moon rises");
    const written = ["published", "scheduled", "draft", "draft"].map((state, id) => ({
      id,
      title: "",
      state,
      at: null,
    }));
    expect(writtenWords(written as never)).toBe("1 out, 1 on the way, 2 drafts");
    expect(writtenWords([])).toBe("");
  });
});
