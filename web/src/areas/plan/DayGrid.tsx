import { type DragEvent, type RefObject, useEffect, useMemo, useRef, useState } from "react";
import { Link, useNavigate } from "react-router";
import type { Schemas } from "../../api/client";
import { at, dayOf, shortDay, timeOf, WEEKDAYS, weekday } from "../../lib/days";
import { useBrand } from "../../study/brand";
import { useToast } from "../../ui/Toast";
import { filesIn, useBringing } from "../media";
import { type Expected, PlannedChip, PublishedChip } from "./Chips";
import { DayHead } from "./DayHead";
import type { Entry, Out } from "./queries";
import { onDay, place } from "./rules";
import type { Moving } from "./useMoving";

const HOUR = 34;
const STEP = 15;
type Props = {
  days: string[];
  planned: Entry[];
  /** Free standing slots: an instant, and whose. */
  slots: { at: string; profile: number; name: string }[];
  plan: Schemas["Plan"] | undefined;
  expected: Expected;
  moving: Moving;
  onDay: (day: string) => void;
};

/** Days by their hours: a click on an empty hour writes for it, a post or a picture can be dropped on one. */
export function DayGrid({ days, planned, slots, plan, expected, moving, onDay: open }: Props) {
  const { brand, now, today, can } = useBrand();
  const canChange = can("plan.write");
  const zone = brand.time_zone;
  const navigate = useNavigate();
  const say = useToast();
  const scroll = useRef<HTMLDivElement>(null);
  const lines = useRef<Lines>(new Map());
  const show = (day: string | null, minutes = 0) => {
    for (const [of, put] of lines.current) put(of === day ? minutes : null);
  };
  useEffect(() => {
    if (scroll.current) scroll.current.scrollTop = 7.5 * HOUR;
  }, []);
  const target = useRef("");
  const bringing = useBringing((asset) => navigate(`/${brand.slug}/plan/new?at=${target.current}&media=${asset.id}`));
  const minutesAt = (event: { clientY: number; currentTarget: Element }) =>
    Math.max(0, Math.min(1440 - STEP, ((event.clientY - event.currentTarget.getBoundingClientRect().top) / HOUR) * 60));
  const timeAt = (minutes: number, step = STEP) => {
    const whole = Math.floor(minutes / step) * step;
    return `${String(Math.floor(whole / 60)).padStart(2, "0")}:${String(whole % 60).padStart(2, "0")}`;
  };
  const start = (day: string, minutes: number) => {
    const when = at(day, timeAt(minutes, 30), zone);
    if (canChange && Date.parse(when) > now.getTime())
      navigate(`/${brand.slug}/plan/new?at=${encodeURIComponent(when)}`);
  };
  const drop = (event: DragEvent, day: string) => {
    event.preventDefault();
    show(null);
    const time = timeAt(minutesAt(event));
    const files = filesIn(event.dataTransfer);
    if (files.length) {
      const when = at(day, time, zone);
      if (Date.parse(when) < now.getTime()) return say("This hour has passed.", "wrong");
      target.current = encodeURIComponent(when);
      return void bringing.go(files.slice(0, 1));
    }
    const what = moving.let();
    if (what && "entry" in what) void moving.to(what.entry, day, time);
    else if (what) void moving.day(planned, what.day, day);
  };
  const columns = { gridTemplateColumns: `44px repeat(${days.length}, minmax(0, 1fr))` };
  const least = days.length > 1 ? "narrow:min-w-[820px]" : "";
  const placed = useMemo(
    () =>
      days.map((day) =>
        place(
          [
            ...onDay<Entry | Out>(planned, (p) => ("versions" in p ? p.at : null), day, zone),
            // What was planned here is shown as planned, until it is out.
            ...onDay<Entry | Out>(
              (plan?.published ?? []).filter((p) => p.planned === null),
              (p) => p.at,
              day,
              zone,
            ),
          ],
          zone,
          HOUR,
        ),
      ),
    [days, planned, plan, zone],
  );
  return (
    <div
      ref={scroll}
      className="scrolls relative min-w-0 overflow-y-auto narrow:h-[75vh] narrow:overflow-x-auto"
      role="region"
      aria-label={days.length > 1 ? "Week" : "Day"}
      tabIndex={0}
    >
      <div className={`stays sticky top-0 z-10 grid border-b border-rule-strong bg-paper ${least}`} style={columns}>
        <span />
        {days.map((day) => (
          <DayHead
            key={day}
            day={day}
            name={`${WEEKDAYS[weekday(day) - 1]} ${shortDay(day)}`}
            plan={plan}
            moving={moving}
            onOpen={days.length > 1 ? () => open(day) : undefined}
            onDrop={(event) => drop(event, day)}
          />
        ))}
      </div>
      <div className={`stays relative grid ${least}`} style={{ ...columns, height: 24 * HOUR }}>
        <div className="relative">
          {Array.from({ length: 23 }, (_, i) => i + 1).map((hour) => (
            <span key={hour} className="label absolute right-2 -translate-y-1/2" style={{ top: hour * HOUR }}>
              {String(hour).padStart(2, "0")}
            </span>
          ))}
        </div>
        {days.map((day, i) => (
          // biome-ignore lint/a11y/noStaticElementInteractions: "Write a post" and the arrow keys offer the same
          // biome-ignore lint/a11y/useKeyWithClickEvents: "Write a post" and the arrow keys offer the same
          <div
            key={day}
            className={`relative border-l border-rule ${day < today ? "bg-panel/50" : "cursor-copy"}`}
            style={{
              backgroundImage: `repeating-linear-gradient(to bottom, transparent 0 ${HOUR - 1}px, var(--rule) ${HOUR - 1}px ${HOUR}px)`,
            }}
            onClick={(event) => event.target === event.currentTarget && start(day, minutesAt(event))}
            onDragOver={(event) => {
              event.preventDefault();
              show(day, Math.floor(minutesAt(event) / STEP) * STEP);
            }}
            onDragLeave={(event) => event.currentTarget === event.target && show(null)}
            onDrop={(event) => drop(event, day)}
          >
            <DropLine day={day} lines={lines} name={timeAt} />
            {day === today && dayOf(now.toISOString(), zone) === day && (
              <div
                className="pointer-events-none absolute inset-x-0 z-[5] border-t-2 border-berry"
                style={{ top: hoursOf(timeOf(now.toISOString(), zone)) * HOUR }}
              />
            )}
            {onDay(slots, (slot) => slot.at, day, zone).map(({ item, instant }) => (
              <Link
                key={`${item.profile}-${instant}`}
                to={`/${brand.slug}/plan/new?at=${encodeURIComponent(instant)}&profile=${item.profile}`}
                className="absolute inset-x-0.5 h-6 truncate border border-dashed border-rule-strong px-1 text-[12px] leading-[22px] text-muted hover:border-berry hover:text-berry"
                style={{ top: hoursOf(timeOf(instant, zone)) * HOUR }}
                title={`Free standing slot: ${item.name}`}
              >
                {timeOf(instant, zone)} free, {item.name}
              </Link>
            ))}
            {placed[i]?.map(({ item, top, column, columns: many }) => (
              <div
                key={"versions" in item ? `p${item.id}` : `x${item.id}`}
                className="absolute px-0.5"
                style={{ top, left: `${(column / many) * 100}%`, width: `${100 / many}%` }}
              >
                {"versions" in item ? (
                  <PlannedChip
                    entry={item}
                    expected={expected.find((e) => e.id === item.id)}
                    moving={moving}
                    step={{ minutes: STEP }}
                  />
                ) : (
                  <PublishedChip post={item} />
                )}
              </div>
            ))}
          </div>
        ))}
      </div>
    </div>
  );
}

const hoursOf = (time: string) => Number(time.slice(0, 2)) + Number(time.slice(3)) / 60;

type Lines = Map<string, (minutes: number | null) => void>;
type LineProps = { day: string; lines: RefObject<Lines>; name: (minutes: number) => string };

/** Where what is held would be dropped. It is drawn by itself: drawing all days anew with it would make it stutter. */
function DropLine({ day, lines, name }: LineProps) {
  const [minutes, setMinutes] = useState<number | null>(null);
  useEffect(() => {
    const all = lines.current;
    all.set(day, setMinutes);
    return () => void all.delete(day);
  }, [day, lines]);
  return (
    minutes !== null && (
      <span
        className="pointer-events-none absolute inset-x-0 z-[6] border-t-2 border-berry text-[12px] text-berry"
        style={{ top: (minutes / 60) * HOUR }}
      >
        {name(minutes)}
      </span>
    )
  );
}
