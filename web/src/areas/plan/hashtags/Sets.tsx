import { useState } from "react";
import type { ProblemError } from "../../../api/client";
import { networkNamed, useBrand } from "../../../study/brand";
import { Button } from "../../../ui/Button";
import { Field } from "../../../ui/Field";
import { Failed, Loading } from "../../../ui/States";
import { useHashtagSets, useKeepHashtags, useRemoveHashtags } from "./queries";
import { tagsIn } from "./rules";

type Written = { id?: number; name: string; tags: string; network: string };

/** Sets of hashtags, for one network or for any. */
export function Sets() {
  const { brand, networks, can } = useBrand();
  const sets = useHashtagSets(brand.slug);
  const keep = useKeepHashtags(brand.slug);
  const remove = useRemoveHashtags(brand.slug);
  const [open, setOpen] = useState<Written | null>(null);
  const canChange = can("plan.write");
  const error = (keep.error ?? remove.error) as ProblemError | null;
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
                    onClick={() => remove.mutate(set.id)}
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
      {open && (
        <form
          className="mt-3 flex flex-col gap-3"
          onSubmit={(event) => {
            event.preventDefault();
            keep.mutate({ ...open, tags: tagsIn(open.tags) }, { onSuccess: () => setOpen(null) });
          }}
        >
          <Field label="Name" error={error?.fields.name}>
            {(props) => (
              <input
                {...props}
                maxLength={60}
                value={open.name}
                onChange={(event) => setOpen({ ...open, name: event.target.value })}
              />
            )}
          </Field>
          <Field label="Hashtags" error={error?.fields.tags}>
            {(props) => (
              <textarea
                {...props}
                rows={3}
                className={`${props.className} h-auto py-1`}
                value={open.tags}
                onChange={(event) => setOpen({ ...open, tags: event.target.value })}
              />
            )}
          </Field>
          <Field label="For">
            {(props) => (
              <select
                {...props}
                value={open.network}
                onChange={(event) => setOpen({ ...open, network: event.target.value })}
              >
                <option value="">any network</option>
                {networks.map((one) => (
                  <option key={one.key} value={one.key}>
                    {one.name}
                  </option>
                ))}
              </select>
            )}
          </Field>
          {error && !error.fields.name && !error.fields.tags && <p className="text-down">{error.message}</p>}
          <div className="flex gap-2">
            <Button
              type="submit"
              kind="main"
              disabled={!open.name.trim() || tagsIn(open.tags).length === 0}
              isBusy={keep.isPending}
            >
              Keep it
            </Button>
            <Button onClick={() => setOpen(null)}>Leave it</Button>
          </div>
        </form>
      )}
    </>
  );
}
