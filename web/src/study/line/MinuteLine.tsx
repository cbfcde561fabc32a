import { ChevronLeft, ChevronRight, ZoomIn, ZoomOut } from "lucide-react";
import { useMemo, useState } from "react";
import { useLocation, useNavigate } from "react-router";
import type { Schemas } from "../../api/client";
import { addDays, DAY_MS, dayOf, lastOfMonth, monthName, shortDay, spanText, startOf } from "../../lib/days";
import { figure, plural } from "../../lib/format";
import { useSize } from "../../lib/useSize";
import { useBrand } from "../brand";
import { useLine, usePlannedAhead } from "../queries";
import { comparedSpan, useStudy } from "../study";
import {
  edges,
  farSpan,
  labelPlaces,
  lengthOf,
  months,
  nearest,
  postsBeyond,
  toInstant,
  toX,
  viewWith,
  ZOOMS,
} from "./geometry";
import { useBrush } from "./useBrush";

const TOP = 26;
/** Room of the axis below the ticks. */
const AXIS = 22;
/** Below this width the line is shorter, so that more of the page is left for what it is about. */
const SMALL = 700;
/** Room that a letter of a label takes at most. */
const LETTER = 7.2;
/** Room that the zoom buttons take at the right. */
const CONTROLS = 112;
/** Half the width of a handle's reach, and the height of the bar that moves the whole period. */
const GRIP = 11;
const BAR = 8;
/** Room of the word "now". */
const NOW = 34;

type LinePost = Schemas["LinePost"];

/** What a tick says: the post, or how many posts of a day it stands for and how they did. */
function tickText(tick: LinePost, zone: string): string {
  const day = shortDay(dayOf(tick.at, zone));
  if (tick.id !== null) return `${day}: ${tick.text || "no text"}`;
  const mean = tick.interactions === null ? "" : `, ${figure(tick.interactions)} interactions each`;
  return `${day}: ${plural(tick.posts, "post")}${mean}`;
}

function tickPath(posts: { x: number; height: number }[], scale: number, base: number): string {
  return posts.map((p) => `M${p.x.toFixed(1)} ${base}v${-Math.max(2.5, p.height * scale).toFixed(1)}`).join("");
}

