import { useState } from "react";
import { useForm } from "react-hook-form";
import { useBrand } from "../../../study/brand";
import { Button } from "../../../ui/Button";
import { Entry, Form } from "../../../ui/Form";
import { Sheet } from "../../../ui/Sheet";
import { Failed, Loading } from "../../../ui/States";
import { useToast } from "../../../ui/Toast";
import { type Template, useTemplateActs, useTemplates } from "./queries";

type Written = { id?: number; name: string; text: string; headline: string; first_comment: string };
const EMPTY: Written = { name: "", text: "", headline: "", first_comment: "" };

/** Forms for what is written again and again: their text, with the places to be filled in. */
export function TemplatesSheet({ isOpen, onClose }: { isOpen: boolean; onClose: () => void }) {
  const { brand, can } = useBrand();
  const templates = useTemplates(brand.slug, isOpen);
  const { keep, remove } = useTemplateActs(brand.slug);
  const say = useToast();
  const [open, setOpen] = useState<Written | null>(null);
  const canChange = can("plan.write");
  const edit = (one: Written) => {
    keep.reset();
    setOpen(one);
  };
  return (
    <Sheet isOpen={isOpen} onClose={onClose} title="Templates">
      {templates.error ? (
        <Failed error={templates.error} onRetry={() => templates.refetch()} />
      ) : !templates.data ? (
        <Loading what="Loading the templates" />
      ) : open ? (
        <TemplateForm first={open} keep={keep} onDone={() => setOpen(null)} />
      ) : (
        <>
          <p className="label">They are put in from the field of a post, where their places are filled in.</p>
          {templates.data.length === 0 && <p className="mt-2">There is none yet.</p>}
          <ul className="mt-1">
            {templates.data.map((one) => (
              <Row
                key={one.id}
                template={one}
                onEdit={canChange ? () => edit(one) : undefined}
                onRemove={
                  canChange
                    ? () => remove.mutate(one.id, { onError: (error) => say(error.message, "wrong") })
                    : undefined
                }
              />
            ))}
          </ul>
          {canChange && (
            <Button className="mt-3" onClick={() => edit(EMPTY)}>
              A new template
            </Button>
          )}
        </>
      )}
    </Sheet>
  );
}

type FormProps = { first: Written; keep: ReturnType<typeof useTemplateActs>["keep"]; onDone: () => void };

function TemplateForm({ first, keep, onDone }: FormProps) {
  const form = useForm({ defaultValues: first });
  const given = form.watch();
  return (
    <Form
      form={form}
      error={keep.error}
      className="flex flex-col gap-3"
      onSubmit={(given) => keep.mutate(given, { onSuccess: onDone })}
    >
      <Entry form={form} name="name" label="Name">
        {(field) => <input {...field} maxLength={80} />}
      </Entry>
      <Entry
        form={form}
        name="text"
        label="Text"
        help="What differs each time is a name in braces: Open until {hour} on {day}."
      >
        {(field) => <textarea {...field} rows={8} className={`${field.className} h-auto py-1`} />}
      </Entry>
      <Entry form={form} name="headline" label="Title" help="For networks that have one">
        {(field) => <input {...field} maxLength={300} />}
      </Entry>
      <Entry form={form} name="first_comment" label="First comment">
        {(field) => <textarea {...field} rows={2} className={`${field.className} h-auto py-1`} />}
      </Entry>
      <div className="flex gap-2">
        <Button type="submit" kind="main" disabled={!given.name.trim() || !given.text.trim()} isBusy={keep.isPending}>
          Keep it
        </Button>
        <Button onClick={onDone}>Leave it</Button>
      </div>
    </Form>
  );
}

type RowProps = { template: Template; onEdit?: () => void; onRemove?: () => void };

function Row({ template, onEdit, onRemove }: RowProps) {
  return (
    <li className="rowline py-2">
      <span className="flex items-baseline gap-3">
        <span className="font-semibold">{template.name}</span>
        {onEdit && (
          <button type="button" className="under ml-auto h-6 hover:text-berry" onClick={onEdit}>
            change
          </button>
        )}
        {onRemove && (
          <button
            type="button"
            className="under h-6 hover:text-down"
            aria-label={`Remove ${template.name}`}
            onClick={onRemove}
          >
            remove
          </button>
        )}
      </span>
      <p className="line-clamp-3 whitespace-pre-wrap">{template.text}</p>
      {template.places.length > 0 && <p className="label">To fill in: {template.places.join(", ")}</p>}
    </li>
  );
}
