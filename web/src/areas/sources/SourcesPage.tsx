import { DropdownMenu } from "radix-ui";
import { Link, useSearchParams } from "react-router";
import { useBrand } from "../../app/brand";
import { dayOf, shortDay } from "../../lib/days";
import { figure, plural, since } from "../../lib/format";
import { Button } from "../../ui/Button";
import { NetworkMark, StateWord } from "../../ui/Marks";
import { Sheet } from "../../ui/Sheet";
import { Empty, Failed, Loading, Notice } from "../../ui/States";
import { useToast } from "../../ui/Toast";
import { AddCompetitor } from "./AddCompetitor";
import { ChooseAccounts } from "./ChooseAccounts";
import { isOpen, type Profile, type Run, useCollect, useConnect, useSources, useStopFollowing } from "./queries";
import { RUN_WORDS } from "./rules";

export function SourcesPage() {
  const { brand, networks, canChange } = useBrand();
  const [params, setParams] = useSearchParams();
  const sources = useSources(brand.slug);
  const collect = useCollect(brand.slug);
  const connect = useConnect(brand.slug);
  const say = useToast();
  const connection = Number(params.get("connection")) || null;
  const consent = params.get("consent");
  const running = sources.data?.runs.filter(isOpen).length ?? 0;
  const profiles = sources.data?.profiles ?? [];
  const close = () => setParams({});
  return (
    <>
      <div className="flex h-[46px] items-center gap-3 border-b border-rule px-5">
        <h1 className="text-[18px]">Sources of {brand.name}</h1>
        <span className="text-muted" role="status">
          {running > 0 ? `${plural(running, "collection")} under way` : ""}
        </span>
        {canChange && (
          <div className="ml-auto flex gap-2">
            <Button
              isBusy={collect.isPending}
              onClick={() =>
                collect.mutate(undefined, {
                  onSuccess: (runs) => say(`${plural(runs.length, "profile")} will be collected.`),
                })
              }
            >
              Collect now
            </Button>
            <Link
              to={`/${brand.slug}/sources/import`}
              className="inline-flex h-8 items-center rounded-[2px] border border-rule-strong bg-panel px-3 hover:border-ink"
            >
              Import a file
            </Link>
            <Button onClick={() => setParams({ add: "1" })}>Follow a competitor</Button>
            <DropdownMenu.Root modal={false}>
              <DropdownMenu.Trigger asChild>
                <Button kind="main" isBusy={connect.isPending}>
                  Connect a profile
                </Button>
              </DropdownMenu.Trigger>
              <DropdownMenu.Portal>
                <DropdownMenu.Content
                  align="end"
                  sideOffset={4}
                  className="z-50 min-w-44 border border-rule-strong bg-panel py-1 text-ink shadow-xl"
                >
                  {networks.map((n) => (
                    <DropdownMenu.Item
                      key={n.key}
                      onSelect={() => connect.mutate(n.key)}
                      className="flex cursor-pointer items-center gap-2 px-3 py-1.5 outline-none data-[highlighted]:bg-wash"
                    >
                      <NetworkMark network={n.key} name={n.name} monogram={n.monogram} /> On {n.name}
                    </DropdownMenu.Item>
                  ))}
                </DropdownMenu.Content>
              </DropdownMenu.Portal>
            </DropdownMenu.Root>
          </div>
        )}
      </div>
      {(consent || connect.error || collect.error) && (
        <div className="px-5 pt-3">
          <Notice kind={consent === "cancelled" ? "note" : "wrong"}>
            {consent === "cancelled"
              ? "You cancelled at the network. Nothing was connected."
              : (consent ?? connect.error?.message ?? collect.error?.message)}
          </Notice>
        </div>
      )}
      {sources.error ? (
        <Failed error={sources.error} onRetry={() => sources.refetch()} />
      ) : !sources.data ? (
        <Loading what="Loading the sources" />
      ) : (
        <div className="grid min-h-0 flex-1 grid-cols-[minmax(0,3fr)_minmax(0,2fr)]">
          <div className="min-w-0 overflow-y-auto border-r border-rule px-5 py-3">
            {profiles.length === 0 && (
              <Empty title="Nothing is collected yet">
                Connect your profiles, follow your competitors', or import a file you have. Figures appear as soon as
                the first collection is through.
              </Empty>
            )}
            <Profiles
              title="Our profiles"
              profiles={profiles.filter((p) => p.kind === "own")}
              runs={sources.data.runs}
              onRenew={(network) => connect.mutate(network)}
            />
            <Profiles
              title="Competitors' profiles"
              profiles={profiles.filter((p) => p.kind === "competitor")}
              runs={sources.data.runs}
              onRenew={() => undefined}
            />
          </div>
          <section className="min-w-0 overflow-y-auto px-5 py-3" aria-labelledby="runs-title">
            <h2 id="runs-title" className="text-[16px]">
              What came when
            </h2>
            <p className="label">
              Collections run by themselves every hour; each says what it brought and what is missing.
            </p>
            <ul className="mt-1">
              {sources.data.runs.map((run) => (
                <RunLine key={run.id} run={run} />
              ))}
            </ul>
          </section>
        </div>
      )}
      <Sheet form="dialog" isOpen={connection !== null} onClose={close} title="Which of these shall be connected?">
        {connection !== null && <ChooseAccounts id={connection} onDone={close} />}
      </Sheet>
      <Sheet form="dialog" isOpen={params.get("add") === "1"} onClose={close} title="Follow a competitor's profile">
        <AddCompetitor onDone={close} />
      </Sheet>
    </>
  );
}

