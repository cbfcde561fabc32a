import { useMemo, useRef } from "react";
import { Link } from "react-router";
import type { Schemas } from "../../api/client";
import { at, WEEKDAYS, weekday } from "../../lib/days";
import { useSize } from "../../lib/useSize";
import { useBrand } from "../../study/brand";
import { type Expected, PlannedChip, PublishedChip } from "./Chips";
import { DayHead } from "./DayHead";
import type { Entry, Out } from "./queries";
import { onDay } from "./rules";
import type { Moving } from "./useMoving";

const LEAST_HEIGHT = 104;
const HEAD = 34;
const LINE = 25;
type Props = {
  days: string[];
  anchor: string;
  planned: Entry[];
  plan: Schemas["Plan"] | undefined;
  expected: Expected;
  moving: Moving;
  onDay: (day: string) => void;
};

/** A month of weeks: each day's posts, planned and out; a post or a whole day can be dragged to another day. */
export function MonthView({ days, anchor, planned, plan, expected, moving, onDay: open }: Props) {
  const { brand, today, can, now } = useBrand();
  const zone = brand.time_zone;
  // The day above which something is held is marked where it stands: drawing a full month anew would make it stutter.
  const over = useRef<HTMLElement | null>(null);
  const mark = (day: HTMLElement | null) => {
    if (over.current === day) return;
    over.current?.removeAttribute("data-over");
    day?.setAttribute("data-over", "");
    over.current = day;
  };
  const [measure, { height }] = useSize<HTMLDivElement>();
  // As many posts as a day has room for; the rest is one click away.
  const cell = Math.max(LEAST_HEIGHT, (height - 22) / (days.length / 7));
  const roomOf = (day: string) => {
    const more =
      (plan?.days ?? []).filter((one) => one.day === day).length +
      (plan?.notes ?? []).filter((one) => one.first <= day && day <= one.last).length;
    const bands = (plan?.campaigns ?? []).filter((one) => one.first_day <= day && day <= one.last_day).length;
    return Math.max(1, Math.floor((cell - HEAD - more * 17 - bands * 4) / LINE));
  };
  const cells = useMemo(
    () =>
      days.map((day) => ({
        day,
        items: [
          ...onDay<Entry | Out>(planned, (p) => ("versions" in p ? p.at : null), day, zone),
          ...onDay<Entry | Out>(
            (plan?.published ?? []).filter((p) => p.planned === null),
            (p) => p.at,
            day,
            zone,
          ),
        ].sort((a, b) => a.instant.localeCompare(b.instant)),
      })),
    [days, planned, plan, zone],
  );
  return (
    <div
      ref={measure}
      className="scrolls flex min-h-0 min-w-0 flex-col overflow-y-auto narrow:overflow-x-auto"
      role="region"
      aria-label="Month"
      tabIndex={0}
    >
      <div className="stays sticky top-0 z-10 grid grid-cols-7 border-b border-rule-strong bg-paper narrow:min-w-[820px]">
        {days.slice(0, 7).map((day) => (
          <span key={day} className="label border-l border-rule px-2 py-0.5">
            {WEEKDAYS[weekday(day) - 1]}
          </span>
        ))}
      </div>
      <div
        className="stays grid min-h-0 flex-1 grid-cols-7 narrow:min-w-[820px]"
        style={{ gridAutoRows: "minmax(104px, 1fr)" }}
      >
        {cells.map(({ day, items }) => {
          const isOther = day.slice(0, 7) !== anchor.slice(0, 7);
          return (
            // biome-ignore lint/a11y/noStaticElementInteractions: each post can be moved by the arrow keys
            <div
              key={day}
              className={`group min-w-0 overflow-hidden border-b border-rule data-over:bg-wash ${isOther || day < today ? "bg-panel/50" : ""}`}
              onDragOver={(event) => {
                event.preventDefault();
                mark(event.currentTarget);
              }}
              onDragLeave={(event) => event.currentTarget === event.target && mark(null)}
              onDrop={(event) => {
                event.preventDefault();
                mark(null);
                const what = moving.let();
                if (what && "entry" in what) void moving.to(what.entry, day);
                else if (what) void moving.day(planned, what.day, day);
              }}
            >
              <DayHead
                day={day}
                name={String(Number(day.slice(8)))}
                plan={plan}
                moving={moving}
                isPale={isOther}
                isShort
                onOpen={() => open(day)}
              />
              <div className="flex flex-col gap-px border-l border-rule px-0.5">
                {items
                  .slice(0, fits(items.length, roomOf(day)))
                  .map(({ item }) =>
                    "versions" in item ? (
                      <PlannedChip
                        key={`p${item.id}`}
                        entry={item}
                        expected={expected.find((e) => e.id === item.id)}
                        moving={moving}
                        isLine
                      />
                    ) : (
                      <PublishedChip key={`x${item.id}`} post={item} />
                    ),
                  )}
                {items.length > fits(items.length, roomOf(day)) && (
                  <button
                    type="button"
                    onClick={() => open(day)}
                    className="label under h-6 px-1 text-left hover:text-berry"
                  >
                    {items.length - fits(items.length, roomOf(day))} more
                  </button>
                )}
                {can("plan.write") && day >= today && (
                  <Link
                    to={`/${brand.slug}/plan/new?at=${encodeURIComponent(noonOf(day, zone, now))}`}
                    aria-label={`Write a post for ${day}`}
                    className="label px-1 opacity-0 hover:text-berry focus:opacity-100 group-hover:opacity-100"
                  >
                    write
                  </Link>
                )}
              </div>
            </div>
          );
        })}
      </div>
    </div>
  );
}

/** How many of a day's posts are shown: all where they have room, else one fewer, for the word that tells of the rest. */
const fits = (many: number, room: number) => (many <= room ? many : Math.max(1, room - 1));

/** Noon of a day, or the next full hour where that has passed. */
function noonOf(day: string, zone: string, now: Date): string {
  const noon = at(day, "12:00", zone);
  return Date.parse(noon) > now.getTime()
    ? noon
    : new Date(Math.ceil(now.getTime() / 3_600_000) * 3_600_000).toISOString();
}
