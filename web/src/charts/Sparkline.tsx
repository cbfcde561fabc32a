import { linePath, valueScale } from "./ticks";

/** A course without axes, for a cell or a strip; the figure beside it says the rest. */
export function Sparkline({
  values,
  width = 62,
  height = 18,
}: {
  values: (number | null)[];
  width?: number;
  height?: number;
}) {
  const y = valueScale(values, height - 2, false);
  const x = (i: number) => 1 + (i / Math.max(1, values.length - 1)) * (width - 2);
  return (
    <svg width={width} height={height} aria-hidden="true">
      <path d={linePath(values, x, (v) => 1 + y(v))} fill="none" stroke="var(--berry)" strokeWidth="1.3" />
    </svg>
  );
}
