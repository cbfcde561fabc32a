import { useState } from "react";
import { Link } from "react-router";
import type { Schemas } from "../../api/client";
import { shortDay } from "../../lib/days";
import { useBrand } from "../../study/brand";
import { Button } from "../../ui/Button";
import { Cut } from "../../ui/Cut";
import { DateField } from "../../ui/DateField";
import { Field } from "../../ui/Field";
import { Sheet } from "../../ui/Sheet";
import { useToast } from "../../ui/Toast";
import { PauseSheet } from "./GoingOut";
import { useAddChannel, useAddNote, useRemoveNote } from "./queries";
import { clashWords } from "./rules";

type Props = { plan: Schemas["Plan"]; today: string };

/** Beside the calendar: what gets in its own way, drafts without a time, and days of one's own. */
export function Aside({ plan, today }: Props) {
  const { brand, can } = useBrand();
  const canChange = can("plan.write");
  const [opened, setOpened] = useState<"note" | "pause" | "channel" | null>(null);
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
      {plan.drafts.length === 0 && <p className="label mt-1">None. What is saved without a time waits here.</p>}
      {plan.drafts.map((p) => (
        <Link key={p.id} to={`/${brand.slug}/plan/${p.id}`} className="rowline block py-1.5 hover:text-berry">
          <Cut className="font-semibold">{p.title || "Untitled"}</Cut>
          <span className="label line-clamp-2">
            {p.state === "idea" && <span className="text-berry">idea </span>}
            {p.text}
          </span>
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
                  {one.name}
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
      <div className="mt-4 flex flex-col items-start gap-1 border-t border-rule pt-2">
        {canChange && (
          <button type="button" className="under min-h-6 text-left hover:text-berry" onClick={() => setOpened("note")}>
            Add a note
          </button>
        )}
        {can("plan.publish") && (
          <>
            <button
              type="button"
              className="under min-h-6 text-left hover:text-berry"
              onClick={() => setOpened("channel")}
            >
              Add a channel without a connection
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
      <ChannelSheet isOpen={opened === "channel"} onClose={() => setOpened(null)} />
      <PauseSheet isOpen={opened === "pause"} onClose={() => setOpened(null)} />
    </section>
  );
}

function NoteSheet({ isOpen, onClose, today }: { isOpen: boolean; onClose: () => void; today: string }) {
  const { brand } = useBrand();
  const add = useAddNote(brand.slug);
  const [note, setNote] = useState({ first: today, last: today, text: "" });
  return (
    <Sheet isOpen={isOpen} onClose={onClose} title="A note in the calendar" form="dialog">
      <form
        className="flex flex-col gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          add.mutate(note, { onSuccess: onClose });
        }}
      >
        <Field label="What" error={add.error?.message}>
          {(props) => (
            <input
              {...props}
              maxLength={200}
              value={note.text}
              onChange={(event) => setNote({ ...note, text: event.target.value })}
            />
          )}
        </Field>
        <div className="grid grid-cols-2 gap-3">
          <Field label="From">
            {(props) => (
              <DateField
                {...props}
                today={today}
                value={note.first}
                onChange={(first) => setNote({ ...note, first, last: note.last < first ? first : note.last })}
              />
            )}
          </Field>
          <Field label="To">
            {(props) => (
              <DateField {...props} today={today} value={note.last} onChange={(last) => setNote({ ...note, last })} />
            )}
          </Field>
        </div>
        <div>
          <Button kind="main" type="submit" disabled={!note.text.trim()} isBusy={add.isPending}>
            Add it
          </Button>
        </div>
      </form>
    </Sheet>
  );
}

function ChannelSheet({ isOpen, onClose }: { isOpen: boolean; onClose: () => void }) {
  const { brand } = useBrand();
  const add = useAddChannel(brand.slug);
  const say = useToast();
  const [name, setName] = useState("");
  return (
    <Sheet isOpen={isOpen} onClose={onClose} title="A channel without a connection" form="dialog">
      <form
        className="flex flex-col gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          add.mutate(name, {
            onSuccess: () => {
              say(`${name} can be planned for now.`);
              onClose();
            },
          });
        }}
      >
        <p>
          Posts for it are planned like any other. At the minute you are told, with the text and files ready to take
          along; its results come by file.
        </p>
        <Field
          label="Its name"
          help="Such as a notice board, a newsletter, a network without a connection"
          error={add.error?.message}
        >
          {(props) => (
            <input {...props} maxLength={80} value={name} onChange={(event) => setName(event.target.value)} />
          )}
        </Field>
        <div>
          <Button kind="main" type="submit" disabled={!name.trim()} isBusy={add.isPending}>
            Add it
          </Button>
        </div>
      </form>
    </Sheet>
  );
}
