import { useSize } from "../lib/useSize";
import { ratioScale } from "./ratioScale";

type Ratio = { value: number; interval: { low: number; high: number } } | null;
type Group = { raw: Ratio; adjusted: Ratio; verdict: string };

type PlotProps = { name: string; group: Group; groups: Group[]; isOurs?: boolean };

/** A group's ratio to the others on a log scale around one: as it is, and with the rest held the same. */
export function RatioPlot({ name, group, groups, isOurs = true }: PlotProps) {
  const [measure, { width }] = useSize<HTMLDivElement>();
  const x = ratioScale(
    groups.filter((g) => g.verdict !== "few").flatMap((g) => [g.raw, g.adjusted]),
    width,
  );
  const paler = group.verdict === "few" ? 0.45 : 1;
  return (
    <div ref={measure} className="h-7 min-w-[220px]">
      {width > 0 && (
        <svg width={width} height="28" role="img" aria-label={`${name}: ${said(group)}`}>
          {x.ticks.map((tick) => (
            <line
              key={tick}
              x1={x(tick)}
              x2={x(tick)}
              y1="0"
              y2="28"
              stroke={tick === 1 ? "var(--rule-strong)" : "var(--rule)"}
            />
          ))}
          {group.raw && (
            <g opacity={paler}>
              <line
                x1={x(group.raw.interval.low)}
                x2={x(group.raw.interval.high)}
                y1="9"
                y2="9"
                stroke={isOurs ? "var(--berry)" : "var(--muted)"}
                strokeWidth="1.5"
              />
              <rect
                x={Math.min(x(1), x(group.raw.value))}
                width={Math.max(1, Math.abs(x(group.raw.value) - x(1)))}
                y="5"
                height="8"
                fill={isOurs ? "var(--berry)" : "var(--tick)"}
              />
            </g>
          )}
          {group.adjusted && (
            <g opacity={paler}>
              <line
                x1={x(group.adjusted.interval.low)}
                x2={x(group.adjusted.interval.high)}
                y1="21"
                y2="21"
                stroke="var(--against-ink)"
                strokeWidth="1.5"
              />
              <circle
                cx={x(group.adjusted.value)}
                cy="21"
                r="4"
                fill="var(--paper)"
                stroke="var(--ink)"
                strokeWidth="1.5"
              />
            </g>
          )}
        </svg>
      )}
    </div>
  );
}

/** The scale above the plots. */
export function RatioAxis({ groups }: { groups: Group[] }) {
  const [measure, { width }] = useSize<HTMLDivElement>();
  const x = ratioScale(
    groups.filter((g) => g.verdict !== "few").flatMap((g) => [g.raw, g.adjusted]),
    width,
  );
  return (
    <div ref={measure} className="h-4">
      {width > 0 && (
        <svg width={width} height="16" aria-hidden="true">
          {x.ticks.map((tick) => (
            <text key={tick} x={x(tick)} y="12" textAnchor="middle" fontSize="11.5" fill="var(--muted)">
              {tick}
            </text>
          ))}
        </svg>
      )}
    </div>
  );
}

function said(group: Group): string {
  const one = (r: NonNullable<Ratio>) =>
    `${r.value.toFixed(2)} times the others, ${r.interval.low.toFixed(2)} to ${r.interval.high.toFixed(2)}`;
  const parts = [group.raw && one(group.raw), group.adjusted && `held the same ${one(group.adjusted)}`];
  return parts.filter(Boolean).join("; ") || "nothing to compare";
}
