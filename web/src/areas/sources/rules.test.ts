import { describe, expect, it } from "vitest";
import { readAs, remapped } from "./rules";

describe("rules of Sources", () => {
  it("promises that a column serves one field", () => {
    expect(remapped({ text: 0, url: 1 }, "url", 0)).toEqual({ url: 0 });
    expect(remapped({ text: 0, url: 1 }, "url", -1)).toEqual({ text: 0 });
  });
  it("promises to say how a file was read", () => {
    expect(readAs("utf-8", ";")).toBe("utf-8, separated by semicolon");
    expect(readAs("", "")).toBe("workbook, first sheet");
  });
});
