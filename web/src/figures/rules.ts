/** How the parts of a figure are told, by what is done with them. */

import { figure, percent, type Unit } from "../lib/format";
import type { Basis } from "./queries";

type Part = Basis["parts"][number];
export type Line = { key: string; name: string; text: string; hint: string; share: number | null };

const OF_ITS_UNIT: Basis["rule"][] = ["sum", "mean", "geometric_mean", "median", "largest"];

/** Unit in which a part is told: parts of a sum or a mean are of the figure's own, others are counts or numbers of their own. */
function unitOf(basis: Pick<Basis, "rule" | "unit">, value: number): Unit {
  if (OF_ITS_UNIT.includes(basis.rule)) return basis.unit;
  return Number.isInteger(value) || Math.abs(value) >= 100 ? "count" : "index";
}

/** Each part as a line: its value, and its share of the whole where parts are added. */
export function linesOf(basis: Pick<Basis, "rule" | "unit" | "parts">): Line[] {
  const isSum = basis.rule === "sum" && basis.parts.every((part) => part.value >= 0);
  const whole = basis.parts.reduce((sum, part) => sum + part.value, 0);
  const weights = basis.parts.reduce((sum, part) => sum + part.weight, 0);
  const isMean = basis.rule === "mean" || basis.rule === "geometric_mean";
  return basis.parts.map((part: Part) => {
    const share = isSum && whole > 0 ? part.value / whole : isMean && weights > 0 ? part.weight / weights : null;
    return {
      key: part.key,
      name: part.name,
      text: figure(part.value, unitOf(basis, part.value)).replace("-", "−"),
      hint: share === null ? "" : isMean ? `weighs ${percent(share)}` : percent(share),
      share,
    };
  });
}

const DONE: Record<Basis["rule"], string> = {
  sum: "Added up",
  ratio: "The first divided by the second",
  formula: "Put into the formula",
  mean: "Their mean, each by its weight",
  geometric_mean: "Their geometric mean, each by its weight",
  product: "Multiplied with one another",
  median: "Half of what the two in the middle have together",
  largest: "The largest of them",
  change: "The first held against the second",
};

/** What is done with the parts, in words; of a single part nothing is. */
export function doneWith(basis: Pick<Basis, "rule" | "parts">): string {
  return basis.parts.length < 2 ? "" : DONE[basis.rule];
}

/** What the parts are, above them: networks or weeks are named, what stands above and below a rate is not. */
export function partsTitle(basis: Pick<Basis, "rule" | "parts_name">): string {
  const isAdded = basis.rule === "sum" || basis.rule === "mean" || basis.rule === "geometric_mean";
  if (basis.rule === "median") return "The post in the middle, or the two";
  if (basis.rule === "largest") return "The posts with most";
  const isThing = basis.parts_name && !["sum", "side", "factor"].includes(basis.parts_name);
  return isAdded && isThing ? `Its parts, by ${basis.parts_name}` : "Its parts";
}
