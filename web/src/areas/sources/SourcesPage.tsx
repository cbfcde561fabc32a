import { Link, useSearchParams } from "react-router";
import { dayOf, shortDay } from "../../lib/days";
import { figure, plural, since } from "../../lib/format";
import { networkNamed, useBrand } from "../../study/brand";
import { FirstSteps } from "../../study/FirstSteps";
import { Button } from "../../ui/Button";
import { Cut } from "../../ui/Cut";
import { NetworkMark, StateWord } from "../../ui/Marks";
import { Sheet } from "../../ui/Sheet";
import { Empty, Failed, Loading, Notice } from "../../ui/States";
import { useToast } from "../../ui/Toast";
import { ChooseAccounts } from "./ChooseAccounts";
import { ChooseNetwork } from "./ChooseNetwork";
import { FollowCompetitor } from "./FollowCompetitor";
import { isOpen, type Profile, type Run, useCollect, useConnect, useSources } from "./queries";
import { byCompetitor, RUN_WORDS, runLine } from "./rules";
import { SourcesBar } from "./SourcesBar";

export function SourcesPage() {
  const { brand, can } = useBrand();
  const canChange = can("sources.connect");
  const [params, setParams] = useSearchParams();
  const sources = useSources(brand.slug);
  const collect = useCollect(brand.slug);
  const connect = useConnect(brand.slug);
  const say = useToast();
  const connection = Number(params.get("connection")) || null;
  const open = canChange ? params.get("open") : null;
  const running = sources.data?.runs.filter(isOpen).length ?? 0;
  const profiles = sources.data?.profiles ?? [];
  const close = () => setParams({});
  return (
    <>
      <h1 className="sr-only">Sources of {brand.name}</h1>
      <SourcesBar>
        <span className="text-muted" role="status">
          {running > 0 ? `${plural(running, "collection")} under way` : ""}
        </span>
        {canChange && (
          <>
            <Button
              isBusy={collect.isPending}
              disabled={!sources.data?.profiles.length}
              onClick={() =>
                collect.mutate(undefined, {
                  onSuccess: (runs) => say(`${plural(runs.length, "profile")} will be collected.`),
                })
              }
            >
              Collect now
            </Button>
            <Button onClick={() => setParams({ open: "competitor" })}>Follow a competitor</Button>
            <Button kind="main" onClick={() => setParams({ open: "network" })}>
              Connect a profile
            </Button>
          </>
        )}
      </SourcesBar>
      <Consent consent={params.get("consent")} renewed={params.get("renewed")} />
      {(connect.error ?? collect.error) && (
        <div className="px-5 pt-3">
          <Notice kind="wrong">{(connect.error ?? collect.error)?.message}</Notice>
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
              <>
                <Empty title="Nothing is collected yet">
                  Connect your profiles, follow your competitors', or bring in a file you have. Figures appear as soon
                  as the first collection is through.
                </Empty>
                <FirstSteps />
              </>
            )}
            <Profiles
              title="Our profiles"
              profiles={profiles.filter((p) => p.kind === "own")}
              runs={sources.data.runs}
              onRenew={(p) => connect.mutate({ network: p.network, renews: p.id })}
            />
            <Profiles
              title="Competitors' profiles"
              isGrouped
              profiles={profiles.filter((p) => p.kind === "competitor")}
              runs={sources.data.runs}
              onRenew={() => undefined}
            />
          </div>
          <section className="min-w-0 overflow-y-auto px-5 py-3" aria-labelledby="runs-title" tabIndex={0}>
            <h2 id="runs-title" className="text-[16px]">
              What came when
            </h2>
            <p className="label">
              Collections run by themselves: hourly for our profiles, every three hours for others', and sooner when a
              young post is due.
            </p>
            <ul className="mt-1">
              {sources.data.runs.map((run) => (
                <RunLine key={run.id} run={run} />
              ))}
            </ul>
          </section>
        </div>
      )}
      <Sheet form="dialog" isOpen={open === "network"} onClose={close} title="On which network is the profile?">
        <ChooseNetwork isBusy={connect.isPending} onChoose={(network) => connect.mutate({ network })} />
      </Sheet>
      <Sheet form="dialog" isOpen={connection !== null} onClose={close} title="Which of these shall be connected?">
        {connection !== null && <ChooseAccounts id={connection} onDone={close} />}
      </Sheet>
      <Sheet form="dialog" isOpen={open === "competitor"} onClose={close} title="Follow a competitor">
        <FollowCompetitor onDone={close} />
      </Sheet>
    </>
  );
}

function Consent({ consent, renewed }: { consent: string | null; renewed: string | null }) {
  if (!consent && !renewed) return null;
  return (
    <div className="px-5 pt-3">
      {renewed ? (
        <Notice kind="good">The authorisation of {renewed} is renewed. What was missed is being collected.</Notice>
      ) : consent === "cancelled" ? (
        <Notice>You cancelled at the network. Nothing was connected.</Notice>
      ) : (
        <Notice kind="wrong">{consent}</Notice>
      )}
    </div>
  );
}

type TableProps = {
  title: string;
  profiles: Profile[];
  runs: Run[];
  onRenew: (profile: Profile) => void;
  isGrouped?: boolean;
};

