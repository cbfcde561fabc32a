import { useId, useState } from "react";
import { type Day, shortDay, WEEKDAYS, weekday } from "../lib/days";
import { figure, short } from "../lib/format";
import { useSize } from "../lib/useSize";
import { labelEvery, linePath, valueScale } from "./ticks";

type Course = (number | null)[];
type Props = {
  days: Day[];
  gained: Course | null;
  lost: Course | null;
  net: Course | null;
  /** Days that stand out by their gains or by their losses. */
  gains?: Day[];
  losses?: Day[];
  onDay?: (day: Day) => void;
  height?: number;
};
const LEFT = 46;
const RIGHT = 8;
const TOP = 10;
const BOTTOM = 24;

/** Followers gained above the line, lost below it, the net as a line; each may be left out. Arrow keys read it. */
export function GainLossChart({ days, gained, lost, net, gains = [], losses = [], onDay, height = 300 }: Props) {
  const id = useId();
  const [measure, { width }] = useSize<HTMLDivElement>();
  const [at, setAt] = useState<number | null>(null);
  const below = lost?.map((v) => (v === null ? null : -v)) ?? [];
  const tall = height - TOP - BOTTOM;
  const y = valueScale([...(gained ?? []), ...below, ...(net ?? [])], tall);
  const Y = (v: number) => TOP + y(v);
  const inner = Math.max(10, width - LEFT - RIGHT);
  const step = inner / Math.max(1, days.length);
  const x = (i: number) => LEFT + step * (i + 0.5);
  const every = labelEvery(days.length, inner, 58);
  const text = (i: number) => {
    const day = days[i] as Day;
    const parts = [
      gained && `${figure(gained[i])} gained`,
      lost && `${figure(lost[i])} lost`,
      net && `${figure(net[i])} net`,
    ];
    return `${WEEKDAYS[weekday(day) - 1]} ${shortDay(day)}: ${parts.filter(Boolean).join(", ")}${gains.includes(day) || losses.includes(day) ? "; stands out" : ""}`;
  };
  return (
    <div ref={measure} className="relative" style={{ height }}>
      {width > 0 && (
        <svg
          width={width}
          height={height}
          role="img"
          tabIndex={0}
          aria-label="Followers gained and lost by day"
          aria-describedby={`${id}-said`}
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
          {y.ticks(5).map((tick) => (
            <g key={tick}>
              <line
                x1={LEFT}
                x2={width - RIGHT}
                y1={Y(tick)}
                y2={Y(tick)}
                stroke={tick === 0 ? "var(--rule-strong)" : "var(--rule)"}
              />
              <text x={LEFT - 7} y={Y(tick) + 4} textAnchor="end" fontSize="12" fill="var(--muted)">
                {short(tick)}
              </text>
            </g>
          ))}
          {days.map((day, i) => {
            const up = gained?.[i];
            const down = lost?.[i];
            return (
              <g key={day}>
                {up ? (
                  <rect x={x(i) - step * 0.34} width={step * 0.68} y={Y(up)} height={Y(0) - Y(up)} fill="var(--tick)" />
                ) : null}
                {down ? (
                  <rect
                    x={x(i) - step * 0.34}
                    width={step * 0.68}
                    y={Y(0)}
                    height={Y(-down) - Y(0)}
                    fill="var(--paper)"
                    stroke="var(--down)"
                    strokeWidth="1.2"
                  />
                ) : null}
                {up && gains.includes(day) && (
                  <path d={`M${x(i) - 4.5} ${Math.max(1, Y(up) - 10)}h9l-4.5 6z`} fill="var(--ink)" />
                )}
                {down && losses.includes(day) && (
                  <path
                    d={`M${x(i) - 4.5} ${Math.min(height - BOTTOM - 1, Y(-down) + 10)}h9l-4.5-6z`}
                    fill="var(--ink)"
                  />
                )}
              </g>
            );
          })}
          {net && (
            <path d={linePath(net, x, Y)} fill="none" stroke="var(--berry)" strokeWidth="2.2" strokeLinejoin="round" />
          )}
          {days.map((day, i) =>
            i % every === 0 ? (
              <text key={day} x={x(i)} y={height - 6} textAnchor="middle" fontSize="12" fill="var(--muted)">
                {shortDay(day)}
              </text>
            ) : null,
          )}
          {at !== null && (
            <line
              x1={x(at)}
              x2={x(at)}
              y1={TOP}
              y2={TOP + tall}
              stroke="var(--ink)"
              strokeDasharray="1 2"
              pointerEvents="none"
            />
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
