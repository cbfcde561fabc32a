import { type PointerEvent as Pointer, useState } from "react";
import { WEEKDAYS } from "../../lib/days";
import { figure, plural } from "../../lib/format";
import { DayDrawing, placeOn } from "./DayDrawing";
import type { PlannedTick, Week } from "./queries";
import { cityOf, hourName } from "./rules";

export const STRIP_HEIGHT = 62;
type Props = {
  week: Week;
  day: number;
  width: number;
  reach: number;
  height?: number;
  onHour: (hour: number) => void;
  canChange: boolean;
  /** The planned post that is being dragged, and the hour of the week that it is over. */
  dragged?: { id: number; hour: number } | null;
  onGrab?: (planned: PlannedTick, event: Pointer) => void;
};

/** One day as a strip that is read, clicked and walked through; planned posts on it can be dragged to another hour. */
export function DayStrip(props: Props) {
  const { week, day, width, reach, height = STRIP_HEIGHT, onHour, canChange, dragged, onGrab } = props;
  const [at, setAt] = useState<number | null>(null);
  const { x, base, inner } = placeOn(width, height);
  const said = (hour: number): [string, string] => {
    const place = day * 24 + Math.floor(hour);
    const h = week.hours[place];
    const p = week.presence?.[place];
    const groups = week.groups.map((g) => `${cityOf(g.zone)} ${Math.round((g.presence[place] ?? 0) * 100)}`);
    const who = groups.length > 1 ? ` (${groups.join(", ")})` : "";
    const index =
      h && `${figure(h.index, "index")} (${figure(h.low80, "index")}–${figure(h.high80, "index")}), ${h.certainty}`;
    return [
      [hourName(day * 24 + hour), index].filter(Boolean).join(" · "),
      [h && `${plural(h.nearby, "post")} nearby`, p !== undefined && `presence ${Math.round(p * 100)} %${who}`]
        .filter(Boolean)
        .join(" · "),
    ];
  };
  const say = (hour: number) => said(hour).filter(Boolean).join(", ");
  const step = (clientX: number, box: DOMRect) => {
    const hour = ((clientX - box.left - x(0)) / inner) * 24;
    return hour < 0 || hour >= 24 ? null : Math.floor(hour * 4) / 4;
  };
  const over = dragged && Math.floor(dragged.hour / 24) === day ? dragged.hour % 24 : null;
  return (
    <div className="relative" data-day={day}>
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
        <DayDrawing week={week} day={day} width={width} height={height} reach={reach} />
        {week.planned
          .filter((one) => Math.floor(one.hour / 24) === day && one.id !== dragged?.id)
          .map((one) => (
            // biome-ignore lint/a11y/noStaticElementInteractions: the list beside the week moves it by keyboard
            <g
              key={`${one.id}-${one.profile_id}`}
              data-planned={one.id}
              className={onGrab ? "cursor-grab touch-none" : ""}
              onClick={(e) => e.stopPropagation()}
              onPointerDown={(e) => onGrab?.(one, e)}
            >
              <title>{`${hourName(one.hour)}: ${one.title || "untitled"} (${one.state}). Drag it to another hour.`}</title>
              <rect x={x(one.hour % 24) - 12} y={base - 18} width="24" height="24" fill="transparent" />
              <circle
                cx={x(one.hour % 24)}
                cy={base - 6}
                r="5"
                fill="var(--paper)"
                stroke="var(--berry)"
                strokeWidth="1.8"
              />
            </g>
          ))}
        {over !== null && (
          <g pointerEvents="none">
            <line x1={x(over)} x2={x(over)} y1="0" y2={base} stroke="var(--berry)" strokeWidth="1.4" />
            <circle cx={x(over)} cy={base - 6} r="5" fill="var(--berry)" />
          </g>
        )}
        {at !== null && !dragged && (
          // It follows the pointer and must not take what is meant for a ring below it.
          <line
            x1={x(at)}
            x2={x(at)}
            y1="0"
            y2={base + 8}
            stroke="var(--berry)"
            strokeWidth="1.4"
            pointerEvents="none"
          />
        )}
      </svg>
      {(over ?? at) !== null && (
        <div
          className="pointer-events-none absolute z-10 whitespace-nowrap bg-shell px-2 py-1 text-[12.5px] text-shell-ink"
          // To the side where the day is longer: the words are about half as long as the strip.
          style={{
            top: -4,
            ...((over ?? at ?? 0) < 12 ? { left: x(over ?? at ?? 0) + 8 } : { right: width - x(over ?? at ?? 0) + 8 }),
          }}
        >
          {/* On two lines, so that it fits beside any hour. */}
          {said(over ?? at ?? 0)[0]}
          <br />
          {said(over ?? at ?? 0)[1]}
          {canChange && <span className="text-shell-muted"> · {dragged ? "let go to move it" : "click to draft"}</span>}
        </div>
      )}
    </div>
  );
}
