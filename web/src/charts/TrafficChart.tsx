import { useId, useState } from "react";
import { useNavigate } from "react-router";
import { type Day, shortDay, WEEKDAYS, weekday } from "../lib/days";
import { figure, plural, short } from "../lib/format";
import { useSize } from "../lib/useSize";
import { labelEvery, valueScale } from "./ticks";

export type PostMark = { id: number; day: Day; size: number; clicks: number | null; text: string };
type Props = {
  days: Day[];
  clicks: number[];
  posts: PostMark[];
  hrefOf: (id: number) => string;
  height?: number;
};
const LEFT = 46;
const RIGHT = 8;
const BOTTOM = 24;
const POSTS = 74;
/** Pixels beside a post's mark that still mean it. */
const NEAR = 8;

/** Clicks by day as an area; above it the posts of each day, their height by interactions, their ink by clicks. */
export function TrafficChart({ days, clicks, posts, hrefOf, height = 280 }: Props) {
  const id = useId();
  const navigate = useNavigate();
  const [measure, { width }] = useSize<HTMLDivElement>();
  const [at, setAt] = useState<number | null>(null);
  const tall = height - POSTS - BOTTOM;
  const y = valueScale(clicks, tall);
  const Y = (v: number) => POSTS + y(v);
  const inner = Math.max(10, width - LEFT - RIGHT);
  const step = inner / Math.max(1, days.length);
  const x = (i: number) => LEFT + step * (i + 0.5);
  const every = labelEvery(days.length, inner, 58);
  const largest = Math.max(1, ...posts.map((p) => p.size));
  const most = Math.max(1, ...posts.map((p) => p.clicks ?? 0));
  const ofDay = (day: Day) => posts.filter((p) => p.day === day);
  const marks = days.flatMap((day, i) =>
    ofDay(day).map((post, n, all) => ({
      post,
      place: x(i) + (n - (all.length - 1) / 2) * Math.min(5, (step * 0.8) / all.length),
      tallness: 4 + (POSTS - 22) * (post.size / largest),
    })),
  );
  const text = (i: number) => {
    const day = days[i] as Day;
    const many = ofDay(day);
    const reported = many.reduce((sum, p) => sum + (p.clicks ?? 0), 0);
    return `${WEEKDAYS[weekday(day) - 1]} ${shortDay(day)}: ${plural(clicks[i] ?? 0, "click")}; ${plural(many.length, "post")}${many.length ? `, ${figure(reported)} clicks as the networks report` : ""}`;
  };
  const area = clicks.length
    ? `M${x(0)} ${Y(0)}${clicks.map((v, i) => `L${x(i).toFixed(1)} ${Y(v).toFixed(1)}`).join("")}L${x(clicks.length - 1)} ${Y(0)}Z`
    : "";
  return (
    <div ref={measure} className="relative" style={{ height }}>
      {width > 0 && (
        <svg
          width={width}
          height={height}
          role="img"
          tabIndex={0}
          aria-label={`Clicks by day, with ${plural(posts.length, "post")}`}
          aria-describedby={`${id}-said`}
          className="block"
          onKeyDown={(event) => {
            const by = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
            if (by !== undefined) {
              event.preventDefault();
              setAt((old) => Math.max(0, Math.min(days.length - 1, (old ?? (by < 0 ? days.length : -1)) + by)));
            }
            const largestOfDay = at === null ? undefined : ofDay(days[at] as Day).sort((a, b) => b.size - a.size)[0];
            if (event.key === "Enter" && largestOfDay) navigate(hrefOf(largestOfDay.id));
          }}
          onBlur={() => setAt(null)}
          onPointerMove={(event) => {
            const i = Math.floor((event.clientX - event.currentTarget.getBoundingClientRect().left - LEFT) / step);
            setAt(i >= 0 && i < days.length ? i : null);
          }}
          onPointerLeave={() => setAt(null)}
          onClick={(event) => {
            const box = event.currentTarget.getBoundingClientRect();
            if (event.clientY - box.top > POSTS) return;
            const near = marks
              .map((mark) => ({ mark, far: Math.abs(mark.place - (event.clientX - box.left)) }))
              .sort((one, other) => one.far - other.far)[0];
            if (near && near.far <= NEAR) navigate(hrefOf(near.mark.post.id));
          }}
        >
          {y.ticks(4).map((tick) => (
            <g key={tick}>
              <line x1={LEFT} x2={width - RIGHT} y1={Y(tick)} y2={Y(tick)} stroke="var(--rule)" />
              <text x={LEFT - 7} y={Y(tick) + 4} textAnchor="end" fontSize="12" fill="var(--muted)">
                {short(tick)}
              </text>
            </g>
          ))}
          <path d={area} fill="var(--wash)" stroke="var(--berry)" strokeWidth="1.8" />
          <line x1={LEFT} x2={width - RIGHT} y1={POSTS - 6} y2={POSTS - 6} stroke="var(--rule-strong)" />
          {marks.map(({ post, place, tallness }) => {
            const strength = post.clicks === null ? 0 : 0.18 + 0.82 * Math.sqrt(post.clicks / most);
            return (
              <rect
                key={post.id}
                x={place - 1.75}
                y={POSTS - 6 - tallness}
                width="3.5"
                height={tallness}
                fill={post.clicks === null ? "var(--paper)" : "var(--ink)"}
                fillOpacity={post.clicks === null ? 1 : strength}
                stroke="var(--tick)"
                strokeWidth="0.8"
              >
                <title>{`${post.text.slice(0, 80)}: ${post.clicks === null ? "no clicks reported" : plural(Math.round(post.clicks), "click")}`}</title>
              </rect>
            );
          })}
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
              y1="0"
              y2={POSTS + tall}
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
            : "pointer-events-none absolute top-[80px] z-10 bg-shell px-2 py-1 text-[12.5px] text-shell-ink"
        }
        style={at === null ? undefined : { left: Math.min(Math.max(LEFT, x(at) - 120), Math.max(LEFT, width - 340)) }}
      >
        {at === null ? "" : text(at)}
      </output>
    </div>
  );
}
