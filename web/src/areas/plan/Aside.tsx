import { useState } from "react";
import { Link } from "react-router";
import type { Schemas } from "../../api/client";
import { shortDay } from "../../lib/days";
import { useBrand } from "../../study/brand";
import { AskForIdea } from "../../study/KeepIdea";
import { Cut } from "../../ui/Cut";
import { Calendars } from "./Calendars";
import { ChannelsSheet } from "./ChannelsSheet";
import { PauseSheet } from "./GoingOut";
import { NoteSheet } from "./NoteSheet";
import { useRemoveNote } from "./queries";
import { GuestsSheet } from "./review/GuestsSheet";
import { RulesSheet } from "./review/RulesSheet";
import { clashWords } from "./rules";
import { TakeAlong } from "./TakeAlong";
import type { Moving } from "./useMoving";

type Props = { plan: Schemas["Plan"]; today: string; first: string; last: string; moving: Moving };

/** Beside the calendar: what gets in its own way, drafts without a time, and days of one's own. */
export function Aside({ plan, today, first, last, moving }: Props) {
  const { brand, can } = useBrand();
  const canChange = can("plan.write");
  const [opened, setOpened] = useState<"note" | "pause" | "channel" | "rules" | "guests" | null>(null);
  const remove = useRemoveNote(brand.slug);
  const titleOf = (id: number) => {
    const entry = plan.planned.find((one) => one.id === id);
    return entry?.title || entry?.text.slice(0, 30) || "a post";
  };
  return (
    <section className="min-w-0 overflow-y-auto border-l border-rule px-4 py-2" aria-label="Beside the calendar">
      {plan.clashes.length > 0 && (
        <>
          <h2 className="text-[16px]">In its own way</h2>
          <ul className="mb-3">
            {plan.clashes.map((clash) => (
              <li key={`${clash.kind}-${clash.first}-${clash.second}`} className="rowline py-1">
                <Link to={`/${brand.slug}/plan/${clash.second}`} className="hover:text-berry">
                  {titleOf(clash.first)} and {titleOf(clash.second)}
                </Link>
                <span className="label block">{clashWords(clash.kind, clash.hours)}</span>
              </li>
            ))}
          </ul>
        </>
      )}
      <h2 id="drafts-title" className="text-[16px]">
        Without a time
      </h2>
      <p className="label mt-1">
        {plan.drafts.length === 0
          ? "None. What is saved without a time waits here."
          : canChange && "Drag one onto an hour or a day, or open it and choose a time."}
      </p>
      {plan.drafts.map((p) => (
        <Link
          key={p.id}
          to={`/${brand.slug}/plan/${p.id}`}
          className={`rowline block py-1.5 hover:text-berry ${moving.canMove(p) ? "cursor-grab" : ""}`}
          draggable={moving.canMove(p)}
          onDragStart={(event) => {
            event.dataTransfer.effectAllowed = "move";
            event.dataTransfer.setData("text/plain", p.title);
            moving.grab({ entry: p });
          }}
          onDragEnd={() => moving.let()}
        >
          <Cut className="font-semibold">{p.title || "Untitled"}</Cut>
          <span className="label line-clamp-2">{p.text}</span>
        </Link>
      ))}
      {plan.campaigns.length > 0 && (
        <>
          <h2 className="mt-4 text-[16px]">Campaigns</h2>
          <ul>
            {plan.campaigns.map((one) => (
              <li key={one.id} className="flex items-baseline gap-2 py-0.5">
                <span
                  className="h-[3px] w-4 shrink-0 self-center"
                  style={{ background: `var(--tag-${one.colour}, var(--berry))` }}
                />
                <span>
                  <Link
                    to={`/${brand.slug}/plan/campaigns/${one.id}`}
                    className="under inline-block min-h-6 hover:text-berry"
                  >
                    {one.name}
                  </Link>
                  <span className="label block">
                    {shortDay(one.first_day)} to {shortDay(one.last_day)}
                  </span>
                </span>
              </li>
            ))}
          </ul>
        </>
      )}
      {plan.notes.length > 0 && (
        <>
          <h2 className="mt-4 text-[16px]">Notes</h2>
          <ul>
            {plan.notes.map((note) => (
              <li key={note.id} className="rowline flex items-baseline gap-2 py-1">
                <span className="min-w-0 flex-1">
                  {note.text}
                  <span className="label block">
                    {shortDay(note.first)}
                    {note.last !== note.first && ` to ${shortDay(note.last)}`}
                  </span>
                </span>
                {canChange && (
                  <button
                    type="button"
                    className="label under h-6 hover:text-down"
                    aria-label={`Take the note ${note.text} away`}
                    onClick={() => remove.mutate(note.id)}
                  >
                    take away
                  </button>
                )}
              </li>
            ))}
          </ul>
        </>
      )}
      {plan.days.length > 0 && (
        <>
          <h2 className="mt-4 text-[16px]">Days of the year</h2>
          <ul>
            {plan.days.map((one) => (
              <li key={`${one.day} ${one.name}`} className="flex items-baseline gap-2 py-0.5">
                <Cut>{one.name}</Cut>
                <span className="label whitespace-nowrap">{shortDay(one.day)}</span>
                <AskForIdea
                  words="idea"
                  className="label under ml-auto h-6 hover:text-berry"
                  begun={{ title: one.name, note: "", origin: { origin: "day", day: one.day } }}
                />
              </li>
            ))}
          </ul>
        </>
      )}
      <Calendars calendars={plan.calendars} canChange={canChange} />
      <div className="mt-4 flex flex-col items-start gap-1 border-t border-rule pt-2">
        <TakeAlong first={first} last={last} />
        {canChange && (
          <button type="button" className="under min-h-6 text-left hover:text-berry" onClick={() => setOpened("note")}>
            Add a note
          </button>
        )}
        {can("brand.change") && (
          <button type="button" className="under min-h-6 text-left hover:text-berry" onClick={() => setOpened("rules")}>
            Who says yes before posts go out
          </button>
        )}
        {can("plan.publish") && (
          <>
            <button
              type="button"
              className="under min-h-6 text-left hover:text-berry"
              onClick={() => setOpened("channel")}
            >
              Channels without a connection
            </button>
            <button
              type="button"
              className="under min-h-6 text-left hover:text-berry"
              onClick={() => setOpened("guests")}
            >
              Guests and their links
            </button>
            <button
              type="button"
              className="under min-h-6 text-left hover:text-down"
              onClick={() => setOpened("pause")}
            >
              Pause everything, or a profile
            </button>
          </>
        )}
      </div>
      <NoteSheet isOpen={opened === "note"} onClose={() => setOpened(null)} today={today} />
      <ChannelsSheet isOpen={opened === "channel"} onClose={() => setOpened(null)} />
      <RulesSheet isOpen={opened === "rules"} onClose={() => setOpened(null)} />
      <GuestsSheet isOpen={opened === "guests"} onClose={() => setOpened(null)} />
      <PauseSheet isOpen={opened === "pause"} onClose={() => setOpened(null)} />
    </section>
  );
}
