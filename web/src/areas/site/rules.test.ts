import { describe, expect, it } from "vitest";
import { attributionTitle, besides, channelName, MODELS, money } from "./rules";

describe("rules of Site", () => {
  it("promises to say whether the answer depends on the model", () => {
    const even = Object.fromEntries(MODELS.map((m) => [m.key, 2]));
    const less = Object.fromEntries(MODELS.map((m) => [m.key, 1]));
    expect(
      attributionTitle(
        [
          { name: "Brevi", counts: even },
          { name: "Commons", counts: less },
        ],
        3,
      ),
    ).toBe("Brevi brought the most, whichever way one counts");
    expect(
      attributionTitle(
        [
          { name: "Brevi", counts: even },
          { name: "Commons", counts: { ...less, first: 5 } },
        ],
        3,
      ),
    ).toContain("depends");
    expect(attributionTitle([], 0)).toBe("No conversions in these days");
    expect(channelName([{ key: "brevi", name: "Brevi" }], "brevi")).toBe("Brevi");
    expect(channelName([], "search.example")).toBe("search.example");
    const others = [
      { currency: "USD", cents: 1999, conversions: 2 },
      { currency: "GBP", cents: -500, conversions: 1 },
    ];
    expect(besides(others)).toBe(
      "Kept apart, in other currencies: US$19.99 from 2 conversions, -£5.00 from 1 conversion.",
    );
    expect(besides([])).toBe("");
    expect([money(1450, "EUR"), money(123456700, "EUR")]).toEqual(["€14.50", "€1,234,567"]);
  });
});