function Profiles({ title, profiles, runs, onRenew, isGrouped }: TableProps) {
  if (profiles.length === 0) return null;
  const groups = isGrouped ? byCompetitor(profiles) : [{ name: "", profiles }];
  return (
    <section className="mb-6" aria-label={title}>
      <h2 className="text-[16px]">{title}</h2>
      <table className="w-full table-fixed">
        <thead className="label text-left">
          <tr className="h-7 border-b border-rule-strong">
            <th className="font-normal">Profile</th>
            <th className="w-[66px] text-right font-normal">Followers</th>
            <th className="w-[46px] text-right font-normal">Posts</th>
            <th className="w-[76px] text-right font-normal">Last post</th>
            <th className="w-[164px] pl-4 font-normal">Collected</th>
            <th className="w-[64px]">
              <span className="sr-only">Actions</span>
            </th>
          </tr>
        </thead>
        {groups.map((group) => (
          <tbody key={group.name}>
            {group.name && (
              <tr>
                <th colSpan={6} scope="rowgroup" className="pt-2 pb-0.5 text-left text-[13px] font-semibold">
                  {group.name}
                  <span className="label ml-2 font-normal">{plural(group.profiles.length, "profile")}</span>
                </th>
              </tr>
            )}
            {group.profiles.map((p) => (
              <ProfileRow
                key={p.id}
                profile={p}
                open={runs.find((run) => run.profile_id === p.id && isOpen(run))}
                onRenew={() => onRenew(p)}
                isGrouped={isGrouped}
              />
            ))}
          </tbody>
        ))}
      </table>
    </section>
  );
}

function ProfileRow({
  profile: p,
  open,
  onRenew,
  isGrouped,
}: {
  profile: Profile;
  open?: Run;
  onRenew: () => void;
  isGrouped?: boolean;
}) {
  const { brand, networks, now, can } = useBrand();
  const canChange = can("sources.connect");
  const collect = useCollect(brand.slug);
  const network = networkNamed(networks, p.network);
  const name = network.name;
  const state = RUN_WORDS[open?.state ?? p.last_state ?? ""];
  return (
    <tr className="rowline h-8 hover:bg-panel">
      <td className="pr-2">
        <span className={`flex items-center gap-2 ${isGrouped ? "pl-3" : ""}`}>
          <img src={p.picture || undefined} alt="" width="20" height="20" className="h-5 w-5 bg-rule" loading="lazy" />
          <NetworkMark network={network} />
          <Link to={`/${brand.slug}/sources/profiles/${p.id}`} className="shrink-0 font-semibold hover:text-berry">
            {isGrouped ? name : p.name}
          </Link>
          <Cut className="label">
            {isGrouped ? "" : `${name}, `}
            {p.is_from_file ? "from files" : `@${p.handle}`}
          </Cut>
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
                onClick={onRenew}
                aria-label={`Renew ${p.name} on ${name}`}
                className="under h-6 font-semibold hover:text-berry"
              >
                renew
              </button>
            )}
          </span>
        ) : p.is_from_file ? (
          <span className="label">from files</span>
        ) : state ? (
          <StateWord tone={state.tone}>
            {open
              ? `${open.step || state.word}, ${plural(open.posts_seen, "post")}`
              : `${state.word} ${since(p.last_success_at, new Date())}`}
          </StateWord>
        ) : (
          <span className="label">not yet</span>
        )}
      </td>
      <td className="text-right">
        {canChange && !p.is_from_file && (
          <button
            type="button"
            disabled={!!open}
            onClick={() => collect.mutate(p.id)}
            aria-label={`Collect ${p.name} on ${name}`}
            className="under h-6 hover:text-berry disabled:opacity-40"
          >
            collect
          </button>
        )}
      </td>
    </tr>
  );
}

/** A run: what it brought, what was slow or refused, what is missing. */
export function RunLine({ run, hasProfile = true }: { run: Run; hasProfile?: boolean }) {
  const { brand, networks } = useBrand();
  const state = RUN_WORDS[run.state] ?? { word: run.state, tone: "quiet" as const };
  const network = networkNamed(networks, run.network);
  const rests = run.state === "waiting" && run.resume_at;
  return (
    <li className="rowline py-1.5">
      <span className="flex items-center gap-2">
        {hasProfile && (
          <>
            <NetworkMark network={network} />
            <Cut className="font-semibold">{run.profile}</Cut>
          </>
        )}
        <StateWord tone={state.tone}>
          {rests ? `goes on ${since(run.resume_at, new Date())}` : run.step ? `${state.word}: ${run.step}` : state.word}
        </StateWord>
        <span className="label ml-auto whitespace-nowrap" title={shortDay(dayOf(run.asked_at, brand.time_zone))}>
          {since(run.asked_at, new Date())}
        </span>
      </span>
      <span className="label block">{runLine(run)}</span>
      {(run.message || run.missing) && (
        <span className={`block ${run.state === "failed" || run.state === "partial" ? "text-down" : "label"}`}>
          {run.message}
          {run.missing && ` Not brought: ${run.missing}; the next one brings it.`}
        </span>
      )}
    </li>
  );
}
