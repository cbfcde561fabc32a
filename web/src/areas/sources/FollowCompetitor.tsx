import { useState } from "react";
import { useForm } from "react-hook-form";
import { figure, plural } from "../../lib/format";
import { networkNamed, useBrand } from "../../study/brand";
import { Button } from "../../ui/Button";
import { Entry, Form } from "../../ui/Form";
import { NetworkMark } from "../../ui/Marks";
import { useToast } from "../../ui/Toast";
import { AddCompetitor } from "./AddCompetitor";
import { useDiscoverSite, useFollowFound } from "./queries";

/** Two ways to a competitor: by the web site, which names the profiles, or profile by profile. */
export function FollowCompetitor({ onDone }: { onDone: () => void }) {
  const [way, setWay] = useState<"site" | "handle">("site");
  return (
    <>
      <div className="mb-4 flex gap-4 border-b border-rule" role="tablist" aria-label="How to find them">
        {(
          [
            ["site", "By web site"],
            ["handle", "By name or handle"],
          ] as const
        ).map(([key, name]) => (
          <button
            key={key}
            type="button"
            role="tab"
            aria-selected={way === key}
            onClick={() => setWay(key)}
            className={`-mb-px h-8 border-b-2 ${way === key ? "border-berry font-semibold" : "border-transparent text-muted"}`}
          >
            {name}
          </button>
        ))}
      </div>
      {way === "site" ? <BySite onDone={onDone} /> : <AddCompetitor onDone={onDone} />}
    </>
  );
}

function BySite({ onDone }: { onDone: () => void }) {
  const { brand, networks } = useBrand();
  const discover = useDiscoverSite(brand.slug);
  const follow = useFollowFound(brand.slug);
  const say = useToast();
  const form = useForm({ defaultValues: { address: "", name: "" } });
  const { address, name } = form.watch();
  const [left, setLeft] = useState<string[]>([]);
  const site = discover.data;
  const free = (site?.profiles ?? []).filter((p) => p.account && !p.is_followed);
  const chosen = free.filter((p) => !left.includes(`${p.network} ${p.handle}`));
  return (
    <>
      <Form
        form={form}
        error={discover.error}
        className="flex flex-col gap-3"
        onSubmit={() => {
          setLeft([]);
          discover.mutate(address, { onSuccess: (found) => form.setValue("name", found.name) });
        }}
      >
        <Entry
          form={form}
          name="address"
          label="Address of their web site"
          help="The page is read once; the profiles that it names are offered"
        >
          {(field) => <input {...field} placeholder="halfmoon.example" autoComplete="off" />}
        </Entry>
        <Button type="submit" isBusy={discover.isPending} disabled={!address.trim()} className="self-start">
          {discover.isPending ? "Reading the page" : "Find their profiles"}
        </Button>
      </Form>
      {site && (
        <Form
          form={form}
          error={follow.error}
          className="mt-5 flex flex-col gap-3 border-t border-rule pt-4"
          onSubmit={() => {
            follow.mutate(
              {
                name,
                website: site.address,
                profiles: chosen.map((p) => ({ network: p.network, handle: p.handle })),
              },
              {
                onSuccess: () => {
                  say(`${plural(chosen.length, "profile")} of ${name} will be collected.`);
                  onDone();
                },
              },
            );
          }}
        >
          <Entry form={form} name="name" label="Competitor's name" help="Their profiles stand together under it">
            {(field) => <input {...field} />}
          </Entry>
          <fieldset>
            <legend className="text-[13px] font-semibold">
              {site.profiles.length === 0
                ? "The page names no profile on any network"
                : `${plural(site.profiles.length, "profile")} named on the page`}
            </legend>
            {site.profiles.map((p) => {
              const network = networkNamed(networks, p.network);
              const key = `${p.network} ${p.handle}`;
              const reason = p.is_followed ? "followed already" : p.problem;
              return (
                <label key={key} className={`rowline flex items-center gap-3 py-1.5 ${reason ? "opacity-70" : ""}`}>
                  <input
                    type="checkbox"
                    disabled={!!reason}
                    checked={!reason && !left.includes(key)}
                    onChange={(e) => setLeft(e.target.checked ? left.filter((one) => one !== key) : [...left, key])}
                    className="h-4 w-4 accent-[var(--berry)]"
                  />
                  <NetworkMark network={network} />
                  <span className="min-w-0 flex-1">
                    <span className="block truncate font-semibold">{p.account?.name ?? p.handle}</span>
                    <span className="label block truncate">
                      @{p.handle} on {network.name}
                      {reason && `: ${reason}`}
                    </span>
                  </span>
                  {p.account && <span className="text-muted">{figure(p.account.followers)}</span>}
                </label>
              );
            })}
          </fieldset>
          {site.profiles.length > 0 && (
            <Button
              kind="main"
              type="submit"
              isBusy={follow.isPending}
              disabled={chosen.length === 0 || !name.trim()}
              className="self-start"
            >
              {chosen.length === 0 ? "Follow" : `Follow ${plural(chosen.length, "profile")}`}
            </Button>
          )}
        </Form>
      )}
    </>
  );
}
