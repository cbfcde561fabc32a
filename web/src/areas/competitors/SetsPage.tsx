import { useState } from "react";
import { useForm } from "react-hook-form";
import { Link, useLocation } from "react-router";
import { plural } from "../../lib/format";
import { networkNamed, useBrand } from "../../study/brand";
import { useProfiles } from "../../study/queries";
import { carriedAll } from "../../study/study";
import { Button } from "../../ui/Button";
import { Check } from "../../ui/Check";
import { Choice } from "../../ui/Choice";
import { Entry, Form } from "../../ui/Form";
import { NetworkMark } from "../../ui/Marks";
import { Sheet } from "../../ui/Sheet";
import { Empty, Failed, Loading } from "../../ui/States";
import { useToast } from "../../ui/Toast";
import { CompetitorsFrame } from "./CompetitorsFrame";
import { DigestSheet } from "./DigestSheet";
import { type PeerSet, useDigest, useKeepSet, useOrder, usePeerSets, useRemoveSet } from "./queries";

type Profiles = NonNullable<ReturnType<typeof useProfiles>["data"]>["profiles"];

/** Who is compared with whom: sets by name, their digests, and competitors put in order. */
export function SetsPage() {
  const { brand, can } = useBrand();
  const sets = usePeerSets(brand.slug);
  const sources = useProfiles(brand.slug);
  const profiles = sources.data?.profiles ?? [];
  const [edited, setEdited] = useState<PeerSet | "new" | null>(null);
  const mayMake = can("competitors.sets");
  return (
    <CompetitorsFrame
      actions={
        mayMake && (
          <Button kind="main" className="h-7" onClick={() => setEdited("new")}>
            Make a set
          </Button>
        )
      }
    >
      {sets.error ? (
        <Failed error={sets.error} onRetry={() => sets.refetch()} />
      ) : !sets.data || !sources.data ? (
        <Loading what="Loading the sets" />
      ) : (
        <div className="grid min-h-0 flex-1 grid-cols-[3fr_2fr]">
          <section className="min-w-0 overflow-y-auto border-r border-rule px-5 py-3" aria-labelledby="sets-title">
            <h1 id="sets-title" className="text-[18px] leading-6">
              {sets.data.sets.length ? plural(sets.data.sets.length, "peer set") : "Peer sets"}
            </h1>
            <p className="label">
              Profiles that are compared, ours among them. The digest comes by mail on Monday morning, with what
              changed, whose posts stood out and where we are
              {sets.data.mail ? `, to ${sets.data.mail}` : ""}.
            </p>
            <SetRow name="Everybody we follow" count={profiles.length} number={0} digests={sets.data.digests} />
            {sets.data.sets.map((one) => (
              <SetRow
                key={one.id}
                name={one.name}
                count={one.profiles.length}
                number={one.id}
                digests={sets.data.digests}
                onEdit={mayMake ? () => setEdited(one) : undefined}
              />
            ))}
            {sets.data.sets.length === 0 && (
              <Empty title="No set yet">
                A set holds those whom one compares in earnest: the museums on pictures, say, or all ferries. Everybody
                we follow is there without one.
              </Empty>
            )}
          </section>
          <InOrder profiles={profiles} />
        </div>
      )}
      {edited && (
        <EditSet
          key={edited === "new" ? "new" : edited.id}
          set={edited === "new" ? undefined : edited}
          profiles={profiles}
          onClose={() => setEdited(null)}
        />
      )}
    </CompetitorsFrame>
  );
}

type SetRowProps = { name: string; count: number; number: number; digests: number[]; onEdit?: () => void };

function SetRow({ name, count, number, digests, onEdit }: SetRowProps) {
  const { brand } = useBrand();
  const digest = useDigest(brand.slug);
  const say = useToast();
  const [isRead, setRead] = useState(false);
  const { search } = useLocation();
  const isOn = digests.includes(number);
  const asked = new URLSearchParams(carriedAll(search));
  asked.delete("set");
  if (number) asked.set("set", String(number));
  return (
    <div className="rowline flex min-h-9 flex-wrap items-center gap-x-4 py-1">
      <Link
        to={`/${brand.slug}/competitors?${asked}`}
        className="min-w-0 flex-1 truncate font-semibold hover:text-berry"
      >
        {name}
      </Link>
      <span className="label">{plural(count, "profile")}</span>
      <Check
        isOn={isOn}
        onChange={() =>
          digest.mutate({ set: number || undefined, isOn: !isOn }, { onError: (error) => say(error.message, "wrong") })
        }
      >
        digest to me
      </Check>
      <Button kind="quiet" aria-label={`Read the digest of ${name}`} onClick={() => setRead(true)}>
        read it
      </Button>
      {isRead && <DigestSheet number={number} onClose={() => setRead(false)} />}
      {onEdit && (
        <Button kind="quiet" onClick={onEdit}>
          change
        </Button>
      )}
    </div>
  );
}

