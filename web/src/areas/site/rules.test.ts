import { describe, expect, it } from "vitest";
import { attributionTitle, besides, channelName, MODELS, money } from "./rules";

describe("rules of Site", () => {
  it("promises to say whether the answer depends on the model", () => {
    const even = Object.fromEntries(MODELS.map((m) => [m.key, 2]));
    const less = Object.fromEntries(MODELS.map((m) => [m.key, 1]));
    const row = (name: string, counts: Record<string, number>, cents: Record<string, number> = {}) => ({
      name,
      counts,
      cents,
    });
    const title = (...rows: ReturnType<typeof row>[]) => attributionTitle(rows, 3, "counts");
    expect(title(row("Brevi", even), row("Commons", less))).toBe("Brevi brought the most, whichever way one counts");
    expect(title(row("Brevi", even), row("Commons", { ...less, first: 5 }))).toContain("depends");
    expect(attributionTitle([], 0, "counts")).toBe("No conversions in these days");
    // Of value it says what value says.
    const dear = [row("Brevi", even, less), row("Commons", less, even)];
    expect(attributionTitle(dear, 3, "cents")).toBe("Commons brought the most, whichever way one counts");
    expect(attributionTitle([row("Brevi", even), row("Commons", less)], 3, "cents")).toBe(
      "These conversions are worth nothing yet",
    );
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
