// @vitest-environment happy-dom
import { describe, expect, it } from "vitest";
import type { ReadSegment } from "./queries";
import { bare, read, written } from "./segments";

const words = (text: string): ReadSegment => ({
  text,
  item: "",
  cell: "",
  what: "now",
  said: null,
  is_gone: false,
  has_turned: false,
});
const number: ReadSegment = { ...words("1,234"), item: "f1", cell: "reach", said: 1 };

describe("words with bound numbers, while they are edited", () => {
  it("promises that what is not touched stays what it was", () => {
    const at = document.createElement("div");
    const told = [[words("Reach rose to "), number, words(".")], [words("Second.")]];
    written(at, told);
    expect(read(at)).toEqual(told.map((row) => row.map(bare)));
  });

  it("promises that words are words, whatever they hold, and lines are paragraphs", () => {
    const at = document.createElement("div");
    written(at, [[words("<img src=x onerror=alert(1)>")]]);
    expect(at.querySelector("img")).toBeNull();
    at.innerHTML = "one<div>two</div><div><br></div><p>three\u00a0four</p>";
    expect(read(at).map((row) => row.map((one) => one.text).join(""))).toEqual(["one", "two", "", "three four"]);
  });

  it("promises that a number that is deleted is gone, and what is pasted is no number", () => {
    const at = document.createElement("div");
    written(at, [[words("Reach "), number]]);
    at.querySelector("[data-bound]")?.remove();
    expect(read(at)).toEqual([[bare(words("Reach "))]]);
    at.innerHTML = "";
    expect(read(at)).toEqual([]);
  });
});