/** Our own first, then each competitor with its profiles. */
function byOwner(profiles: Profiles, brand: string): { name: string; profiles: Profiles }[] {
  const found = new Map<string, Profiles>();
  for (const p of profiles) {
    const name = p.competitor ?? brand;
    found.set(name, [...(found.get(name) ?? []), p]);
  }
  return [...found]
    .map(([name, of]) => ({ name, profiles: of }))
    .sort((a, b) => Number(b.name === brand) - Number(a.name === brand) || a.name.localeCompare(b.name));
}

type EditProps = { set?: PeerSet; profiles: Profiles; onClose: () => void };

function EditSet({ set, profiles, onClose }: EditProps) {
  const { brand, networks } = useBrand();
  const keep = useKeepSet(brand.slug);
  const remove = useRemoveSet(brand.slug);
  const say = useToast();
  const form = useForm({ defaultValues: { name: set?.name ?? "" } });
  const [chosen, setChosen] = useState<ReadonlySet<number>>(
    new Set(set?.profiles ?? profiles.filter((p) => p.kind === "own").map((p) => p.id)),
  );
  const toggle = (ids: number[], isOn: boolean) =>
    setChosen((old) => {
      const next = new Set(old);
      for (const id of ids)
        if (isOn) next.add(id);
        else next.delete(id);
      return next;
    });
  const networksUsed = [...new Set(profiles.map((p) => p.network))];
  return (
    <Sheet isOpen onClose={onClose} title={set ? `Change ${set.name}` : "Make a set"}>
      <Form
        form={form}
        error={keep.error}
        className="flex min-h-0 flex-1 flex-col gap-3"
        onSubmit={({ name }) => {
          keep.mutate(
            { id: set?.id, name, profiles: [...chosen], edition: set?.edition },
            {
              onSuccess: (kept) => {
                say(`${kept.name}: ${plural(kept.profiles.length, "profile")}.`);
                onClose();
              },
            },
          );
        }}
      >
        <Entry form={form} name="name" label="Name">
          {(field) => <input {...field} maxLength={80} required />}
        </Entry>
        <p className="label flex flex-wrap gap-x-3">
          All on:
          {networksUsed.map((key) => (
            <button
              key={key}
              type="button"
              className="under h-6 hover:text-berry"
              onClick={() => setChosen(new Set(profiles.filter((p) => p.network === key).map((p) => p.id)))}
            >
              {networkNamed(networks, key).name}
            </button>
          ))}
        </p>
        <fieldset className="min-h-0 flex-1 overflow-y-auto border-t border-rule">
          <legend className="sr-only">Profiles</legend>
          {byOwner(profiles, brand.name).map((group) => {
            const ids = group.profiles.map((p) => p.id);
            const isAll = ids.every((id) => chosen.has(id));
            return (
              <div key={group.name} className="border-b border-rule py-1">
                <Check isOn={isAll} onChange={() => toggle(ids, !isAll)}>
                  <span className="font-semibold">{group.name}</span>
                </Check>
                {group.profiles.map((p) => (
                  <div key={p.id} className="pl-6">
                    <Check isOn={chosen.has(p.id)} onChange={() => toggle([p.id], !chosen.has(p.id))}>
                      <span className="inline-flex items-center gap-2">
                        <NetworkMark network={networkNamed(networks, p.network)} /> {p.name}
                      </span>
                    </Check>
                  </div>
                ))}
              </div>
            );
          })}
        </fieldset>
        <div className="flex items-center gap-3">
          <Button
            type="submit"
            kind="main"
            isBusy={keep.isPending}
            disabled={chosen.size < 2 || !form.watch("name").trim()}
          >
            {set ? "Keep the changes" : "Make the set"} ({chosen.size})
          </Button>
          {set && (
            <Button
              kind="danger"
              isBusy={remove.isPending}
              onClick={() =>
                remove.mutate(set.id, {
                  onSuccess: () => {
                    say(`${set.name} is removed; its profiles are followed as before.`);
                    onClose();
                  },
                  onError: (error) => say(error.message, "wrong"),
                })
              }
            >
              Remove the set
            </Button>
          )}
        </div>
      </Form>
    </Sheet>
  );
}

