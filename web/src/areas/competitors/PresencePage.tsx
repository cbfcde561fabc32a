import { Link, useLocation } from "react-router";
import { FigureValue } from "../../figures/FigureValue";
import { SaveAs } from "../../figures/SaveAs";
import { dayOf, shortDay } from "../../lib/days";
import { figure, share, type Unit } from "../../lib/format";
import { networkNamed, useBrand } from "../../study/brand";
import { ageName, carriedAll, useStudy } from "../../study/study";
import { CellBar, NetworkMark } from "../../ui/Marks";
import { Empty, Failed, Loading } from "../../ui/States";
import { CompetitorsFrame, useWhom } from "./CompetitorsFrame";
import { type Presence, usePresence } from "./queries";

type Network = Presence["networks"][number];

/** Who is on which network, what it brings them and how hard they work for it; also where we are not. */
export function PresencePage() {
  const { brand } = useBrand();
  const { study } = useStudy();
  const whom = useWhom();
  const found = usePresence(brand.slug, study, whom);
  const data = found.data;
  const absent = data?.networks.filter((n) => !n.ours && n.others > 0) ?? [];
  return (
    <CompetitorsFrame
      actions={<SaveAs name="presence" table={{ kind: "competitors.presence", params: { set: whom.set } }} />}
    >
      <section className="min-h-0 flex-1 overflow-y-auto px-5 py-3" aria-labelledby="presence-title">
        <h1 id="presence-title" className="text-[18px] leading-6">
          {data ? presenceTitle(data) : "Who is where"}
        </h1>
        <p className="label">
          Each network from the others alone, ours beneath in berry; posts {ageName(study.age ?? data?.age_hours ?? 72)}
          . A network pays where few posts bring much.
        </p>
        {found.error ? (
          <Failed error={found.error} onRetry={() => found.refetch()} />
        ) : !data ? (
          <Loading what="Looking who is where" lines={9} />
        ) : data.networks.length === 0 ? (
          <Empty title="Nobody of this set is followed">Follow competitors in Sources, or choose another set.</Empty>
        ) : (
          <>
            <Worth data={data} set={whom.set} />
            {absent.length > 0 && (
              <p className="mt-2">
                We are not on {absent.map((n) => n.name).join(", ")}: the figures above say what it brings the others.
              </p>
            )}
            {data.unused.length > 0 && (
              <p className="text-muted">Nobody of the set is on {data.unused.join(", ")}, as far as is known here.</p>
            )}
            <h2 className="mt-5 text-[16px]">Who is there</h2>
            <div className="mt-1 grid grid-cols-2 gap-x-8">
              {data.networks.map((network) => (
                <Who key={network.key} network={network} />
              ))}
            </div>
          </>
        )}
      </section>
    </CompetitorsFrame>
  );
}

function presenceTitle(data: Presence): string {
  const known = data.networks.filter((n) => n.others >= 2 && n.figures.interactions_per_post?.interval);
  const best = [...known].sort(
    (a, b) => (b.figures.interactions_per_post?.value ?? 0) - (a.figures.interactions_per_post?.value ?? 0),
  );
  const [first, second] = best;
  const low = first?.figures.interactions_per_post?.interval?.low ?? 0;
  const high = second?.figures.interactions_per_post?.interval?.high ?? Infinity;
  return first && second && low > high
    ? `A post brings the others most on ${first.name}`
    : "What each network brings those who are there";
}

