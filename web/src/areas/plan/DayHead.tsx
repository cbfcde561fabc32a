import type { DragEvent } from "react";
import type { Schemas } from "../../api/client";
import { dayOf, timeOf } from "../../lib/days";
import { networkNamed, useBrand } from "../../study/brand";
import type { Moving } from "./useMoving";

/** Events of others' calendars beside one day; the rest is counted. */
const SHOWN = 3;
type Props = {
  day: string;
  name: string;
  plan: Schemas["Plan"] | undefined;
  moving: Moving;
  isPale?: boolean;
  /** A number alone, so that there is room beside it. */
  isShort?: boolean;
  onOpen?: () => void;
  onDrop?: (event: DragEvent) => void;
};

/** A day's name, its holidays, notes and campaigns, and how much each network gets; dragged, it takes its posts along. */
export function DayHead({ day, name, plan, moving, isPale, isShort, onOpen, onDrop }: Props) {
  const { brand, networks, today } = useBrand();
  const holiday = plan?.days.filter((one) => one.day === day) ?? [];
  const notes = plan?.notes.filter((one) => one.first <= day && day <= one.last) ?? [];
  const events = plan?.events.filter((one) => one.first <= day && day <= one.last) ?? [];
  const campaigns = plan?.campaigns.filter((one) => one.first_day <= day && day <= one.last_day) ?? [];
  const load = loadOf(plan, day, brand.time_zone);
  const told = (
    <div className="ml-auto min-h-[17px] truncate text-[11.5px] text-muted" title="Planned and published by network">
      {load.map(([network, count]) => `${networkNamed(networks, network).monogram} ${count}`).join("  ")}
    </div>
  );
  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: each post can be moved by the arrow keys
    <div
      className={`min-w-0 border-l border-rule px-2 py-0.5 ${isPale ? "text-muted" : ""}`}
      draggable={load.length > 0}
      onDragStart={(event) => {
        event.dataTransfer.effectAllowed = "move";
        event.dataTransfer.setData("text/plain", day);
        moving.grab({ day });
      }}
      onDragEnd={() => moving.let()}
      onDragOver={(event) => onDrop && event.preventDefault()}
      onDrop={onDrop}
    >
      <div className="flex items-baseline gap-1">
        {onOpen ? (
          <button
            type="button"
            onClick={onOpen}
            aria-label={`Open ${name}`}
            className={`min-h-6 min-w-6 truncate text-left hover:text-berry ${day === today ? "font-semibold text-berry" : ""}`}
          >
            {name}
          </button>
        ) : (
          <span className={`min-h-6 truncate ${day === today ? "font-semibold text-berry" : ""}`}>{name}</span>
        )}
        {isShort && told}
      </div>
      {!isShort && told}
      {holiday.map((one) => (
        <div key={one.name} className="truncate text-[11.5px] text-muted" title={one.name}>
          {one.name}
        </div>
      ))}
      {notes.map((one) => (
        <div key={one.id} className="truncate bg-wash px-1 text-[11.5px]" title={one.text}>
          {one.text}
        </div>
      ))}
      {events.slice(0, SHOWN).map((one) => (
        <div
          key={one.id}
          className="truncate border-l-2 border-rule-strong pl-1 text-[11.5px] text-muted"
          title={`${one.text} (${plan?.calendars.find((of) => of.id === one.calendar)?.name})`}
        >
          {one.at && `${timeOf(one.at, brand.time_zone)} `}
          {one.text}
        </div>
      ))}
      {events.length > SHOWN && <div className="label">and {events.length - SHOWN} more</div>}
      {campaigns.map((one) => (
        <div
          key={one.id}
          role="img"
          aria-label={`In the campaign ${one.name}`}
          title={`${one.name}, ${one.first_day} to ${one.last_day}`}
          className="-mx-2 mt-px h-[3px]"
          style={{ background: `var(--tag-${one.colour}, var(--berry))` }}
        />
      ))}
    </div>
  );
}

/** Posts of a day by network, planned and published, in the order of their number. */
export function loadOf(plan: Schemas["Plan"] | undefined, day: string, zone: string): [string, number][] {
  const counts = new Map<string, number>();
  const add = (network: string) => counts.set(network, (counts.get(network) ?? 0) + 1);
  for (const entry of plan?.planned ?? []) {
    for (const version of entry.versions) if (version.at && dayOf(version.at, zone) === day) add(version.network);
  }
  for (const post of plan?.published ?? []) {
    if (post.planned === null && dayOf(post.at, zone) === day) add(post.network);
  }
  return [...counts].sort((a, b) => b[1] - a[1]);
}
