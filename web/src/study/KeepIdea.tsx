import { useState } from "react";
import { useForm } from "react-hook-form";
import { Button } from "../ui/Button";
import { Field } from "../ui/Field";
import { Entry, Form } from "../ui/Form";
import { Sheet } from "../ui/Sheet";
import { useToast } from "../ui/Toast";
import { useBrand } from "./brand";
import { type IdeaOrigin, useIdeaGroups, useKeepIdea } from "./queries";

export type IdeaBegun = {
  title?: string;
  note?: string;
  origin: IdeaOrigin;
  /** What it comes from, as it is to be read here. */
  seen?: string;
};

/** One step from whatever gives an idea to the idea: what is worth taking from it, and the way back stays. */
export function KeepIdea({ begun, onClose }: { begun: IdeaBegun; onClose: () => void }) {
  const { brand } = useBrand();
  const keep = useKeepIdea(brand.slug);
  const groups = useIdeaGroups(brand.slug).data?.groups ?? [];
  const say = useToast();
  const form = useForm({ defaultValues: { title: begun.title ?? "", note: begun.note ?? "" } });
  const [group, setGroup] = useState<number | null>(null);
  const hasTitle = begun.title !== undefined;
  return (
    <Sheet isOpen onClose={onClose} title="Keep as an idea" form="dialog">
      <Form
        form={form}
        error={keep.error}
        className="flex flex-col gap-3"
        onSubmit={(given) => {
          keep.mutate(
            { content: { ...given, group }, origin: begun.origin },
            {
              onSuccess: (kept) => {
                say(kept.problem || "It is among the ideas, with the way back to where it came from.");
                onClose();
              },
            },
          );
        }}
      >
        {begun.seen && <p className="line-clamp-4 border-l-2 border-rule-strong pl-3">{begun.seen}</p>}
        {hasTitle && (
          <Entry form={form} name="title" label="The idea in a few words">
            {(field) => <input {...field} maxLength={200} />}
          </Entry>
        )}
        <Entry form={form} name="note" label="What is worth taking from it" help="Only your team sees this.">
          {(field) => <textarea {...field} className={`${field.className} h-24 py-1`} maxLength={10_000} />}
        </Entry>
        {groups.length > 0 && <IdeaGroupField value={group} onChange={setGroup} />}
        <Button type="submit" kind="main" className="self-start" isBusy={keep.isPending}>
          Keep the idea
        </Button>
      </Form>
    </Sheet>
  );
}

type GroupProps = {
  value: number | null;
  onChange: (group: number | null) => void;
  error?: string;
  disabled?: boolean;
};

/** In which group of ideas one stands. */
export function IdeaGroupField({ value, onChange, error, disabled }: GroupProps) {
  const { brand } = useBrand();
  const groups = useIdeaGroups(brand.slug).data?.groups ?? [];
  return (
    <Field label="Group" error={error}>
      {(props) => (
        <select
          {...props}
          disabled={disabled}
          value={value ?? ""}
          onChange={(event) => onChange(Number(event.target.value) || null)}
        >
          <option value="">none</option>
          {groups.map((one) => (
            <option key={one.id} value={one.id}>
              {one.name}
            </option>
          ))}
        </select>
      )}
    </Field>
  );
}

type AskProps = { begun: IdeaBegun; words?: string; className?: string };

/** Asks for it; not there for who may not write. */
export function AskForIdea({ begun, words = "Keep as an idea", className = "under h-6 hover:text-berry" }: AskProps) {
  const { can } = useBrand();
  const [isOpen, setOpen] = useState(false);
  if (!can("plan.write")) return null;
  return (
    <>
      <button type="button" className={className} onClick={() => setOpen(true)}>
        {words}
      </button>
      {isOpen && <KeepIdea begun={begun} onClose={() => setOpen(false)} />}
    </>
  );
}
