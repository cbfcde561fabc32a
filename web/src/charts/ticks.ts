/** Scales of charts: plain functions, so that they can be tested apart from drawing. */

import { scaleLinear } from "d3-scale";

export type Point = { x: number; y: number };

/** A linear scale from zero (or below, where values are) to a round number above all values. */
export function valueScale(values: (number | null)[], height: number, fromZero = true) {
  const known = values.filter((v): v is number => v !== null && Number.isFinite(v));
  const low = fromZero ? Math.min(0, ...known) : Math.min(...known);
  const high = Math.max(...known, fromZero ? 0 : low + 1e-9);
  const domain: [number, number] = low === high ? [low, low + 1] : [low, high];
  return scaleLinear().domain(domain).nice(4).range([height, 0]);
}

/** A line through points, with gaps where a value is missing. */
export function linePath(values: (number | null)[], x: (i: number) => number, y: (v: number) => number): string {
  let path = "";
  let isDown = false;
  values.forEach((value, i) => {
    if (value === null || !Number.isFinite(value)) {
      isDown = false;
      return;
    }
    path += `${isDown ? "L" : "M"}${x(i).toFixed(1)} ${y(value).toFixed(1)}`;
    isDown = true;
  });
  return path;
}

/** The area between two curves; where either is missing there is none. */
export function bandPath(
  low: (number | null)[],
  high: (number | null)[],
  x: (i: number) => number,
  y: (v: number) => number,
): string {
  const runs: number[][] = [[]];
  low.forEach((value, i) => {
    if (value === null || high[i] === null || high[i] === undefined) runs.push([]);
    else runs.at(-1)?.push(i);
  });
  return runs
    .filter((run) => run.length > 1)
    .map((run) => {
      const there = run.map((i) => `${x(i).toFixed(1)} ${y(high[i] as number).toFixed(1)}`);
      const back = [...run].reverse().map((i) => `${x(i).toFixed(1)} ${y(low[i] as number).toFixed(1)}`);
      return `M${there.join("L")}L${back.join("L")}Z`;
    })
    .join("");
}

/** Indices to label so that labels of `labelWidth` do not touch. */
export function labelEvery(count: number, width: number, labelWidth: number): number {
  const most = Math.max(1, Math.floor(width / labelWidth));
  const step = Math.ceil(count / most);
  return [1, 2, 7, 14, 28, 56].find((s) => s >= step) ?? step;
}
