import { useState } from "react";
import { bandPath, linePath } from "../../charts/ticks";
import { WEEKDAYS } from "../../lib/days";
import { figure } from "../../lib/format";
import type { Week } from "./queries";
import { hourName } from "./rules";

type Props = {
  week: Week;
  day: number;
  width: number;
  reach: number;
  height?: number;
  onHour: (hour: number) => void;
  canChange: boolean;
};
const LEFT = 44;
const RIGHT = 34;

/** One day as a strip: the index over its hours with its band, the audience's presence, our posts, proposals as flags. */
export function DayStrip({ week, day, width, reach, height = 62, onHour, canChange }: Props) {
  const [at, setAt] = useState<number | null>(null);
  const inner = Math.max(10, width - LEFT - RIGHT);
  const base = height - 12;
  const x = (hour: number) => LEFT + (hour / 24) * inner;
  const middleY = base / 2 + 2;
  const y = (index: number) => middleY - Math.max(-1.08, Math.min(1.08, Math.log(index) / reach)) * (base / 2 - 3);
  // The hours' middles, and at both ends of the day the mean with the neighbouring day's hour.
  const x25 = (i: number) => x(i === 0 ? 0 : i === 25 ? 24 : i - 0.5);
  const slice = (values: number[]) => {
    const of = (hour: number) => values[(hour + 168) % 168] ?? 1;
    const inside = Array.from({ length: 24 }, (_, hour) => of(day * 24 + hour));
    return [(of(day * 24 - 1) + of(day * 24)) / 2, ...inside, (of(day * 24 + 23) + of(day * 24 + 24)) / 2];
  };
  const index = week.hours.length ? slice(week.hours.map((h) => h.index)) : [];
  const low = week.hours.length ? slice(week.hours.map((h) => h.low80)) : [];
  const high = week.hours.length ? slice(week.hours.map((h) => h.high80)) : [];
  const presence = week.presence ? slice(week.presence) : [];
  const say = (hour: number) => {
    const h = week.hours[day * 24 + Math.floor(hour)];
    const p = week.presence?.[day * 24 + Math.floor(hour)];
    return `${hourName(day * 24 + hour)}${h ? ` · ${figure(h.index, "index")} (${figure(h.low80, "index")}–${figure(h.high80, "index")}), ${h.certainty}, ${h.nearby} posts nearby` : ""}${p === undefined ? "" : ` · presence ${Math.round(p * 100)} %`}`;
  };
  const step = (clientX: number, box: DOMRect) => {
    const hour = ((clientX - box.left - LEFT) / inner) * 24;
    return hour < 0 || hour >= 24 ? null : Math.floor(hour * 4) / 4;
  };
  return (
    <div className="relative">
      <svg
        width={width}
        height={height}
        role="slider"
        tabIndex={0}
        aria-label={`${WEEKDAYS[day]}: index by hour. Arrows move, Enter starts a draft`}
        aria-valuemin={0}
        aria-valuemax={24}
        aria-valuenow={at ?? 0}
        aria-valuetext={at === null ? `${WEEKDAYS[day]}` : say(at)}
        className={`block ${canChange ? "cursor-pointer" : ""}`}
        onPointerMove={(e) => setAt(step(e.clientX, e.currentTarget.getBoundingClientRect()))}
        onPointerLeave={() => setAt(null)}
        onBlur={() => setAt(null)}
        onClick={(e) => {
          const hour = step(e.clientX, e.currentTarget.getBoundingClientRect());
          if (hour !== null && canChange) onHour(day * 24 + hour);
        }}
        onKeyDown={(e) => {
          const by = { ArrowLeft: -0.5, ArrowRight: 0.5 }[e.key];
          if (by !== undefined) {
            e.preventDefault();
            setAt((old) => Math.max(0, Math.min(23.75, (old ?? 12) + by)));
          }
          if (e.key === "Enter" && at !== null && canChange) onHour(day * 24 + at);
        }}
      >
        <text x={4} y={base - 8} fontSize="13" fontWeight="600" fill="var(--ink)">
          {WEEKDAYS[day]}
        </text>
        {[6, 12, 18].map((hour) => (
          <line key={hour} x1={x(hour)} x2={x(hour)} y1="2" y2={base} stroke="var(--rule)" />
        ))}
        {index.length > 0 && (
          <>
            <path d={bandPath(low, high, x25, y)} fill="var(--q2)" opacity="0.6" />
            <path
              d={bandPath(
                index.map(() => 1),
                index.map((v) => Math.max(1, v)),
                x25,
                y,
              )}
              fill="var(--q4)"
              opacity="0.75"
            />
            <path
              d={bandPath(
                index.map((v) => Math.min(1, v)),
                index.map(() => 1),
                x25,
                y,
              )}
              fill="var(--q3)"
              opacity="0.4"
            />
            <path d={linePath(index, x25, y)} fill="none" stroke="var(--q5)" strokeWidth="1.8" className="mark" />
            <line x1={LEFT} x2={width - RIGHT} y1={y(1)} y2={y(1)} stroke="var(--ink)" strokeDasharray="1 3" />
            <text x={width - RIGHT + 4} y={y(1) + 4} fontSize="11.5" fill="var(--muted)">
              1.00
            </text>
          </>
        )}
        {presence.length > 0 && (
          <path
            d={linePath(presence, x25, (p) => base - p * (base - 6))}
            fill="none"
            stroke="var(--against)"
            strokeWidth="1.3"
            strokeDasharray="3 2.5"
          />
        )}
        <line x1={LEFT} x2={width - RIGHT} y1={base} y2={base} stroke="var(--rule-strong)" />
        {week.ticks
          .filter((tick) => Math.floor(tick.hour / 24) === day)
          .map((tick) => (
            <line
              key={tick.id}
              x1={x(tick.hour % 24)}
              x2={x(tick.hour % 24)}
              y1={base + 1}
              y2={base + 7}
              stroke={week.profile.is_own ? "var(--berry)" : "var(--tick)"}
              strokeWidth="1.2"
              opacity="0.8"
            />
          ))}
        {week.proposals
          .filter((slot) => Math.floor(slot.hour / 24) === day)
          .map((slot) => (
            <g key={slot.at}>
              <line
                x1={x(slot.hour % 24)}
                x2={x(slot.hour % 24)}
                y1="3"
                y2={base}
                stroke="var(--ink)"
                strokeWidth="1.2"
              />
              <path d={`M${x(slot.hour % 24)} 3h15l-4 4.5 4 4.5h-15z`} fill="var(--ink)" stroke="var(--paper)" />
            </g>
          ))}
        {at !== null && <line x1={x(at)} x2={x(at)} y1="0" y2={base + 8} stroke="var(--berry)" strokeWidth="1.4" />}
      </svg>
      {at !== null && (
        <div
          className="pointer-events-none absolute z-10 whitespace-nowrap bg-shell px-2 py-1 text-[12.5px] text-shell-ink"
          // To the side where the day is longer: the words are about half as long as the strip.
          style={{ top: -4, ...(at < 12 ? { left: x(at) + 8 } : { right: width - x(at) + 8 }) }}
        >
          {say(at)}
          {canChange && <span className="text-shell-muted"> · click to draft</span>}
        </div>
      )}
    </div>
  );
}
