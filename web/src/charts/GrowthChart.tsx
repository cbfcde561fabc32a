import { scaleLinear } from "d3-scale";
import { figure, plural, short } from "../lib/format";
import { useSize } from "../lib/useSize";

type Props = {
  readings: { age_hours: number; interactions: number | null }[];
  ages: { age_hours: number; typical: number | null; interactions: number | null }[];
  height?: number;
};

const LEFT = 46;
const BOTTOM = 36;
const MARKS: [number, string][] = [
  [1, "1 h"],
  [6, "6 h"],
  [24, "1 d"],
  [72, "3 d"],
  [168, "7 d"],
  [672, "28 d"],
];

/** How a post grew, against what is typical of its profile at each age. Age on a log scale, since most happens at first. */
export function GrowthChart({ readings, ages, height = 250 }: Props) {
  const [measure, { width }] = useSize<HTMLDivElement>();
  const own = readings.filter((r) => r.interactions !== null);
  const typical = ages.filter((a) => a.age_hours > 0 && a.typical !== null);
  const most = Math.max(1, ...own.map((r) => r.interactions ?? 0), ...typical.map((a) => a.typical ?? 0));
  const oldest = Math.max(24, ...own.map((r) => r.age_hours), ...typical.map((a) => a.age_hours));
  const x = (hours: number) => LEFT + (Math.log1p(hours) / Math.log1p(oldest)) * (width - LEFT - 60);
  const y = scaleLinear()
    .domain([0, most])
    .nice(4)
    .range([height - BOTTOM, 12]);
  const path = (points: [number, number][]) =>
    `M${points.map(([a, v]) => `${x(a).toFixed(1)} ${y(v).toFixed(1)}`).join("L")}`;
  const last = own.at(-1);
  const lastTypical = typical.at(-1);
  return (
    <div ref={measure} style={{ height }}>
      {width > 0 && (
        <svg
          width={width}
          height={height}
          role="img"
          aria-label={`Interactions by age, ${plural(own.length, "reading")}; typical at ${plural(typical.length, "age")}`}
        >
          {y.ticks(4).map((tick) => (
            <g key={tick}>
              <line x1={LEFT} x2={width - 60} y1={y(tick)} y2={y(tick)} stroke="var(--rule)" />
              <text x={LEFT - 7} y={y(tick) + 4} textAnchor="end" fontSize="12" fill="var(--muted)">
                {short(tick)}
              </text>
            </g>
          ))}
          {MARKS.filter(([hours]) => hours <= oldest).map(([hours, name]) => (
            <text key={hours} x={x(hours)} y={height - 18} textAnchor="middle" fontSize="12" fill="var(--muted)">
              {name}
            </text>
          ))}
          <text x={LEFT} y={height - 3} fontSize="12" fill="var(--muted)">
            age, hours on a log scale
          </text>
          {typical.length > 0 && (
            <>
              <path
                d={path([[0, 0], ...typical.map((a): [number, number] => [a.age_hours, a.typical ?? 0])])}
                fill="none"
                stroke="var(--against)"
                strokeWidth="1.5"
                strokeDasharray="4 3"
              />
              {typical.map((a) => (
                <circle
                  key={a.age_hours}
                  cx={x(a.age_hours)}
                  cy={y(a.typical ?? 0)}
                  r="3"
                  fill="var(--panel)"
                  stroke="var(--against)"
                >
                  <title>{`Typical at ${a.age_hours} h: ${figure(a.typical)}`}</title>
                </circle>
              ))}
            </>
          )}
          {own.length > 0 && (
            <>
              <path
                d={path([[0, 0], ...own.map((r): [number, number] => [r.age_hours, r.interactions ?? 0])])}
                fill="none"
                stroke="var(--berry)"
                strokeWidth="2.2"
              />
              {own.map((r) => (
                <circle key={r.age_hours} cx={x(r.age_hours)} cy={y(r.interactions ?? 0)} r="2.4" fill="var(--berry)">
                  <title>{`${Math.round(r.age_hours)} h: ${figure(r.interactions)}`}</title>
                </circle>
              ))}
            </>
          )}
          {last && (
            <text
              x={x(last.age_hours) + 6}
              y={y(last.interactions ?? 0) + 4}
              fontSize="12.5"
              fontWeight="600"
              fill="var(--berry)"
            >
              this post
            </text>
          )}
          {lastTypical && last && Math.abs(y(lastTypical.typical ?? 0) - y(last.interactions ?? 0)) > 14 && (
            <text
              x={x(lastTypical.age_hours) + 6}
              y={y(lastTypical.typical ?? 0) + 4}
              fontSize="12.5"
              fill="var(--against-ink)"
            >
              typical
            </text>
          )}
        </svg>
      )}
    </div>
  );
}