/** Competitors as they are kept: another name, two that are one, a profile that is another's. */
function InOrder({ profiles }: { profiles: Profiles }) {
  const { brand, networks, can } = useBrand();
  const order = useOrder(brand.slug);
  const say = useToast();
  const [renamed, setRenamed] = useState<{ id: number; name: string } | null>(null);
  const mayChange = can("sources.follow");
  const groups = byOwner(
    profiles.filter((p) => p.kind === "competitor"),
    brand.name,
  );
  const others = groups.flatMap((g) => {
    const id = g.profiles[0]?.competitor_id;
    return id ? [{ id, name: g.name }] : [];
  });
  const act = (what: Parameters<typeof order.mutate>[0], done: string) =>
    order.mutate(what, { onSuccess: () => say(done), onError: (error) => say(error.message, "wrong") });
  return (
    <section className="min-w-0 overflow-y-auto px-5 py-3" aria-labelledby="order-title">
      <h2 id="order-title" className="text-[18px] leading-6">
        Competitors in order
      </h2>
      <p className="label">
        A competitor's profiles stand as one. What was collected goes along when they are moved or merged.{" "}
        {mayChange && (
          <Link to={`/${brand.slug}/sources?open=competitor`} className="under hover:text-berry">
            Follow another
          </Link>
        )}
      </p>
      {groups.length === 0 && <Empty title="No competitor is followed yet" />}
      <ul>
        {groups.map((group) => {
          const id = group.profiles[0]?.competitor_id;
          const rest = others.filter((o) => o.id !== id);
          return (
            <li key={group.name} className="border-b border-rule py-1.5">
              <span className="flex min-h-7 items-center gap-3">
                <span className="min-w-0 flex-1 truncate font-semibold">{group.name}</span>
                {mayChange && id && (
                  <>
                    <Button kind="quiet" onClick={() => setRenamed({ id, name: group.name })}>
                      rename
                    </Button>
                    {rest.length > 0 && (
                      <Choice
                        label={`Merge ${group.name} into`}
                        value=""
                        options={rest.map((o) => ({ value: String(o.id), label: `into ${o.name}` }))}
                        onChoose={(into) =>
                          act(
                            { what: "merge", id, into: Number(into) },
                            `${group.name} is part of ${rest.find((o) => String(o.id) === into)?.name} now.`,
                          )
                        }
                      >
                        merge
                      </Choice>
                    )}
                  </>
                )}
              </span>
              {group.profiles.map((p) => (
                <span key={p.id} className="flex min-h-6 items-center gap-2 pl-4">
                  <NetworkMark network={networkNamed(networks, p.network)} />
                  <span className="min-w-0 flex-1 truncate">{p.name}</span>
                  {mayChange && (
                    <Choice
                      label={`Move ${p.name} on ${networkNamed(networks, p.network).name}`}
                      value=""
                      options={[
                        ...rest.map((o) => ({ value: String(o.id), label: `to ${o.name}` })),
                        ...(group.profiles.length > 1
                          ? [{ value: "own", label: `under its own name, ${p.name}` }]
                          : []),
                      ]}
                      onChoose={(to) =>
                        act(
                          to === "own"
                            ? { what: "move", id: p.id, name: p.name }
                            : { what: "move", id: p.id, competitor: Number(to) },
                          `${p.name} is moved.`,
                        )
                      }
                      className="font-normal"
                    >
                      move
                    </Choice>
                  )}
                </span>
              ))}
            </li>
          );
        })}
      </ul>
      {renamed && (
        <Sheet isOpen onClose={() => setRenamed(null)} title={`Rename ${renamed.name}`} form="dialog">
          <Rename
            {...renamed}
            isBusy={order.isPending}
            error={order.error}
            onRename={(name) =>
              order.mutate(
                { what: "rename", id: renamed.id, name },
                {
                  onSuccess: () => {
                    say(`It is called ${name} now.`);
                    setRenamed(null);
                  },
                },
              )
            }
          />
        </Sheet>
      )}
    </section>
  );
}

type RenameProps = { name: string; isBusy: boolean; error: Error | null; onRename: (name: string) => void };

function Rename({ name: before, isBusy, error, onRename }: RenameProps) {
  const form = useForm({ defaultValues: { name: before } });
  return (
    <Form form={form} error={error} className="flex flex-col gap-3" onSubmit={({ name }) => onRename(name.trim())}>
      <Entry form={form} name="name" label="Name">
        {(field) => <input {...field} maxLength={120} />}
      </Entry>
      <Button type="submit" kind="main" className="self-start" isBusy={isBusy} disabled={!form.watch("name").trim()}>
        Rename
      </Button>
    </Form>
  );
}
