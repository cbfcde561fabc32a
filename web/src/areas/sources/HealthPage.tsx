import { Link } from "react-router";
import { moment } from "../../lib/days";
import { figure, plural, since } from "../../lib/format";
import { networkNamed, useBrand } from "../../study/brand";
import { Button } from "../../ui/Button";
import { NetworkMark, StateWord } from "../../ui/Marks";
import { Empty, Failed, Loading, Notice } from "../../ui/States";
import { Coverage, CoverageKey } from "./Coverage";
import { type Health, useCollect, useConnect, useHealth } from "./queries";
import { FILE_WORDS } from "./rules";
import { SourcesBar } from "./SourcesBar";

/** Is everything here that should be? Each profile's last 90 days, each trouble with what to do. */
export function HealthPage() {
  const { brand } = useBrand();
  const health = useHealth(brand.slug);
  const connect = useConnect(brand.slug);
  const collect = useCollect(brand.slug);
  const ill = health.data?.profiles.filter((h) => h.troubles.length > 0) ?? [];
  const count = health.data?.profiles.length ?? 0;
  return (
    <>
      <SourcesBar />
      {(connect.error ?? collect.error) && (
        <div className="px-5 pt-3">
          <Notice kind="wrong">{(connect.error ?? collect.error)?.message}</Notice>
        </div>
      )}
      {health.error ? (
        <Failed error={health.error} onRetry={() => health.refetch()} />
      ) : !health.data ? (
        <Loading what="Looking at every profile" lines={9} />
      ) : count === 0 ? (
        <Empty
          title="Nothing is collected yet"
          action={
            <Link to={`/${brand.slug}/sources`} className="under font-semibold">
              Connect or follow a profile
            </Link>
          }
        >
          The health of every profile shows here, with what to do where something is missing.
        </Empty>
      ) : (
        <div className="grid min-h-0 flex-1 grid-cols-[minmax(0,7fr)_minmax(260px,3fr)]">
          <section className="min-w-0 overflow-y-auto border-r border-rule px-5 py-3" aria-labelledby="health-title">
            <h1 id="health-title" className="text-[18px] leading-6">
              {ill.length === 0
                ? `All ${plural(count, "profile")} are collected as they should be`
                : `${plural(ill.length, "profile needs", "profiles need")} a look, ${count - ill.length} are well`}
            </h1>
            <CoverageKey />
            <ul className="mt-2">
              {health.data.profiles.map((h) => (
                <HealthRow
                  key={h.profile.id}
                  health={h}
                  onRenew={() => connect.mutate({ network: h.profile.network, renews: h.profile.id })}
                  onCollect={() => collect.mutate(h.profile.id)}
                />
              ))}
            </ul>
          </section>
          <section className="min-w-0 overflow-y-auto px-5 py-3" aria-labelledby="files-title" tabIndex={0}>
            <h2 id="files-title" className="text-[16px]">
              Files
            </h2>
            {health.data.imports.length === 0 && <p className="label">No file was brought in yet.</p>}
            <ul>
              {health.data.imports.map((item) => {
                const state = FILE_WORDS[item.state];
                return (
                  <li key={item.id} className="rowline py-1.5">
                    <Link
                      to={`/${brand.slug}/sources/import/${item.id}`}
                      className="block truncate font-semibold hover:text-berry"
                    >
                      {item.file_name}
                    </Link>
                    <span className="flex flex-wrap gap-x-3">
                      {state && <StateWord tone={state.tone}>{state.word}</StateWord>}
                      <span className="label">
                        {figure(item.accepted)} rows taken, {figure(item.refused)} left out,{" "}
                        {moment(item.created_at, brand.time_zone)}
                      </span>
                    </span>
                    {item.message && <span className="block text-down">{item.message}</span>}
                  </li>
                );
              })}
            </ul>
            <h2 className="mt-6 text-[16px]">Feeds in trouble</h2>
            {health.data.feeds.length === 0 && <p className="label">None: every feed that is followed answers.</p>}
            <ul>
              {health.data.feeds.map((feed) => (
                <li key={feed.id} className="rowline py-1.5">
                  <span className="block truncate font-semibold">{feed.title}</span>
                  <span className="block text-down">{feed.message}</span>
                  <span className="label">
                    Failed {plural(feed.failures, "time")} in a row; asked again {since(feed.next_at, new Date())}.
                  </span>
                </li>
              ))}
            </ul>
          </section>
        </div>
      )}
    </>
  );
}

function HealthRow({ health: h, onRenew, onCollect }: { health: Health; onRenew: () => void; onCollect: () => void }) {
  const { brand, networks, can } = useBrand();
  const canChange = can("sources.collect");
  const p = h.profile;
  const network = networkNamed(networks, p.network);
  const name = network.name;
  return (
    <li className="rowline py-1.5" aria-label={`${p.name} on ${name}`}>
      <div className="flex items-center gap-2">
        <NetworkMark network={network} />
        <Link to={`/${brand.slug}/sources/profiles/${p.id}`} className="w-[230px] truncate hover:text-berry">
          <span className="font-semibold">{p.name}</span> <span className="label">{name}</span>
        </Link>
        <Coverage first={h.coverage.first} days={h.coverage.days} width={360} />
        <span className="label ml-auto whitespace-nowrap text-right">
          {p.is_from_file
            ? "from files"
            : `${since(p.last_success_at, new Date())}; ${p.next_run_at ? `next ${since(p.next_run_at, new Date())}` : "no next"}`}
        </span>
      </div>
      {h.troubles.map((trouble) => (
        <p key={trouble.kind} className="mt-1 flex items-baseline gap-2 pl-[29px]">
          <span className="max-w-[55%] shrink-0">
            <StateWord tone={trouble.kind === "hole" || trouble.kind === "scope" ? "quiet" : "wrong"}>
              {trouble.text}
            </StateWord>
          </span>
          <span className="text-muted">{trouble.advice}</span>
          {canChange && trouble.act === "renew" && (
            <Button kind="quiet" onClick={onRenew} aria-label={`Renew ${p.name} on ${name}`}>
              renew
            </Button>
          )}
          {canChange && trouble.act === "collect" && (
            <Button kind="quiet" onClick={onCollect} aria-label={`Collect ${p.name} on ${name} again`}>
              try now
            </Button>
          )}
          {canChange && trouble.kind === "hole" && (
            <Link to={`/${brand.slug}/sources/import`} className="under hover:text-berry">
              bring in a file
            </Link>
          )}
        </p>
      ))}
    </li>
  );
}