function Worth({ data, set }: { data: Presence; set?: number }) {
  const { networks } = useBrand();
  const columns = data.columns.filter((c) => c.key !== "posts_per_week" && c.key !== "followers");
  const top = (key: string) => Math.max(0, ...data.networks.map((n) => n.figures[key]?.value ?? 0));
  return (
    <table className="mt-3 w-full">
      <caption className="sr-only">What each network brings</caption>
      <thead className="label text-right">
        <tr className="h-7 border-b border-rule-strong">
          <th className="text-left font-normal">Network</th>
          <th className="font-normal">Others there</th>
          <th className="font-normal">Audience of all</th>
          <th className="font-normal">Posts a week each</th>
          {columns.map((c) => (
            <th key={c.key} className="font-normal" title={c.definition}>
              {c.name}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {data.networks.map((n) => (
          <tr key={n.key} className="rowline h-[52px] text-right align-middle">
            <td className="text-left">
              <span className="flex items-center gap-2">
                <NetworkMark network={networkNamed(networks, n.key)} />
                <span className="font-semibold">{n.name}</span>
                {!n.ours && <span className="label">we are not there</span>}
              </span>
            </td>
            <td>{n.others}</td>
            <td>
              <Pair network={n} column="followers" unit="count" set={set} value={n.audience} />
            </td>
            <td>
              {figure(n.posts_each, "per_week")}
              {n.ours && (
                <span className="block text-[12px] leading-6 text-berry">
                  {figure(n.ours.posts_per_week?.value, "per_week")}
                </span>
              )}
            </td>
            {columns.map((c) => (
              <td key={c.key}>
                <span className="flex items-center justify-end gap-2">
                  <Pair network={n} column={c.key} unit={c.unit as Unit} set={set} />
                  <CellBar value={n.figures[c.key]?.value ?? null} max={top(c.key)} isOurs={false} />
                </span>
              </td>
            ))}
          </tr>
        ))}
      </tbody>
    </table>
  );
}

type PairProps = { network: Network; column: string; unit: Unit; set?: number; value?: number | null };

/** The others' figure, and ours beneath it. */
function Pair({ network, column, unit, set, value }: PairProps) {
  const theirs = value === undefined ? network.figures[column]?.value : value;
  const ours = network.ours?.[column];
  const held = network.figures[column]?.interval;
  const name = column.replaceAll("_", " ");
  return (
    <span
      title={held ? `${figure(held.low, unit)} to ${figure(held.high, unit)} (95 %), the posts as a sample` : undefined}
    >
      {network.others > 0 && (
        <FigureValue
          kind="competitors.presence"
          cell={`${network.key}:others.${column}`}
          params={{ set }}
          label={`${name} on ${network.name}, the others`}
          className="block h-6 w-full text-right"
        >
          {figure(theirs, unit)}
        </FigureValue>
      )}
      {ours && (
        <FigureValue
          kind="competitors.presence"
          cell={`${network.key}:ours.${column}`}
          params={{ set }}
          label={`${name} on ${network.name}, ours`}
          className="block h-6 w-full text-right text-[12px] text-berry"
        >
          {figure(ours.value, unit)}
        </FigureValue>
      )}
    </span>
  );
}

function Who({ network }: { network: Network }) {
  const { brand, networks } = useBrand();
  const search = carriedAll(useLocation().search);
  return (
    <div className="mb-4">
      <h3 className="flex items-center gap-2 border-b border-rule-strong pb-0.5 text-[14px] font-semibold">
        <NetworkMark network={networkNamed(networks, network.key)} />
        {network.name}
      </h3>
      <ul>
        {network.members.map((one) => {
          const asked = new URLSearchParams(search);
          asked.set("profile", one.profile_ids.join(","));
          asked.set("sort", "-index");
          return (
            <li
              key={one.key}
              className={`rowline grid h-7 grid-cols-[minmax(0,1fr)_70px_90px_120px] items-center gap-x-3 text-right ${one.is_own ? "text-berry" : ""}`}
            >
              <Link
                to={`/${brand.slug}/results/posts?${asked}`}
                className="truncate text-left hover:text-berry"
                title={`Posts of ${one.name} on ${network.name}`}
              >
                {one.name}
                {one.is_own && <span className="label"> us</span>}
              </Link>
              <span title="followers">{figure(one.followers.value)}</span>
              <span title="posts a week">{figure(one.posts_per_week.value, "per_week")} a week</span>
              <span className="label" title={spanTitle(one, brand.time_zone)}>
                {one.left
                  ? `silent since ${shortDay(one.left)}`
                  : one.entered
                    ? `new ${shortDay(one.entered)}`
                    : one.share === null
                      ? ""
                      : `${share(one.share)} of all`}
              </span>
            </li>
          );
        })}
      </ul>
    </div>
  );
}

function spanTitle(one: Network["members"][number], zone: string): string {
  if (!one.first || !one.last) return "no post is known";
  return `first post known ${shortDay(dayOf(one.first, zone))}, last ${shortDay(dayOf(one.last, zone))}`;
}
