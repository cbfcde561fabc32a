import { describe, expect, it } from "vitest";
import { isMadeOf, keyOf } from "./keys";

describe("what is asked again", () => {
  const of = (name: Parameters<typeof keyOf>[0], ...more: unknown[]) => keyOf(name, "orrery-house", ...more);

  it("promises that everything made of what changed is, wherever it is shown and whatever it asks with", () => {
    for (const shown of [
      of("links", { first: "2026-11-01" }),
      of("summary"),
      of("traffic"),
      of("funnel"),
      of("overview"),
    ])
      expect(isMadeOf(shown, "orrery-house", ["links"])).toBe(true);
    expect(isMadeOf(of("plan"), "orrery-house", ["posts", "plan"])).toBe(true);
  });

  it("promises that nothing else is, nor another brand's", () => {
    expect(isMadeOf(of("links"), "orrery-house", ["tags"])).toBe(false);
    expect(isMadeOf(of("links"), "lantern-line", ["links"])).toBe(false);
    expect(isMadeOf(["session"], "orrery-house", ["brand"])).toBe(false);
    expect(isMadeOf(["a name of nobody's", "orrery-house"], "orrery-house", ["links"])).toBe(false);
  });
});
