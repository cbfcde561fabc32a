import { useId, useState } from "react";
import { type Day, shortDay, WEEKDAYS, weekday } from "../lib/days";
import { figure, short, type Unit } from "../lib/format";
import { useSize } from "../lib/useSize";
import { bandPath, labelEvery, linePath, valueScale } from "./ticks";

type Props = {
  label: string;
  unit: Unit;
  days: Day[];
  now: (number | null)[];
  before?: (number | null)[];
  daysBefore?: Day[];
  posts?: (number | null)[];
  height?: number;
  form?: "line" | "bar";
  /** Days that stand out, with their robust z: marked, and said aloud. */
  spikes?: { day: Day; z: number }[];
  isSmall?: boolean;
  onDay?: (day: Day) => void;
};

const LEFT = 46;
const BOTTOM = 24;
const TOP = 8;
const RIGHT = 8;

/** A metric by day: ours solid, the comparison dashed, posts as short marks on the base line. Arrow keys read it. */
export function CourseChart({
  label,
  unit,
  days,
  now,
  before = [],
  daysBefore = [],
  posts = [],
  height = 240,
  form = "line",
  spikes = [],
  isSmall = false,
  onDay,
}: Props) {
  const id = useId();
  const [measure, { width }] = useSize<HTMLDivElement>();
  const [at, setAt] = useState<number | null>(null);
  const inner = Math.max(10, width - LEFT - RIGHT);
  const tall = height - TOP - BOTTOM;
  const y = valueScale([...now, ...before], tall);
  const step = inner / Math.max(1, days.length);
  const x = (i: number) => LEFT + step * (i + 0.5);
  const Y = (v: number) => TOP + y(v);
  const every = labelEvery(days.length, inner, isSmall ? 90 : 58);
  const marked = new Map(spikes.map((s) => [s.day, s.z]));
  const text = (i: number) => {
    const day = days[i] as Day;
    const other =
      before[i] === undefined || !daysBefore[i]
        ? ""
        : `; ${figure(before[i], unit)} on ${shortDay(daysBefore[i] as Day)}`;
    const z = marked.get(day);
    const stands = z === undefined ? "" : z > 0 ? "; stands out, Enter shows why" : "; falls away, Enter shows why";
    const many = posts[i] ? `; ${posts[i]} ${posts[i] === 1 ? "post" : "posts"}` : "";
    return `${WEEKDAYS[weekday(day) - 1]} ${shortDay(day)}: ${figure(now[i], unit)}${other}${many}${stands}`;
  };
  return (
    <div ref={measure} className="relative" style={{ height }}>
      {width > 0 && (
        <svg
          width={width}
          height={height}
          role="img"
          aria-label={`${label} by day`}
          aria-describedby={`${id}-said`}
          tabIndex={0}
          className="block"
          onKeyDown={(event) => {
            const by = { ArrowLeft: -1, ArrowRight: 1, Home: -1e6, End: 1e6 }[event.key];
            if (by !== undefined) {
              event.preventDefault();
              setAt((old) => Math.max(0, Math.min(days.length - 1, (old ?? (by < 0 ? days.length : -1)) + by)));
            }
            if (event.key === "Enter" && at !== null) onDay?.(days[at] as Day);
          }}
          onBlur={() => setAt(null)}
          onPointerMove={(event) => {
            const i = Math.floor((event.clientX - event.currentTarget.getBoundingClientRect().left - LEFT) / step);
            setAt(i >= 0 && i < days.length ? i : null);
          }}
          onPointerLeave={() => setAt(null)}
          onClick={() => at !== null && onDay?.(days[at] as Day)}
        >
          {y.ticks(isSmall ? 2 : 4).map((tick) => (
            <g key={tick}>
              <line x1={LEFT} x2={width - RIGHT} y1={Y(tick)} y2={Y(tick)} stroke="var(--rule)" />
              <text x={LEFT - 7} y={Y(tick) + 4} textAnchor="end" fontSize="12" fill="var(--muted)">
                {short(tick, unit)}
              </text>
            </g>
          ))}
          {form === "bar" ? (
            <>
              {before.map((value, i) =>
                value === null || value === undefined || i >= days.length ? null : (
                  <path
                    key={days[i]}
                    d={`M${x(i) - step * 0.42} ${Y(value)}h${step * 0.84}`}
                    stroke="var(--against)"
                    strokeWidth="1.5"
                    strokeDasharray="3 2"
                  />
                ),
              )}
              {now.map((value, i) =>
                value === null ? null : (
                  <rect
                    key={days[i]}
                    className="mark"
                    x={x(i) - step * 0.32}
                    width={Math.max(1, step * 0.64)}
                    y={Math.min(Y(0), Y(value))}
                    height={Math.abs(Y(0) - Y(value))}
                    fill="var(--berry)"
                    opacity="0.85"
                  />
                ),
              )}
            </>
          ) : (
            <>
              <path d={bandPath(before.length ? before : [], now, x, Y)} fill="var(--wash)" opacity="0.75" />
              <path
                d={linePath(before, x, Y)}
                fill="none"
                stroke="var(--against)"
                strokeWidth="1.5"
                strokeDasharray="4 3"
                className="mark"
              />
              <path
                d={linePath(now, x, Y)}
                fill="none"
                stroke="var(--berry)"
                strokeWidth="2.2"
                strokeLinejoin="round"
                className="mark"
              />
              {now.map((value, i) =>
                value !== null && now[i - 1] == null && now[i + 1] == null ? (
                  <circle key={days[i]} cx={x(i)} cy={Y(value)} r="2.5" fill="var(--berry)" />
                ) : null,
              )}
            </>
          )}
          <line x1={LEFT} x2={width - RIGHT} y1={Y(0)} y2={Y(0)} stroke="var(--rule-strong)" />
          {days.map((day, i) => {
            const z = marked.get(day);
            const value = now[i];
            if (z === undefined || value === null || value === undefined) return null;
            const edge = z > 0 ? Math.max(TOP + 7, Y(value) - 6) : Math.min(TOP + tall - 2, Y(value) + 6);
            return (
              <path
                key={day}
                d={z > 0 ? `M${x(i) - 4.5} ${edge - 6}h9l-4.5 6z` : `M${x(i) - 4.5} ${edge + 6}h9l-4.5-6z`}
                fill="var(--ink)"
                stroke="var(--paper)"
              />
            );
          })}
          {posts.map((count, i) =>
            count ? (
              <path
                key={days[i]}
                d={`M${x(i)} ${TOP + tall}v${-3 - 2 * Math.min(4, count)}`}
                stroke="var(--ink)"
                strokeWidth="1.2"
              />
            ) : null,
          )}
          {days.map((day, i) =>
            i % every === 0 ? (
              <text
                key={day}
                x={x(i)}
                y={height - 7}
                fontSize="12"
                fill="var(--muted)"
                textAnchor={i === 0 ? "start" : "middle"}
                dx={i === 0 ? -step / 2 : 0}
              >
                {shortDay(day)}
              </text>
            ) : null,
          )}
          {at !== null && (
            <g pointerEvents="none">
              <line x1={x(at)} x2={x(at)} y1={TOP} y2={TOP + tall} stroke="var(--ink)" strokeDasharray="1 2" />
              {now[at] !== null && now[at] !== undefined && (
                <circle
                  cx={x(at)}
                  cy={Y(now[at] as number)}
                  r="3.5"
                  fill="var(--berry)"
                  stroke="var(--paper)"
                  strokeWidth="1.5"
                />
              )}
            </g>
          )}
        </svg>
      )}
      <output
        id={`${id}-said`}
        aria-live="polite"
        className={
          at === null
            ? "sr-only"
            : "pointer-events-none absolute top-0 z-10 bg-shell px-2 py-1 text-[12.5px] text-shell-ink"
        }
        style={at === null ? undefined : { left: Math.min(Math.max(LEFT, x(at) - 90), Math.max(LEFT, width - 270)) }}
      >
        {at === null ? "" : text(at)}
      </output>
    </div>
  );
}
