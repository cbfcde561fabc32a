import { useState } from "react";
import { useForm } from "react-hook-form";
import { networkNamed, useBrand } from "../../../study/brand";
import { Button } from "../../../ui/Button";
import { Entry, Form } from "../../../ui/Form";
import { Failed, Loading } from "../../../ui/States";
import { useToast } from "../../../ui/Toast";
import { useHashtagSets, useKeepHashtags, useRemoveHashtags } from "./queries";
import { tagsIn } from "./rules";

type Written = { id?: number; name: string; tags: string; network: string };

/** Sets of hashtags, for one network or for any. */
export function Sets() {
  const { brand, networks, can } = useBrand();
  const sets = useHashtagSets(brand.slug);
  const keep = useKeepHashtags(brand.slug);
  const remove = useRemoveHashtags(brand.slug);
  const say = useToast();
  const [open, setOpen] = useState<Written | null>(null);
  const canChange = can("plan.write");
  if (sets.error) return <Failed error={sets.error} onRetry={() => sets.refetch()} />;
  if (!sets.data) return <Loading what="Loading the sets" />;
  const edit = (one: Written) => {
    keep.reset();
    setOpen(one);
  };
  return (
    <>
      <h2 className="text-[16px]">Sets</h2>
      {sets.data.length === 0 && <p className="label">None yet. They are put into a text in one step.</p>}
      <ul>
        {sets.data.map((set) => (
          <li key={set.id} className="rowline py-1.5">
            <span className="flex items-baseline gap-3">
              <span className="font-semibold">{set.name}</span>
              <span className="label">{set.network ? networkNamed(networks, set.network).name : "any network"}</span>
              {canChange && (
                <span className="ml-auto flex gap-3">
                  <button
                    type="button"
                    aria-label={`Change ${set.name}`}
                    className="under min-h-6 hover:text-berry"
                    onClick={() => edit({ ...set, network: set.network ?? "", tags: set.tags.join(" ") })}
                  >
                    change
                  </button>
                  <button
                    type="button"
                    aria-label={`Take the set ${set.name} away`}
                    className="under min-h-6 hover:text-down"
                    onClick={() => remove.mutate(set.id, { onError: (error) => say(error.message, "wrong") })}
                  >
                    take away
                  </button>
                </span>
              )}
            </span>
            <span className="break-words text-muted">{set.tags.map((tag) => `#${tag}`).join(" ")}</span>
          </li>
        ))}
      </ul>
      {canChange && !open && (
        <Button className="mt-3" onClick={() => edit({ name: "", tags: "", network: "" })}>
          A new set
        </Button>
      )}
      {open && <SetForm key={open.id ?? 0} first={open} keep={keep} onDone={() => setOpen(null)} />}
    </>
  );
}

type FormProps = { first: Written; keep: ReturnType<typeof useKeepHashtags>; onDone: () => void };

function SetForm({ first, keep, onDone }: FormProps) {
  const { networks } = useBrand();
  const form = useForm({ defaultValues: first });
  const given = form.watch();
  return (
    <Form
      form={form}
      error={keep.error}
      className="mt-3 flex flex-col gap-3"
      onSubmit={(given) => keep.mutate({ ...given, tags: tagsIn(given.tags) }, { onSuccess: onDone })}
    >
      <Entry form={form} name="name" label="Name">
        {(field) => <input {...field} maxLength={60} />}
      </Entry>
      <Entry form={form} name="tags" label="Hashtags">
        {(field) => <textarea {...field} rows={3} className={`${field.className} h-auto py-1`} />}
      </Entry>
      <Entry form={form} name="network" label="For">
        {(field) => (
          <select {...field}>
            <option value="">any network</option>
            {networks.map((one) => (
              <option key={one.key} value={one.key}>
                {one.name}
              </option>
            ))}
          </select>
        )}
      </Entry>
      <div className="flex gap-2">
        <Button
          type="submit"
          kind="main"
          disabled={!given.name.trim() || tagsIn(given.tags).length === 0}
          isBusy={keep.isPending}
        >
          Keep it
        </Button>
        <Button onClick={onDone}>Leave it</Button>
      </div>
    </Form>
  );
}
