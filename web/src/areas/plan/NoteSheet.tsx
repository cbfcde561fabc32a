import { useState } from "react";
import { useBrand } from "../../study/brand";
import { Button } from "../../ui/Button";
import { DateField } from "../../ui/DateField";
import { Field } from "../../ui/Field";
import { Sheet } from "../../ui/Sheet";
import { useAddNote } from "./queries";

/** A day or days of one's own in the calendar. */
export function NoteSheet({ isOpen, onClose, today }: { isOpen: boolean; onClose: () => void; today: string }) {
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
