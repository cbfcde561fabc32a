import { describe, expect, it } from "vitest";
import { formOf, shares } from "./rules";

describe("rules of Results", () => {
  it("promises that a missing part has no share and zero does", () => {
    expect(shares([{ value: 3 }, { value: null }, { value: 1 }])).toEqual([0.75, null, 0.25]);
    expect(shares([{ value: 0 }])).toEqual([null]);
  });
  it("promises bars for what is counted by the day and lines for levels", () => {
    expect(formOf("posts")).toBe("bar");
    expect(formOf("reach")).toBe("line");
  });
});
