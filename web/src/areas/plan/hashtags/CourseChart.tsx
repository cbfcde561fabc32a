import { monthName } from "../../../lib/days";
import { figure, plural } from "../../../lib/format";
import { useSize } from "../../../lib/useSize";
import type { Course } from "./queries";

const HEIGHT = 150;
const FOOT = 18;
const LEFT = 34;

/** A hashtag's months: what its posts got as times the usual, with intervals; ours solid, the field's hollow. */
export function CourseChart({ course }: { course: Course }) {
  const [measure, { width }] = useSize<HTMLDivElement>();
  const months = [...new Set([...course.own, ...course.field].map((one) => one.month))].sort();
  const logs = [...course.own, ...course.field]
    .flatMap((one) => [one.low, one.index, one.high])
    .filter((value): value is number => value !== null && value > 0)
    .map((value) => Math.abs(Math.log(value)));
  // Wide enough for most; an interval of two posts runs out of the picture rather than flattening the rest.
  const reach = Math.min(Math.log(8), Math.max(Math.log(1.5), ...logs));
  const y = (value: number) => {
    const log = Math.max(-reach, Math.min(reach, Math.log(Math.max(1e-9, value))));
    return (HEIGHT - FOOT) / 2 - (log / reach) * ((HEIGHT - FOOT) / 2 - 6);
  };
  const step = months.length > 0 ? (width - LEFT) / months.length : 0;
  const x = (month: string, of: "own" | "field") => LEFT + (months.indexOf(month) + (of === "own" ? 0.4 : 0.6)) * step;
  const ticks = [0.25, 0.5, 1, 2, 4].filter((one) => Math.abs(Math.log(one)) <= reach);
  if (months.length === 0) return <p className="label">No post of a year carries it, yours or the field’s.</p>;
  return (
    <div ref={measure}>
      {width > 0 && (
        <svg width={width} height={HEIGHT} role="img" aria-label={`Results of #${course.tag} by month`}>
          {ticks.map((one) => (
            <g key={one}>
              <line
                x1={LEFT}
                x2={width}
                y1={y(one)}
                y2={y(one)}
                stroke={one === 1 ? "var(--rule-strong)" : "var(--rule)"}
              />
              <text x={LEFT - 6} y={y(one) + 4} textAnchor="end" fontSize="11" fill="var(--muted)">
                {one}
              </text>
            </g>
          ))}
          {(["field", "own"] as const).flatMap((of) =>
            course[of].map((one) => {
              if (one.index === null) return null;
              const at = x(one.month, of);
              const words = `${monthName(one.month)}, ${of === "own" ? "you" : "the field"}: ${figure(one.index, "index")}${one.low === null || one.high === null ? "" : ` (${figure(one.low, "index")} to ${figure(one.high, "index")})`}, ${plural(one.posts, "post")}`;
              return (
                <g key={`${of} ${one.month}`}>
                  <title>{words}</title>
                  {one.low !== null && one.high !== null && (
                    <line
                      x1={at}
                      x2={at}
                      y1={y(one.low)}
                      y2={y(one.high)}
                      stroke={of === "own" ? "var(--berry)" : "var(--muted)"}
                      strokeWidth="1.5"
                    />
                  )}
                  <circle
                    cx={at}
                    cy={y(one.index)}
                    r={4}
                    fill={of === "own" ? "var(--berry)" : "var(--paper)"}
                    stroke={of === "own" ? "var(--berry)" : "var(--ink)"}
                    strokeWidth="1.5"
                  />
                </g>
              );
            }),
          )}
          {months.map((month, i) => (
            <text
              key={month}
              x={LEFT + (i + 0.5) * step}
              y={HEIGHT - 4}
              textAnchor="middle"
              fontSize="11"
              fill="var(--muted)"
            >
              {monthName(month).slice(0, 3)}
            </text>
          ))}
        </svg>
      )}
      <p className="label">
        Times the usual of the profile, geometric mean of a month’s posts, 95 %. Filled: you; hollow: the field.
      </p>
    </div>
  );
}