/** The time axis on top of every screen: posts as ticks, the period as a brush, what is planned to the right of now. */
export function MinuteLine({ turned = "past", hasBrush = true }: { turned?: "past" | "future"; hasBrush?: boolean }) {
  const { brand, now, today } = useBrand();
  const zone = brand.time_zone;
  const { study, change } = useStudy();
  const planned = usePlannedAhead(brand.slug, today, addDays(today, 90));
  const [measure, { width }] = useSize<HTMLDivElement>();
  const TICKS = width > 0 && width < SMALL ? 28 : 48;
  const BASE = TOP + TICKS;
  const HEIGHT = BASE + AXIS;
  const [zoom, setZoom] = useState<(typeof ZOOMS)[number]>(turned === "future" ? ZOOMS[2] : ZOOMS[0]);
  const [pan, setPan] = useState(0);
  const [hovered, setHovered] = useState(-1);
  const navigate = useNavigate();
  const { search } = useLocation();
  const { first, last } = study;
  const view = useMemo(() => {
    const period = hasBrush ? { begin: startOf(first, zone), end: startOf(addDays(last, 1), zone) } : null;
    return viewWith(now.getTime(), zoom.days, turned, pan, period);
  }, [now, zoom, turned, pan, hasBrush, first, last, zone]);
  const far = farSpan(view, now.getTime(), zone);
  const line = useLine(brand.slug, far);
  // As far back as there are posts, and some months at least.
  const firstMonth = line.data?.months[0]?.month;
  const earliest = Math.min(
    now.getTime() - 300 * DAY_MS,
    firstMonth ? startOf(firstMonth, zone) : Number.POSITIVE_INFINITY,
  );
  const beyond = useMemo(() => postsBeyond(line.data?.months ?? [], view, zone), [line.data, view, zone]);
  const brush = useBrush({ span: study, view, width, onChange: (span) => change(span, true) });
  const span = brush.span;
  const against = comparedSpan({ ...span, compare: study.compare });

  const posts = useMemo(
    () => (line.data?.posts ?? []).map((p: LinePost) => ({ ...p, x: toX(Date.parse(p.at), view, width) })),
    [line.data, view, width],
  );
  const shownPosts = posts.reduce((sum, tick) => sum + tick.posts, 0);
  const xs = useMemo(() => posts.map((p) => p.x), [posts]);
  const scale = useMemo(() => {
    const heights = posts.map((p) => p.height).sort((a, b) => a - b);
    return TICKS / (heights[Math.floor(heights.length * 0.995)] || 1);
  }, [posts, TICKS]);
  const own = edges(span, view, width, zone);
  const other = edges(against, view, width, zone);
  const within = (p: { x: number }, [a, b]: [number, number]) => hasBrush && p.x >= a && p.x < b;
  const ownText = `${spanText(span.first, span.last)} · ${plural(lengthOf(span), "day")}`;
  const otherText = `against ${spanText(against.first, against.last)}`;
  const places = labelPlaces(own, other, ownText.length * LETTER, otherText.length * LETTER, width - CONTROLS);
  const ticks = months(view, width, zone);
  const widest = Math.max(...ticks.map((m) => monthName(m.day).length)) * LETTER + 8;
  const every = Math.max(1, Math.ceil(widest / (width / Math.max(1, ticks.length))));
  const nowX = toX(now.getTime(), view, width);
  const shown = hovered >= 0 ? posts[hovered] : undefined;
  /** The period's handles and its bar are to be dragged: what lies under them is not opened. */
  const isOnGrip = (x: number, y: number) =>
    hasBrush &&
    (Math.abs(x - own[0]) <= GRIP || Math.abs(x - own[1]) <= GRIP || (y < TOP + BAR && x > own[0] && x < own[1]));
  const open = (tick: LinePost) => {
    const day = dayOf(tick.at, zone);
    const asked = new URLSearchParams(search);
    asked.set("first", day);
    asked.set("last", day);
    if (tick.id === null) navigate(`/${brand.slug}/results/posts?${asked}`);
    else navigate(`/${brand.slug}/results/posts/${tick.id}${search}`);
  };
  const walk = (event: React.KeyboardEvent) => {
    const from = hovered >= 0 ? hovered : posts.length;
    const next = { ArrowLeft: from - 1, ArrowRight: from + 1, Home: 0, End: posts.length - 1 }[event.key];
    if (event.key === "Enter" && shown) open(shown);
    if (next === undefined) return;
    event.preventDefault();
    setHovered(Math.max(0, Math.min(posts.length - 1, next)));
  };
  const capped = (p: { x: number; height: number }) => ({ x: p.x, height: Math.min(p.height, TICKS / scale) });

  return (
    <section
      aria-label="Minute line"
      className="relative border-b border-rule-strong bg-panel select-none"
      style={{ height: HEIGHT }}
    >
      <div ref={measure} className="absolute inset-0">
        {width > 0 && (
          <svg
            width={width}
            height={HEIGHT}
            className="block touch-none"
            role="group"
            aria-label={`${plural(shownPosts, "post")} ${far ? `from ${spanText(far.first, far.last)}` : "in half a year"}`}
            onPointerMove={(event) => {
              const box = event.currentTarget.getBoundingClientRect();
              const y = event.clientY - box.top;
              const x = event.clientX - box.left;
              const isOut = brush.isDragging || y < TOP - 2 || y > BASE + 2;
              setHovered(isOut || isOnGrip(x, y) ? -1 : nearest(xs, x));
            }}
            onPointerLeave={() => setHovered(-1)}
            onDoubleClick={(event) => {
              const box = event.currentTarget.getBoundingClientRect();
              const day = dayOf(toInstant(event.clientX - box.left, view, width), zone);
              const first = `${day.slice(0, 7)}-01`;
              const end = lastOfMonth(first);
              if (hasBrush) change({ first, last: end > today ? today : end });
            }}
          >
            <defs>
              <pattern id="against" width="6" height="6" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
                <line x1="0" y1="0" x2="0" y2="6" stroke="var(--against)" strokeWidth="1" opacity="0.35" />
              </pattern>
              <pattern id="hole" width="4" height="4" patternUnits="userSpaceOnUse" patternTransform="rotate(-45)">
                <line x1="0" y1="0" x2="0" y2="4" stroke="var(--down)" strokeWidth="1.4" />
              </pattern>
            </defs>
            <rect x={Math.max(0, nowX)} y={TOP} width={Math.max(0, width - nowX)} height={TICKS} fill="var(--paper)" />
            {hasBrush && (
              <g>
                <rect
                  x={other[0]}
                  y={TOP}
                  width={Math.max(0, other[1] - other[0])}
                  height={TICKS}
                  fill="url(#against)"
                />
                <path
                  d={`M${other[0]} ${BASE}V${TOP}H${other[1]}V${BASE}`}
                  fill="none"
                  stroke="var(--against)"
                  strokeDasharray="2 2.5"
                />
                <rect x={own[0]} y={TOP} width={Math.max(0, own[1] - own[0])} height={TICKS} fill="var(--wash)" />
              </g>
            )}
            {line.data?.holes.map((day) => {
              const [a, b] = edges({ first: day, last: day }, view, width, zone);
              return (
                <rect key={day} x={a} y={BASE - 7} width={Math.max(2, b - a)} height="7" fill="url(#hole)">
                  <title>{`No data of a profile on ${shortDay(day)}`}</title>
                </rect>
              );
            })}
            <path
              d={tickPath(posts.filter((p) => !within(p, own) && !within(p, other)).map(capped), scale, BASE)}
              stroke="var(--tick)"
              strokeWidth="1.4"
              className="mark"
            />
            <path
              d={tickPath(posts.filter((p) => within(p, other) && !within(p, own)).map(capped), scale, BASE)}
              stroke="var(--against)"
              strokeWidth="1.4"
              className="mark"
            />
            <path
              d={tickPath(posts.filter((p) => within(p, own)).map(capped), scale, BASE)}
              stroke="var(--berry)"
              strokeWidth="1.6"
              className="mark"
            />
            {planned.data?.planned.map((p) => {
              if (!p.at || p.state === "published") return null;
              const x = toX(Date.parse(p.at), view, width);
              return (
                // biome-ignore lint/a11y/noStaticElementInteractions: the calendar below offers the same by keyboard
                <rect
                  key={p.id}
                  x={x - 2.5}
                  y={BASE - 20}
                  width="5"
                  height="20"
                  fill="var(--panel)"
                  stroke={p.state === "failed" || p.state === "missed" ? "var(--down)" : "var(--ink)"}
                  className="cursor-pointer"
                  onClick={() => navigate(`/${brand.slug}/plan/${p.id}`)}
                >
                  <title>{`Planned: ${p.title || p.text.slice(0, 60) || "untitled"}`}</title>
                </rect>
              );
            })}
            <line x1="0" x2={width} y1={BASE} y2={BASE} stroke="var(--rule-strong)" />
            {line.data?.campaigns.map((c, i) => {
              const [a, b] = edges({ first: c.first_day, last: c.last_day }, view, width, zone);
              return (
                <rect
                  key={c.name}
                  x={a}
                  y={BASE + 1 + (i % 2) * 3}
                  width={Math.max(2, b - a)}
                  height="2"
                  fill={`var(--tag-${c.colour}, var(--muted))`}
                  opacity={0.8}
                >
                  <title>{`Campaign ${c.name}, ${spanText(c.first_day, c.last_day)}`}</title>
                </rect>
              );
            })}
            {line.data?.targets.map((t) => {
              const [, b] = edges({ first: t.by, last: t.by }, view, width, zone);
              // What lies beyond the line stands at its end.
              const x = Math.min(width - 2, b);
              return (
                <path
                  key={`${t.name} ${t.by}`}
                  d={`M${x} ${BASE}V${TOP + 2}h-9l2 3.5-2 3.5h9`}
                  fill="var(--wash)"
                  stroke="var(--berry)"
                >
                  <title>{`Aimed at: ${t.name} ${figure(t.value, t.unit)} by ${shortDay(t.by)}`}</title>
                </path>
              );
            })}
            {ticks.map((m, i) => (
              <g key={m.day}>
                <line x1={m.x} x2={m.x} y1={BASE} y2={HEIGHT} stroke="var(--rule)" />
                {i % every === 0 && !(m.x < nowX + NOW && m.x + widest > nowX - (nowX + NOW > width ? NOW : 0)) && (
                  <text x={m.x + 4} y={HEIGHT - 5} fontSize="12" fill="var(--muted)">
                    {monthName(m.day)}
                  </text>
                )}
              </g>
            ))}
            <g aria-hidden="true">
              <line x1={nowX} x2={nowX} y1={TOP - 4} y2={HEIGHT} stroke="var(--ink)" />
              <text
                x={nowX + NOW > width ? nowX - 4 : nowX + 4}
                textAnchor={nowX + NOW > width ? "end" : "start"}
                y={HEIGHT - 5}
                fontSize="12"
                fontWeight="600"
                fill="var(--ink)"
                stroke="var(--panel)"
                strokeWidth="4"
                paintOrder="stroke"
              >
                now
              </text>
            </g>
            {hasBrush && (
              <g>
                <rect
                  x={own[0]}
                  y={TOP}
                  width={Math.max(0, own[1] - own[0])}
                  height={BAR}
                  fill="transparent"
                  {...brush.grip("whole", `Period, ${spanText(span.first, span.last)}`)}
                  className="cursor-grab"
                />
                <path d={`M${own[0]} ${TOP}H${own[1]}`} stroke="var(--berry)" strokeWidth="3" pointerEvents="none" />
                {(["first", "last"] as const).map((side) => {
                  const x = side === "first" ? own[0] : own[1];
                  return (
                    <g
                      key={side}
                      {...brush.grip(
                        side,
                        side === "first" ? `Period begins ${span.first}` : `Period ends ${span.last}`,
                      )}
                      className="cursor-ew-resize"
                    >
                      <rect x={x - GRIP} y={TOP - 2} width={2 * GRIP} height={TICKS + 4} fill="transparent" />
                      <rect x={x - 4.5} y={TOP - 2} width="9" height={TICKS + 4} rx="4.5" fill="var(--berry)" />
                      <path d={`M${x - 1.5} ${TOP + 18}v12M${x + 1.5} ${TOP + 18}v12`} stroke="var(--on-berry)" />
                    </g>
                  );
                })}
                <text x={places.own} y={15} fontSize="13" fontWeight="600" fill="var(--berry)">
                  {ownText}
                </text>
                {places.other !== null && (
                  <text x={places.other} y={15} fontSize="12.5" fontWeight="600" fill="var(--against-ink)">
                    {otherText}
                  </text>
                )}
              </g>
            )}
            {posts.length > 0 && (
              <rect
                x="0"
                y={BASE - 2}
                width={width}
                height="4"
                fill="transparent"
                tabIndex={0}
                role="slider"
                aria-label="Posts on the line: arrow keys walk, Enter opens"
                aria-valuemin={0}
                aria-valuemax={posts.length}
                aria-valuenow={hovered + 1}
                aria-valuetext={shown ? tickText(shown, zone) : "none chosen"}
                onKeyDown={walk}
                onBlur={() => setHovered(-1)}
              />
            )}
            {shown && (
              // biome-ignore lint/a11y/noStaticElementInteractions: every post is also in the table of posts
              <g className="cursor-pointer" onClick={() => open(shown)}>
                <rect x={shown.x - 5} y={TOP} width="10" height={TICKS} fill="transparent" />
                <line
                  x1={shown.x}
                  x2={shown.x}
                  y1={BASE}
                  y2={BASE - Math.max(4, Math.min(TICKS, shown.height * scale))}
                  stroke="var(--ink)"
                  strokeWidth="3"
                />
              </g>
            )}
          </svg>
        )}
      </div>
      {shown && (
        <div
          className="pointer-events-none absolute z-20 max-w-80 truncate bg-shell px-2 py-1 text-[12.5px] text-shell-ink"
          style={{ left: Math.max(4, Math.min(shown.x + 8, width - 330)), top: BASE + 2 }}
        >
          {tickText(shown, zone)}
        </div>
      )}
      {(["before", "after"] as const).map((side) => {
        const there = beyond[side];
        if (!there || width === 0) return null;
        const centre = (view.from + view.to) / 2;
        const where = side === "before" ? "earlier" : "later";
        const far = `, ${side === "before" ? "from" : "up to"} ${monthName(there.far)}`;
        const words = width < SMALL ? `${there.posts} ${where}` : `${plural(there.posts, "post")} ${where}${far}`;
        return (
          <button
            key={side}
            type="button"
            title={`Go to ${monthName(there.nearest)}${far}`}
            className={`absolute bottom-0 flex h-6 items-center bg-panel px-1 text-[12px] text-muted hover:text-ink ${side === "before" ? "left-0" : "right-0"}`}
            onClick={() =>
              setPan((d) => d + Math.round((startOf(there.nearest, zone) + 15 * DAY_MS - centre) / DAY_MS))
            }
          >
            {side === "before" && <ChevronLeft size={12} aria-hidden="true" />}
            {words}
            {side === "after" && <ChevronRight size={12} aria-hidden="true" />}
          </button>
        );
      })}
      <div className="absolute right-2 top-0.5 flex items-center gap-1 bg-panel/80 pl-2 text-[12.5px] text-muted">
        <button
          type="button"
          aria-label="Earlier"
          className="p-1 hover:text-ink"
          onClick={() => view.from > earliest && setPan((d) => d - zoom.days / 4)}
        >
          <ChevronLeft size={14} />
        </button>
        {(["more", "less"] as const).map((way) => {
          const next = ZOOMS[ZOOMS.indexOf(zoom) + (way === "more" ? -1 : 1)];
          return (
            <button
              key={way}
              type="button"
              aria-label={way === "more" ? "Show more time" : "Show less time"}
              title={next ? `Show ${next.label} at a time` : undefined}
              disabled={!next}
              className="p-1 hover:text-ink disabled:opacity-40"
              onClick={() => next && setZoom(next)}
            >
              {way === "more" ? <ZoomOut size={14} /> : <ZoomIn size={14} />}
            </button>
          );
        })}
        <button
          type="button"
          aria-label="Later"
          className="p-1 hover:text-ink"
          onClick={() => view.to < now.getTime() + 120 * DAY_MS && setPan((d) => d + zoom.days / 4)}
        >
          <ChevronRight size={14} />
        </button>
      </div>
    </section>
  );
}
