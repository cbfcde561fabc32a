import { bandPath, linePath } from "../../charts/ticks";
import { WEEKDAYS } from "../../lib/days";
import type { Week } from "./queries";

export const LEFT = 44;
export const RIGHT = 34;
const DASHES = ["1 2", "5 2 1 2", "1 4"];

export type Place = { x: (hour: number) => number; base: number; inner: number };

/** Where an hour of the day stands on a strip of a width and height. */
export function placeOn(width: number, height: number): Place {
  const inner = Math.max(10, width - LEFT - RIGHT);
  return { inner, base: height - 12, x: (hour) => LEFT + (hour / 24) * inner };
}

type Props = { week: Week; day: number; width: number; height: number; reach: number; isSmall?: boolean };

/** One day's marks: the index over its hours with its band, the audience's presence and its groups, posts, gaps, flags. */
export function DayDrawing({ week, day, width, height, reach, isSmall = false }: Props) {
  const { x, base } = placeOn(width, height);
  const middleY = base / 2 + 2;
  const y = (index: number) => middleY - Math.max(-1.08, Math.min(1.08, Math.log(index) / reach)) * (base / 2 - 3);
  // The hours' middles, and at both ends of the day the mean with the neighbouring day's hour.
  const x25 = (i: number) => x(i === 0 ? 0 : i === 25 ? 24 : i - 0.5);
  const slice = (values: readonly number[]) => {
    const of = (hour: number) => values[(hour + 168) % 168] ?? 1;
    const inside = Array.from({ length: 24 }, (_, hour) => of(day * 24 + hour));
    return [(of(day * 24 - 1) + of(day * 24)) / 2, ...inside, (of(day * 24 + 23) + of(day * 24 + 24)) / 2];
  };
  const index = week.hours.length ? slice(week.hours.map((h) => h.index)) : [];
  const low = week.hours.length ? slice(week.hours.map((h) => h.low80)) : [];
  const high = week.hours.length ? slice(week.hours.map((h) => h.high80)) : [];
  const there = (p: number) => base - p * (base - 6);
  const isOurs = week.chosen.some((profile) => profile.is_own);
  const onDay = <T extends { hour: number }>(items: readonly T[]) =>
    items.filter((item) => Math.floor(item.hour / 24) === day);
  return (
    <>
      <text x={4} y={base - 8} fontSize={isSmall ? "11.5" : "13"} fontWeight="600" fill="var(--ink)">
        {WEEKDAYS[day]}
      </text>
      {[6, 12, 18].map((hour) => (
        <line key={hour} x1={x(hour)} x2={x(hour)} y1="2" y2={base} stroke="var(--rule)" />
      ))}
      {week.missed
        .filter((gap) => Math.floor(gap.first / 24) === day)
        .map((gap) => (
          <path
            key={`m${gap.first}`}
            d={`M${x(gap.first % 24)} 8V3H${x((gap.first % 24) + gap.hours)}V8`}
            fill="none"
            stroke="var(--berry)"
            strokeWidth="1.6"
          />
        ))}
      {week.crowded
        .filter((gap) => Math.floor(gap.first / 24) === day)
        .map((gap) => (
          <rect
            key={`c${gap.first}`}
            x={x(gap.first % 24)}
            width={x(gap.hours) - x(0)}
            y="2"
            height={base - 2}
            fill="var(--against)"
            opacity="0.16"
          />
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
          {!isSmall && (
            <text x={width - RIGHT + 4} y={y(1) + 4} fontSize="11.5" fill="var(--muted)">
              1.00
            </text>
          )}
        </>
      )}
      {week.presence && (
        <path
          d={linePath(slice(week.presence), x25, there)}
          fill="none"
          stroke="var(--against)"
          strokeWidth="1.4"
          strokeDasharray="3 2.5"
        />
      )}
      {week.groups.length > 1 &&
        week.groups.map((group, i) => (
          <path
            key={group.zone}
            d={linePath(slice(group.presence), x25, there)}
            fill="none"
            stroke="var(--against)"
            strokeWidth="1"
            strokeDasharray={DASHES[i % DASHES.length]}
          />
        ))}
      <line x1={LEFT} x2={width - RIGHT} y1={base} y2={base} stroke="var(--rule-strong)" />
      {onDay(week.ticks).map((tick) => (
        <line
          key={tick.id}
          x1={x(tick.hour % 24)}
          x2={x(tick.hour % 24)}
          y1={base + 1}
          y2={base + 7}
          stroke={isOurs ? "var(--berry)" : "var(--tick)"}
          strokeWidth="1.2"
          opacity="0.8"
        />
      ))}
      {!isSmall &&
        onDay(week.free).map((slot) => (
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
    </>
  );
}

/** The whole week in one drawing, for a file; it is not shown on the screen. */
export function WeekDrawing({ week, width, height, reach }: Omit<Props, "day" | "isSmall">) {
  return (
    <svg width={width} height={7 * height + 20} role="img" aria-label="Index by hour, day by day">
      {[0, 1, 2, 3, 4, 5, 6].map((day) => (
        <g key={day} transform={`translate(0 ${day * height})`}>
          <DayDrawing week={week} day={day} width={width} height={height} reach={reach} />
        </g>
      ))}
      {[0, 3, 6, 9, 12, 15, 18, 21, 24].map((hour) => (
        <text
          key={hour}
          x={placeOn(width, height).x(hour)}
          y={7 * height + 13}
          fontSize="12"
          textAnchor="middle"
          fill="var(--muted)"
        >
          {String(hour).padStart(2, "0")}:00
        </text>
      ))}
    </svg>
  );
}
