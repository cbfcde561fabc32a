import { useForm } from "react-hook-form";
import { useBrand } from "../../study/brand";
import { Button } from "../../ui/Button";
import { DateField } from "../../ui/DateField";
import { Entry, Form } from "../../ui/Form";
import { Sheet } from "../../ui/Sheet";
import { useAddNote } from "./queries";

/** A day or days of one's own in the calendar. */
export function NoteSheet({ isOpen, onClose, today }: { isOpen: boolean; onClose: () => void; today: string }) {
  const { brand } = useBrand();
  const add = useAddNote(brand.slug);
  const form = useForm({ defaultValues: { first: today, last: today, text: "" } });
  return (
    <Sheet isOpen={isOpen} onClose={onClose} title="A note in the calendar" form="dialog">
      <Form
        form={form}
        error={add.error}
        className="flex flex-col gap-3"
        onSubmit={(note) => add.mutate(note, { onSuccess: onClose })}
      >
        <Entry form={form} name="text" label="What">
          {(field) => <input {...field} maxLength={200} />}
        </Entry>
        <div className="grid grid-cols-2 gap-3">
          <Entry form={form} name="first" label="From">
            {(field) => (
              <DateField
                {...field}
                today={today}
                onChange={(first) => {
                  field.onChange(first);
                  if (form.getValues("last") < first) form.setValue("last", first);
                }}
              />
            )}
          </Entry>
          <Entry form={form} name="last" label="To">
            {(field) => <DateField {...field} today={today} />}
          </Entry>
        </div>
        <div>
          <Button kind="main" type="submit" disabled={!form.watch("text").trim()} isBusy={add.isPending}>
            Add it
          </Button>
        </div>
      </Form>
    </Sheet>
  );
}
