/** The scale of ratios: logarithmic, symmetric around one, wide enough for all, never wider than a factor of eight. */

type Ratio = { value: number; interval: { low: number; high: number } } | null;
const WIDEST = Math.log(8);
const NARROWEST = Math.log(1.5);
const TICKS = [0.125, 0.25, 0.5, 0.67, 1, 1.5, 2, 4, 8];

export function ratioScale(ratios: Ratio[], width: number) {
  const far = ratios
    .filter((r) => r !== null)
    .flatMap((r) => [r.interval.low, r.interval.high])
    .filter((v) => v > 0 && Number.isFinite(v))
    .map((v) => Math.abs(Math.log(v)));
  const reach = Math.min(WIDEST, Math.max(NARROWEST, ...far));
  const x = (ratio: number) => {
    const log = Math.max(-reach, Math.min(reach, Math.log(Math.max(1e-9, ratio))));
    return width / 2 + (log / reach) * (width / 2 - 6);
  };
  return Object.assign(x, { ticks: TICKS.filter((t) => Math.abs(Math.log(t)) <= reach) });
}
