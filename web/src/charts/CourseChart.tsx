import { type Day, shortDay, WEEKDAYS, weekday } from "../lib/days";
import { figure, short, type Unit } from "../lib/format";
import { BOTTOM, DayFrame, type Days, Grid } from "./DayFrame";
import { bandPath, linePath, valueScale } from "./ticks";

type Course = (number | null)[];
type Props = {
  label: string;
  unit: Unit;
  days: Day[];
  now: Course;
  before?: Course;
  daysBefore?: Day[];
  posts?: Course;
  height?: number;
  form?: "line" | "bar";
  /** Days that stand out, with their robust z: marked, and said aloud. */
  spikes?: { day: Day; z: number | null; by?: "total" | "post" }[];
  /** Days that are over; what comes after them is drawn apart. */
  whole?: number;
  isSmall?: boolean;
  onDay?: (day: Day) => void;
};

const TOP = 8;

/** A metric by day: ours solid, the comparison dashed, posts as short marks on the base line. Arrow keys read it. */
export function CourseChart(props: Props) {
  const { label, unit, days, now, before = [], daysBefore = [], posts = [], height = 240, form = "line" } = props;
  const { spikes = [], whole = days.length, isSmall = false, onDay } = props;
  const tall = height - TOP - BOTTOM;
  const y = valueScale([...now, ...before], tall);
  const Y = (v: number) => TOP + y(v);
  // What stands out by a post stands out upwards, whatever its total.
  const marked = new Map(spikes.map((s) => [s.day, s.by === "post" ? 1 : (s.z ?? 1)]));
  const textOf = (i: number) => {
    const day = days[i] as Day;
    const other =
      before[i] === undefined || !daysBefore[i]
        ? ""
        : `; ${figure(before[i], unit)} on ${shortDay(daysBefore[i] as Day)}`;
    const z = marked.get(day);
    const stands = z === undefined ? "" : z > 0 ? "; stands out, Enter shows why" : "; falls away, Enter shows why";
    const many = posts[i] ? `; ${posts[i]} ${posts[i] === 1 ? "post" : "posts"}` : "";
    const soFar = whole > 0 && i >= whole && now[i] !== null ? " so far" : "";
    return `${WEEKDAYS[weekday(day) - 1]} ${shortDay(day)}: ${figure(now[i], unit)}${soFar}${other}${many}${stands}`;
  };
  return (
    <DayFrame
      days={days}
      height={height}
      label={`${label} by day`}
      textOf={textOf}
      onDay={onDay}
      labelWidth={isSmall ? 90 : undefined}
    >
      {(place, at) => (
        <>
          <Grid ticks={y.ticks(isSmall ? 2 : 4)} Y={Y} width={place.width} text={(v) => short(v, unit)} />
          {form === "bar" ? (
            <Bars {...{ days, now, before, whole, Y, place }} />
          ) : (
            <Lines {...{ days, now, before, whole, Y, place }} />
          )}
          {posts.map((count, i) =>
            count ? (
              <path
                key={days[i]}
                d={`M${place.x(i)} ${TOP + tall}v${-3 - 2 * Math.min(4, count)}`}
                stroke="var(--ink)"
                strokeWidth="1.2"
              />
            ) : null,
          )}
          {days.map((day, i) => {
            const z = marked.get(day);
            const value = now[i];
            if (z === undefined || value === null || value === undefined) return null;
            const edge = z > 0 ? Math.max(TOP + 7, Y(value) - 6) : Math.min(TOP + tall - 2, Y(value) + 6);
            const left = place.x(i) - 4.5;
            return (
              <path
                key={day}
                d={z > 0 ? `M${left} ${edge - 6}h9l-4.5 6z` : `M${left} ${edge + 6}h9l-4.5-6z`}
                fill="var(--ink)"
                stroke="var(--paper)"
              />
            );
          })}
          {at !== null && now[at] !== null && now[at] !== undefined && (
            <circle
              cx={place.x(at)}
              cy={Y(now[at] as number)}
              r="3.5"
              fill="var(--berry)"
              stroke="var(--paper)"
              strokeWidth="1.5"
              pointerEvents="none"
            />
          )}
        </>
      )}
    </DayFrame>
  );
}

type Drawn = { days: Day[]; now: Course; before: Course; whole: number; Y: (v: number) => number; place: Days };

function Bars({ days, now, before, whole, Y, place: { x, step } }: Drawn) {
  return (
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
            opacity={i < whole ? 0.85 : 0.4}
          />
        ),
      )}
    </>
  );
}

function Lines({ days, now, before, whole, Y, place: { x } }: Drawn) {
  // Half a day is no fall: the line ends with the last whole one, today so far is a ring beside it.
  const over = now.map((value, i) => (i < whole || whole === 0 ? value : null));
  return (
    <>
      <path d={bandPath(before, over, x, Y)} fill="var(--wash)" opacity="0.75" />
      <path
        d={linePath(before, x, Y)}
        fill="none"
        stroke="var(--against)"
        strokeWidth="1.5"
        strokeDasharray="4 3"
        className="mark"
      />
      <path
        d={linePath(over, x, Y)}
        fill="none"
        stroke="var(--berry)"
        strokeWidth="2.2"
        strokeLinejoin="round"
        className="mark"
      />
      {now.map((value, i) =>
        value === null ? null : over[i] === null ? (
          <circle
            key={days[i]}
            cx={x(i)}
            cy={Y(value)}
            r="3"
            fill="var(--paper)"
            stroke="var(--berry)"
            strokeWidth="1.5"
          />
        ) : over[i - 1] == null && over[i + 1] == null ? (
          <circle key={days[i]} cx={x(i)} cy={Y(value)} r="2.5" fill="var(--berry)" />
        ) : null,
      )}
    </>
  );
}