function Profiles({
  title,
  profiles,
  runs,
  onRenew,
}: {
  title: string;
  profiles: Profile[];
  runs: Run[];
  onRenew: (network: string) => void;
}) {
  const { brand, networks, now, canChange } = useBrand();
  const collect = useCollect(brand.slug);
  const stop = useStopFollowing(brand.slug);
  const say = useToast();
  if (profiles.length === 0) return null;
  return (
    <section className="mb-6" aria-label={title}>
      <h2 className="text-[16px]">{title}</h2>
      <table className="w-full table-fixed">
        <thead className="label text-left">
          <tr className="h-7 border-b border-rule-strong">
            <th className="font-normal">Profile</th>
            <th className="w-[74px] text-right font-normal">Followers</th>
            <th className="w-[52px] text-right font-normal">Posts</th>
            <th className="w-[84px] text-right font-normal">Last post</th>
            <th className="w-[150px] pl-4 font-normal">Collected</th>
            <th className="w-[100px]">
              <span className="sr-only">Actions</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {profiles.map((p) => {
            const network = networks.find((n) => n.key === p.network);
            const open = runs.find((run) => run.profile_id === p.id && isOpen(run));
            const state = RUN_WORDS[open?.state ?? p.last_state ?? ""];
            return (
              <tr key={p.id} className="rowline h-9 hover:bg-panel">
                <td className="pr-2">
                  <span className="flex items-center gap-2">
                    <img
                      src={p.picture}
                      alt=""
                      width="22"
                      height="22"
                      className="h-[22px] w-[22px] bg-rule"
                      loading="lazy"
                    />
                    <NetworkMark
                      network={p.network}
                      name={network?.name ?? p.network}
                      monogram={network?.monogram ?? ""}
                    />
                    <span className="truncate font-semibold">{p.name}</span>
                    <span className="label truncate">@{p.handle}</span>
                  </span>
                </td>
                <td className="text-right">{figure(p.followers)}</td>
                <td className="text-right">{figure(p.post_count)}</td>
                <td className="text-right text-muted">{since(p.last_post_at, now)}</td>
                <td className="truncate pl-4" title={p.last_message ?? ""}>
                  {p.authorisation === "lapsed" || p.authorisation === "missing" ? (
                    <span className="flex items-center gap-2">
                      <StateWord tone="wrong">{p.authorisation === "lapsed" ? "lapsed" : "not connected"}</StateWord>
                      {canChange && (
                        <button
                          type="button"
                          onClick={() => onRenew(p.network)}
                          className="under h-6 font-semibold hover:text-berry"
                        >
                          renew
                        </button>
                      )}
                    </span>
                  ) : state ? (
                    <StateWord tone={state.tone}>
                      {open
                        ? `${state.word}, ${plural(open.posts_seen, "post")}`
                        : `${state.word} ${since(p.last_success_at, new Date())}`}
                    </StateWord>
                  ) : (
                    <span className="label">from a file</span>
                  )}
                </td>
                <td className="text-right">
                  {canChange && (
                    <span className="inline-flex gap-3">
                      <button
                        type="button"
                        disabled={!!open}
                        onClick={() => collect.mutate(p.id)}
                        aria-label={`Collect ${p.name} on ${network?.name}`}
                        className="under h-6 hover:text-berry disabled:opacity-40"
                      >
                        collect
                      </button>
                      {p.kind === "competitor" && (
                        <button
                          type="button"
                          aria-label={`Stop following ${p.name} on ${network?.name}`}
                          onClick={() =>
                            stop.mutate(p.id, {
                              onSuccess: () => say(`${p.name} is no longer followed. What was collected stays.`),
                            })
                          }
                          className="under h-6 hover:text-berry"
                        >
                          stop
                        </button>
                      )}
                    </span>
                  )}
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
    </section>
  );
}

function RunLine({ run }: { run: Run }) {
  const { brand, networks } = useBrand();
  const state = RUN_WORDS[run.state] ?? { word: run.state, tone: "quiet" as const };
  const network = networks.find((n) => n.key === run.network);
  return (
    <li className="rowline py-1.5">
      <span className="flex items-center gap-2">
        <NetworkMark network={run.network} name={network?.name ?? ""} monogram={network?.monogram ?? ""} />
        <span className="truncate font-semibold">{run.profile}</span>
        <StateWord tone={state.tone}>{state.word}</StateWord>
        <span className="label ml-auto whitespace-nowrap" title={shortDay(dayOf(run.asked_at, brand.time_zone))}>
          {since(run.asked_at, new Date())}
        </span>
      </span>
      <span className="label block">
        {plural(run.posts_seen, "post")} read, {run.posts_new} new, {plural(run.readings_new, "new reading")}
        {run.requests > 0 && `, ${plural(run.requests, "request")}`}
        {run.calls_left !== null && `, ${figure(run.calls_left)} left this minute`}
      </span>
      {run.message && (
        <span className={`block ${run.state === "complete" ? "label" : "text-down"}`}>{run.message}</span>
      )}
    </li>
  );
}
