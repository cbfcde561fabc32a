import { scaleLinear } from "d3-scale";
import { figure, plural, short } from "../lib/format";
import { useSize } from "../lib/useSize";

type Props = {
  readings: { age_hours: number; interactions: number | null }[];
  ages: { age_hours: number; typical: number | null; interactions: number | null }[];
  height?: number;
  /** What a young post is heading for by seven days, and the way that is typical of its kind. */
  ahead?: Ahead | null;
};
type Ahead = {
  heading: number;
  low: number;
  high: number;
  age_hours: number;
  count: number;
  course: readonly { age_hours: number; count: number }[];
};
const FINAL_HOURS = 168;

/** The way from where a post is to an end, in the shape of the typical growth from there on. */
export function wayAhead(ahead: Ahead, end: number): [number, number][] {
  const last = ahead.course.at(-1)?.count ?? 0;
  const at = (hours: number) => {
    const after = ahead.course.find((p) => p.age_hours >= hours);
    const before = [...ahead.course].reverse().find((p) => p.age_hours <= hours);
    if (!after || !before || after === before) return (after ?? before)?.count ?? 0;
    const part =
      (Math.log1p(hours) - Math.log1p(before.age_hours)) / (Math.log1p(after.age_hours) - Math.log1p(before.age_hours));
    return before.count + part * (after.count - before.count);
  };
  const now = at(ahead.age_hours);
  const grown = (hours: number) => (last > now ? (at(hours) - now) / (last - now) : 1);
  const hours = [
    ...ahead.course.map((p) => p.age_hours).filter((h) => h > ahead.age_hours && h < FINAL_HOURS),
    FINAL_HOURS,
  ];
  return [
    [ahead.age_hours, ahead.count],
    ...hours.map((h): [number, number] => [h, ahead.count + (end - ahead.count) * (h === FINAL_HOURS ? 1 : grown(h))]),
  ];
}

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
export function GrowthChart({ readings, ages, height = 250, ahead }: Props) {
  const [measure, { width }] = useSize<HTMLDivElement>();
  const own = readings.filter((r) => r.interactions !== null);
  const told = ages.filter((a) => a.age_hours > 0 && a.typical !== null);
  // Of a young post the typical of the ages to come is drawn too: that is where it is held against.
  const typical: { age_hours: number; typical: number | null }[] =
    ahead && ahead.course.length > 0 ? ahead.course.map((p) => ({ age_hours: p.age_hours, typical: p.count })) : told;
  const most = Math.max(
    1,
    ahead?.high ?? 0,
    ...own.map((r) => r.interactions ?? 0),
    ...typical.map((a) => a.typical ?? 0),
  );
  const oldest = Math.max(
    24,
    ahead ? FINAL_HOURS : 0,
    ...own.map((r) => r.age_hours),
    ...typical.map((a) => a.age_hours),
  );
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
          {ahead && (
            <>
              <path
                d={`${path(wayAhead(ahead, ahead.high))}L${path(wayAhead(ahead, ahead.low).reverse()).slice(1)}Z`}
                fill="var(--berry)"
                opacity="0.16"
              />
              <path
                d={path(wayAhead(ahead, ahead.heading))}
                fill="none"
                stroke="var(--berry)"
                strokeWidth="1.6"
                strokeDasharray="2 3"
              >
                <title>{`Heading for ${figure(ahead.heading)} (${figure(ahead.low)} to ${figure(ahead.high)}, 80 %)`}</title>
              </path>
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
