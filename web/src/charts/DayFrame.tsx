import { type ReactNode, useId, useState } from "react";
import { type Day, shortDay } from "../lib/days";
import { useSize } from "../lib/useSize";
import { labelEvery } from "./ticks";

export const LEFT = 46;
export const RIGHT = 8;
export const BOTTOM = 24;

/** Where things stand in a chart over days: x of a day's middle, the width of a day, the whole width. */
export type Days = { x: (i: number) => number; step: number; width: number };

type Props = {
  days: Day[];
  height: number;
  label: string;
  /** What a day holds, in words: shown beside the pointer and read aloud. */
  textOf: (i: number) => string;
  onDay?: (day: Day) => void;
  onPoint?: (x: number, y: number) => void;
  labelWidth?: number;
  saidAt?: number;
  children: (place: Days, at: number | null) => ReactNode;
};

/** The frame of every chart over days: arrow keys and pointer read a day, Enter or a click opens it, days are labelled. */
export function DayFrame(props: Props) {
  const { days, height, label, textOf, onDay, onPoint, saidAt = 0, children } = props;
  // Days of another year carry it, and need the room.
  const { labelWidth = Math.max(58, 12 + 7.5 * shortDay(days[0] ?? "2000-01-01").length) } = props;
  const id = useId();
  const [measure, { width }] = useSize<HTMLDivElement>();
  const [at, setAt] = useState<number | null>(null);
  const inner = Math.max(10, width - LEFT - RIGHT);
  const step = inner / Math.max(1, days.length);
  const x = (i: number) => LEFT + step * (i + 0.5);
  const every = labelEvery(days.length, inner, labelWidth);
  const open = (i: number | null) => i !== null && onDay?.(days[i] as Day);
  const dayAt = (px: number) => {
    const i = Math.floor((px - LEFT) / step);
    return i >= 0 && i < days.length ? i : null;
  };
  return (
    <div ref={measure} className="relative" style={{ height }}>
      {width > 0 && (
        <svg
          width={width}
          height={height}
          role="img"
          aria-label={label}
          aria-describedby={`${id}-said`}
          tabIndex={0}
          className="block"
          onKeyDown={(event) => {
            const by = { ArrowLeft: -1, ArrowRight: 1, Home: -1e6, End: 1e6 }[event.key];
            if (by !== undefined) {
              event.preventDefault();
              setAt((old) => Math.max(0, Math.min(days.length - 1, (old ?? (by < 0 ? days.length : -1)) + by)));
            }
            if (event.key === "Enter") open(at);
          }}
          onBlur={() => setAt(null)}
          onPointerMove={(event) => {
            setAt(dayAt(event.clientX - event.currentTarget.getBoundingClientRect().left));
          }}
          onPointerLeave={() => setAt(null)}
          onClick={(event) => {
            const box = event.currentTarget.getBoundingClientRect();
            if (onPoint) onPoint(event.clientX - box.left, event.clientY - box.top);
            // A finger does not hover: the day is the one that was tapped, whatever was pointed at before.
            else open(dayAt(event.clientX - box.left));
          }}
        >
          {children({ x, step, width }, at)}
          {days.map((day, i) =>
            i % every === 0 ? (
              <text
                key={day}
                x={x(i)}
                y={height - 7}
                fontSize="12"
                fill="var(--muted)"
                textAnchor={i === 0 ? "start" : i > days.length - every ? "end" : "middle"}
                dx={i === 0 ? -step / 2 : i > days.length - every ? step / 2 : 0}
              >
                {shortDay(day)}
              </text>
            ) : null,
          )}
          {at !== null && (
            <line
              x1={x(at)}
              x2={x(at)}
              y1="0"
              y2={height - BOTTOM}
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
          at === null ? "sr-only" : "pointer-events-none absolute z-10 bg-shell px-2 py-1 text-[12.5px] text-shell-ink"
        }
        style={
          at === null
            ? undefined
            : { top: saidAt, left: Math.min(Math.max(LEFT, x(at) - 100), Math.max(LEFT, width - 300)) }
        }
      >
        {at === null ? "" : textOf(at)}
      </output>
    </div>
  );
}

/** Horizontal lines at round values, with their numbers. */
export function Grid({
  ticks,
  Y,
  width,
  text,
}: {
  ticks: number[];
  Y: (v: number) => number;
  width: number;
  text: (v: number) => string;
}) {
  return (
    <>
      {ticks.map((tick) => (
        <g key={tick}>
          <line
            x1={LEFT}
            x2={width - RIGHT}
            y1={Y(tick)}
            y2={Y(tick)}
            stroke={tick === 0 ? "var(--rule-strong)" : "var(--rule)"}
          />
          <text x={LEFT - 7} y={Y(tick) + 4} textAnchor="end" fontSize="12" fill="var(--muted)">
            {text(tick)}
          </text>
        </g>
      ))}
    </>
  );
}
