import { describe, expect, it } from "vitest";
import { listed, readChosen, toggled, writeChosen } from "./chosen";

describe("some of many", () => {
  it("promises to read what it wrote, in one form", () => {
    for (const text of ["a", "a,b", "!a,b", "!x"]) expect(writeChosen(readChosen(text))).toBe(text);
    expect(writeChosen(readChosen("b,a,,b"))).toBe("a,b");
    for (const text of ["", "!", ",", null, undefined]) expect(writeChosen(readChosen(text))).toBeUndefined();
  });

  it("promises that a value comes and goes, and that nothing chosen is no choice", () => {
    const one = toggled(readChosen(""), "a");
    expect(one.values).toEqual(["a"]);
    expect(writeChosen(toggled({ ...one, isNot: true }, "a"))).toBeUndefined();
  });

  it("promises a row of names that stays short", () => {
    expect(listed(["a"])).toBe("a");
    expect(listed(["a", "b", "c"])).toBe("a, b or c");
    expect(listed(["a", "b", "c", "d"], "and")).toBe("a, b and 2 more");
  });
});
