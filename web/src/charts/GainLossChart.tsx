import { type Day, shortDay, WEEKDAYS, weekday } from "../lib/days";
import { figure, short } from "../lib/format";
import { BOTTOM, DayFrame, Grid } from "./DayFrame";
import { linePath, valueScale } from "./ticks";

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
const TOP = 10;

/** Followers gained above the line, lost below it, the net as a line; each may be left out. Arrow keys read it. */
export function GainLossChart({ days, gained, lost, net, gains = [], losses = [], onDay, height = 300 }: Props) {
  const below = lost?.map((v) => (v === null ? null : -v)) ?? [];
  const y = valueScale([...(gained ?? []), ...below, ...(net ?? [])], height - TOP - BOTTOM);
  const Y = (v: number) => TOP + y(v);
  const textOf = (i: number) => {
    const day = days[i] as Day;
    const parts = [
      gained && `${figure(gained[i])} gained`,
      lost && `${figure(lost[i])} lost`,
      net && `${figure(net[i])} net`,
    ];
    const stands = gains.includes(day) || losses.includes(day) ? "; stands out" : "";
    return `${WEEKDAYS[weekday(day) - 1]} ${shortDay(day)}: ${parts.filter(Boolean).join(", ")}${stands}`;
  };
  return (
    <DayFrame days={days} height={height} label="Followers gained and lost by day" textOf={textOf} onDay={onDay}>
      {({ x, step, width }) => (
        <>
          <Grid ticks={y.ticks(5)} Y={Y} width={width} text={(v) => short(v)} />
          {days.map((day, i) => {
            const up = gained?.[i];
            const down = lost?.[i];
            const left = x(i) - step * 0.34;
            return (
              <g key={day}>
                {up ? <rect x={left} width={step * 0.68} y={Y(up)} height={Y(0) - Y(up)} fill="var(--tick)" /> : null}
                {down ? (
                  <rect
                    x={left}
                    width={step * 0.68}
                    y={Y(0)}
                    height={Y(-down) - Y(0)}
                    fill="var(--paper)"
                    stroke="var(--down)"
                    strokeWidth="1.2"
                  />
                ) : null}
                {up && gains.includes(day) ? (
                  <path d={`M${x(i) - 4.5} ${Math.max(1, Y(up) - 10)}h9l-4.5 6z`} fill="var(--ink)" />
                ) : null}
                {down && losses.includes(day) ? (
                  <path
                    d={`M${x(i) - 4.5} ${Math.min(height - BOTTOM - 1, Y(-down) + 10)}h9l-4.5-6z`}
                    fill="var(--ink)"
                  />
                ) : null}
              </g>
            );
          })}
          {net && (
            <path d={linePath(net, x, Y)} fill="none" stroke="var(--berry)" strokeWidth="2.2" strokeLinejoin="round" />
          )}
        </>
      )}
    </DayFrame>
  );
}
