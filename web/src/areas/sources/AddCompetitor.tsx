import { useDeferredValue } from "react";
import { useForm } from "react-hook-form";
import { plural } from "../../lib/format";
import { networkNamed, useBrand } from "../../study/brand";
import { Button } from "../../ui/Button";
import { Entry, Form } from "../../ui/Form";
import { useToast } from "../../ui/Toast";
import { useAddCompetitor, useSearchProfiles, useSources } from "./queries";
import { FIELD_NAMES } from "./rules";

/** Follow somebody's profile by handle, found as one types. Only what is public is read, and that is said. */
export function AddCompetitor({ onDone }: { onDone: () => void }) {
  const { brand, networks } = useBrand();
  const open = networks.filter((n) => n.has_public_profiles);
  const sources = useSources(brand.slug);
  const add = useAddCompetitor(brand.slug);
  const form = useForm({ defaultValues: { network: open[0]?.key ?? "", handle: "", name: "" } });
  const { network, handle, name } = form.watch();
  const say = useToast();
  const chosen = networkNamed(networks, network);
  const hasSearch = chosen?.offer.has_search ?? false;
  const found = useSearchProfiles(brand.slug, network, useDeferredValue(handle), hasSearch);
  const isSettled = found.data?.some((one) => one.handle === handle.replace(/^@/, ""));
  const known = [...new Set((sources.data?.profiles ?? []).map((p) => p.competitor).filter((n): n is string => !!n))];
  return (
    <Form
      form={form}
      error={add.error}
      className="flex flex-col gap-4"
      onSubmit={() => {
        add.mutate(
          { network, handle, name },
          {
            onSuccess: () => {
              say("The profile is followed; its public posts are being collected.");
              onDone();
            },
          },
        );
      }}
    >
      <Entry
        form={form}
        name="network"
        label="Network"
        help={
          chosen &&
          `Of others' posts ${chosen.name} tells ${chosen.public_metrics.map((m) => (FIELD_NAMES[m] ?? m).toLowerCase()).join(", ") || "no figures"}`
        }
      >
        {(field) => (
          <select {...field}>
            {open.map((n) => (
              <option key={n.key} value={n.key}>
                {n.name}
              </option>
            ))}
          </select>
        )}
      </Entry>
      <div>
        <Entry
          form={form}
          name="handle"
          label="Handle"
          help={
            hasSearch
              ? "Type a part of the name, or the handle as it stands on the network"
              : "name@host, for example museum@social.example"
          }
        >
          {(field) => <input {...field} autoComplete="off" />}
        </Entry>
        {hasSearch && handle.trim().length > 1 && !isSettled && (found.data?.length ?? 0) > 0 && (
          <ul className="border-x border-b border-rule-strong" aria-label="Found">
            {found.data?.map((one) => (
              <li key={one.handle}>
                <button
                  type="button"
                  onClick={() => form.setValue("handle", one.handle)}
                  className="flex w-full items-center gap-2 px-2 py-1 text-left hover:bg-wash"
                >
                  <img src={one.picture || undefined} alt="" width="20" height="20" className="h-5 w-5 bg-rule" />
                  <span className="font-semibold">{one.name}</span>
                  <span className="label">@{one.handle}</span>
                  <span className="label ml-auto">{plural(one.followers, "follower")}</span>
                </button>
              </li>
            ))}
          </ul>
        )}
      </div>
      <Entry
        form={form}
        name="name"
        label="Belongs to"
        help="The competitor's name; its profiles stand together. Left empty, the profile's own name is taken"
      >
        {(field) => (
          <>
            <input {...field} list="competitors" />
            <datalist id="competitors">
              {known.map((one) => (
                <option key={one} value={one} />
              ))}
            </datalist>
          </>
        )}
      </Entry>
      <Button kind="main" type="submit" isBusy={add.isPending} className="self-start">
        Follow
      </Button>
    </Form>
  );
}
