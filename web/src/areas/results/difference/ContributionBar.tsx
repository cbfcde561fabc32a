import { absolute, type Unit } from "../../../lib/format";

type Props = { value: number; most: number; unit: Unit; more: boolean };
const HALF = 40;

/** What a part adds to a change, right of the line where it adds and left of it where it takes; the number beside it. */
export function ContributionBar({ value, most, unit, more }: Props) {
  const length = most > 0 ? (Math.abs(value) / most) * HALF : 0;
  const tone = value === 0 ? "var(--muted)" : value > 0 === more ? "var(--up)" : "var(--down)";
  return (
    <span className="inline-flex items-center gap-2 whitespace-nowrap">
      <span className="w-[72px] text-right font-semibold" style={{ color: tone }}>
        {absolute(value, unit)}
      </span>
      <svg width={2 * HALF + 2} height="11" aria-hidden="true" className="shrink-0">
        <rect
          x={value >= 0 ? HALF + 1 : HALF + 1 - length}
          width={Math.max(value === 0 ? 0 : 1, length)}
          y="1"
          height="9"
          fill={tone}
        />
        <path d={`M${HALF + 1} 0v11`} stroke="var(--ink)" strokeWidth="1" />
      </svg>
    </span>
  );
}
