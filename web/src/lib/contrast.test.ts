import { describe, expect, it } from "vitest";
import { contrast, luminance, readable } from "./contrast";

describe("colours of a client", () => {
  it("promises contrast as WCAG 2.2 reckons it: black on white 21, its own grey #767676 on white 4.54", () => {
    expect(contrast("#000000", "#ffffff")).toBeCloseTo(21, 5);
    expect(contrast("#767676", "#ffffff")).toBeCloseTo(4.54, 2);
    expect(luminance("#ffffff")).toBeCloseTo(1, 9);
  });

  it("promises that every colour can be read on every ground, and stays itself where it can", () => {
    const steps = ["00", "40", "80", "c0", "ff"];
    const every = steps.flatMap((r) => steps.flatMap((g) => steps.map((b) => `#${r}${g}${b}`)));
    for (const ground of ["#ffffff", "#fbfbf7", "#121714", "#808080", "#ff0000"])
      for (const colour of every) {
        const found = readable(colour, ground);
        expect(contrast(found, ground)).toBeGreaterThanOrEqual(4.5);
        if (contrast(colour, ground) >= 4.5) expect(found).toBe(colour);
      }
  });
});
