import { describe, expect, it } from "vitest";
import type { Boost } from "./queries";
import { broughtWords, centsIn, cheapestWords, costWords, money, paidPart, paidTitle } from "./rules";

const boost = (more: Partial<Boost>): Boost =>
  ({ text: "The roof opens at nine tonight, come up", currency: "EUR", clicks: 0, conversions: 0, ...more }) as Boost;
const clicked = (text: string, cents: number, low: number, high: number) =>
  boost({ text, per_click: cents, per_click_interval: { low, high } });

describe("what was paid for, in words", () => {
  it("promises amounts as people type them, and nothing for what is none", () => {
    expect(centsIn("20")).toBe(2000);
    expect(centsIn(" 12,50 ")).toBe(1250);
    expect(centsIn("0.1")).toBe(10);
    for (const typed of ["", "-5", "1.234", "twenty", "1e3", "٢٠", "1,2,3"]) expect(centsIn(typed)).toBeNull();
  });

  it("promises a cost with its interval, and a dash where nothing came", () => {
    expect(costWords(123.4, { low: 90, high: 180 }, "EUR")).toBe("1.23 EUR, 0.90 to 1.80");
    expect(costWords(null, null, "EUR")).toBe("–");
    expect(money(null, "EUR")).toBe("–");
  });

  it("promises no part of what is not known, and none of nothing", () => {
    expect(paidPart(300, 100)).toBe(0.25);
    expect(paidPart(null, 100)).toBeNull();
    expect(paidPart(0, 0)).toBeNull();
  });

  it("promises a claim of the cheapest only where the intervals bear it", () => {
    expect(cheapestWords([])).toBe("");
    expect(cheapestWords([clicked("A", 40, 30, 55)])).toBe("");
    expect(cheapestWords([clicked("The roof opens at nine", 40, 30, 55), clicked("B", 90, 70, 120)])).toBe(
      "“The roof opens at nine…” had the cheapest clicks, 0.40 EUR each.",
    );
    expect(cheapestWords([clicked("A", 40, 30, 75), clicked("B", 90, 70, 120)])).toBe("");
    // Amounts of two currencies are not held against each other.
    expect(cheapestWords([clicked("A", 40, 30, 55), { ...clicked("B", 90, 70, 120), currency: "BRL" }])).toBe("");
  });

  it("promises a headline of what was paid and brought, and nothing where nothing was", () => {
    const told = (values: Record<string, number | null>) => (key: string) => values[key];
    expect(paidTitle(told({ spend: 173, paid_clicks: 419, paid_conversions: 1 }), "EUR")).toBe(
      "173.00 EUR were paid and brought 419 clicks and 1 conversion",
    );
    expect(paidTitle(told({ spend: 12.5, paid_clicks: null }), "EUR")).toBe("12.50 EUR were paid");
    expect(paidTitle(told({ spend: 0 }), "EUR")).toBe("Nothing was paid for in these days");
    // What was paid in another currency is not nothing.
    expect(paidTitle(told({ spend: 0 }), "GBP", ["EUR"])).toMatch(/What was paid for/);
  });

  it("promises to say what came by a link, and where none leads", () => {
    expect(broughtWords(boost({ clicks: null }))).toBe("It leads nowhere.");
    expect(broughtWords(boost({ clicks: 0, per_click: null }))).toBe("0 clicks; no conversion.");
    expect(
      broughtWords(
        boost({
          clicks: 40,
          per_click: 50,
          per_click_interval: { low: 37, high: 70 },
          conversions: 2,
          per_conversion: 1000,
          per_conversion_interval: null,
        }),
      ),
    ).toBe("40 clicks, one for 0.50 EUR, 0.37 to 0.70; 2 conversions, one for 10.00 EUR.");
  });
});
