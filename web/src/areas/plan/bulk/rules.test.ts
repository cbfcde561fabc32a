import { describe, expect, it } from "vitest";
import type { Row } from "./queries";
import { withColumn, writtenIn, wrongFields } from "./rules";

const problem = (field: Row["problems"][number]["field"], message: string, is_blocking = true) => ({
  field,
  message,
  is_blocking,
  network: "",
});
const row = (problems: Row["problems"]) =>
  ({ number: 2, written_at: "2026-12-01 19:30", values: { text: "Doors" }, problems }) as unknown as Row;

describe("a table of posts", () => {
  it("promises that a column holds one field and a field stands in one column", () => {
    expect(withColumn({ text: 0, link: 1 }, 2, "text")).toEqual({ link: 1, text: 2 });
    expect(withColumn({ text: 0, link: 1 }, 1, "media")).toEqual({ text: 0, media: 1 });
    expect(withColumn({ text: 0, link: 1 }, 1, "")).toEqual({ text: 0 });
  });
  it("promises each wrong field once, with all that is said of it, and no advice among it", () => {
    const told = row([problem("text", "Too long."), problem("text", "No words."), problem("media", "Cut.", false)]);
    expect(wrongFields(told)).toEqual([["text", ["Too long.", "No words."]]]);
  });
  it("promises what stands there to be written over", () => {
    expect([writtenIn(row([]), "at"), writtenIn(row([]), "text"), writtenIn(row([]), "media")]).toEqual([
      "2026-12-01 19:30",
      "Doors",
      "",
    ]);
  });
});
