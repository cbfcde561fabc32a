import { describe, expect, it } from "vitest";
import { numbersIn } from "./numbers";

const plain = (text: string) => text.replace(/[\u00a0\u202f]/g, " ");

describe("numbers of a language", () => {
  it("promises each locale's own signs (CLDR), a dash for what is missing, never zero", () => {
    expect(plain(numbersIn("pt-PT").figure(12345.6, "count"))).toBe("12 346");
    expect(plain(numbersIn("el-GR").figure(0.1934, "rate"))).toBe("19,3%");
    expect(numbersIn("en-GB").figure(-0.05, "change")).toBe("−5%");
    expect(numbersIn("en-GB").figure(0.05, "change")).toBe("+5%");
    expect(numbersIn("sw-KE").figure(null, "count")).toBe("–");
    expect(numbersIn("en-GB").figure(1.234, "index")).toBe("1.23");
  });

  it("promises short numbers on axes, and days that are days", () => {
    expect(numbersIn("en-GB").short(120_000, "count")).toBe("120k");
    expect(numbersIn("en-GB").day("2026-11-29")).toBe("29 Nov");
    expect(numbersIn("en-GB").day("Monday 07:00")).toBe("Monday 07:00");
  });
});
