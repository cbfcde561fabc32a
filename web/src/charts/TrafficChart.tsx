import { useNavigate } from "react-router";
import { type Day, shortDay, WEEKDAYS, weekday } from "../lib/days";
import { figure, plural, short } from "../lib/format";
import { BOTTOM, DayFrame, type Days, Grid, LEFT, RIGHT } from "./DayFrame";
import { valueScale } from "./ticks";

export type PostMark = { id: number; day: Day; size: number; clicks: number | null; text: string };
type Props = {
  days: Day[];
  clicks: number[];
  /** Visits by day, where the site is counted. */
  visits?: number[];
  /** Days whose clicks stand out, with their robust z. */
  spikes?: { day: Day; z: number | null }[];
  posts: PostMark[];
  hrefOf: (id: number) => string;
  onDay?: (day: Day) => void;
  height?: number;
};
const POSTS = 74;
/** Pixels beside a post's mark that still mean it. */
const NEAR = 8;

/** Clicks by day as an area; above it the posts of each day, their height by interactions, their ink by clicks. */
export function TrafficChart(props: Props) {
  const { days, clicks, visits = [], spikes = [], posts, hrefOf, onDay, height = 280 } = props;
  const navigate = useNavigate();
  const y = valueScale([...clicks, ...visits], height - POSTS - BOTTOM);
  const Y = (v: number) => POSTS + y(v);
  const largest = Math.max(1, ...posts.map((p) => p.size));
  const most = Math.max(1, ...posts.map((p) => p.clicks ?? 0));
  const ofDay = (day: Day) => posts.filter((p) => p.day === day);
  const marksAt = ({ x, step }: Days) =>
    days.flatMap((day, i) =>
      ofDay(day).map((post, n, all) => ({
        post,
        place: x(i) + (n - (all.length - 1) / 2) * Math.min(5, (step * 0.8) / all.length),
        tallness: 4 + (POSTS - 22) * (post.size / largest),
      })),
    );
  let drawn: ReturnType<typeof marksAt> = [];
  let drawnStep = 1;
  const textOf = (i: number) => {
    const day = days[i] as Day;
    const many = ofDay(day);
    const reported = many.reduce((sum, p) => sum + (p.clicks ?? 0), 0);
    const told = many.length ? `, ${figure(reported)} clicks as the networks report` : "";
    const arrived = visits.length ? `, ${plural(visits[i] ?? 0, "visit")}` : "";
    const stands = spikes.some((s) => s.day === day) ? "; stands out" : "";
    return `${WEEKDAYS[weekday(day) - 1]} ${shortDay(day)}: ${plural(clicks[i] ?? 0, "click")}${arrived}${stands}; ${plural(many.length, "post")}${told}`;
  };
  const openLargest = (day: Day) => {
    const post = ofDay(day).sort((a, b) => b.size - a.size)[0];
    if (post) navigate(hrefOf(post.id));
  };
  const openNear = (x: number, top: number) => {
    if (top > POSTS) return false;
    const near = drawn
      .map((mark) => ({ mark, far: Math.abs(mark.place - x) }))
      .sort((one, other) => one.far - other.far)[0];
    if (!near || near.far > NEAR) return false;
    navigate(hrefOf(near.mark.post.id));
    return true;
  };
  return (
    <DayFrame
      days={days}
      height={height}
      label={`Clicks by day, with ${plural(posts.length, "post")}`}
      textOf={textOf}
      onDay={onDay ?? openLargest}
      onPoint={(px, top) => {
        if (openNear(px, top) || !onDay) return;
        const i = Math.floor((px - LEFT) / drawnStep);
        if (days[i]) onDay(days[i] as Day);
      }}
      saidAt={80}
    >
      {(place) => {
        const { x, width } = place;
        drawn = marksAt(place);
        drawnStep = place.step;
        const line = clicks.map((v, i) => `L${x(i).toFixed(1)} ${Y(v).toFixed(1)}`).join("");
        return (
          <>
            <Grid ticks={y.ticks(4)} Y={Y} width={width} text={(v) => short(v)} />
            {clicks.length > 0 && (
              <path
                d={`M${x(0)} ${Y(0)}${line}L${x(clicks.length - 1)} ${Y(0)}Z`}
                fill="var(--wash)"
                stroke="var(--berry)"
                strokeWidth="1.8"
              />
            )}
            {visits.length > 0 && (
              <path
                d={visits.map((v, i) => `${i ? "L" : "M"}${x(i).toFixed(1)} ${Y(v).toFixed(1)}`).join("")}
                fill="none"
                stroke="var(--ink)"
                strokeWidth="1.4"
                strokeDasharray="1 3"
                strokeLinecap="round"
              />
            )}
            {spikes.map(({ day, z }) => {
              const i = days.indexOf(day);
              if (i < 0) return null;
              const edge = Math.max(POSTS + 8, Y(clicks[i] ?? 0) - 5);
              return (
                <path key={day} d={`M${x(i) - 4.5} ${edge - 6}h9l-4.5 ${(z ?? 1) > 0 ? 6 : -6}z`} fill="var(--ink)" />
              );
            })}
            <line x1={LEFT} x2={width - RIGHT} y1={POSTS - 6} y2={POSTS - 6} stroke="var(--rule-strong)" />
            {drawn.map(({ post, place: middle, tallness }) => (
              <rect
                key={post.id}
                x={middle - 1.75}
                y={POSTS - 6 - tallness}
                width="3.5"
                height={tallness}
                fill={post.clicks === null ? "var(--paper)" : "var(--ink)"}
                fillOpacity={post.clicks === null ? 1 : 0.18 + 0.82 * Math.sqrt(post.clicks / most)}
                stroke="var(--tick)"
                strokeWidth="0.8"
              >
                <title>{`${post.text.slice(0, 80)}: ${post.clicks === null ? "no clicks reported" : plural(Math.round(post.clicks), "click")}`}</title>
              </rect>
            ))}
          </>
        );
      }}
    </DayFrame>
  );
}
