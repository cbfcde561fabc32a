import { describe, expect, it } from "vitest";
import { choiceText, chosenIn, questionIn, withQuestion } from "./question";

const at = (text: string) => new URLSearchParams(text);

describe("the question of hours", () => {
  it("promises that the address carries it all, and nothing that is not asked", () => {
    const asked = at("profile=3,7&of=reach&format=!image&zone=UTC&read=ranked");
    expect(questionIn(asked)).toEqual({ profile: "3,7", of: "reach", format: "!image", zone: "UTC" });
    expect(questionIn(at(""))).toEqual({});
  });
  it("promises one way of saying whose hours, whichever is chosen", () => {
    expect(withQuestion(at("profile=3&of=reach"), { whose: "brand" }).toString()).toBe("of=reach&whose=brand");
    expect(withQuestion(at("whose=brand"), { network: "brevi" }).toString()).toBe("network=brevi");
    expect(withQuestion(at("network=brevi&zone=UTC"), { profile: "" }).toString()).toBe("zone=UTC");
  });
  it("promises that what is emptied leaves the address and the rest stays", () => {
    expect(withQuestion(at("of=reach&as=table"), { of: "" }).toString()).toBe("as=table");
  });
  it("promises choices of several, none of them too, in one order", () => {
    expect(chosenIn("!7,3")).toEqual({ isNot: true, values: ["7", "3"] });
    expect(chosenIn(undefined)).toEqual({ isNot: false, values: [] });
    expect(choiceText(true, ["7", "3"])).toBe("!3,7");
    expect(choiceText(true, [])).toBe("");
  });
});
