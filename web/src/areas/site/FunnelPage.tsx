import { Fragment, type ReactNode } from "react";
import { Link, useLocation } from "react-router";
import { FigureValue } from "../../figures/FigureValue";
import type { Of } from "../../figures/queries";
import { SaveAs } from "../../figures/SaveAs";
import { figure, percent, plural } from "../../lib/format";
import { AreaFrame } from "../../study/AreaFrame";
import { networkNamed, useBrand } from "../../study/brand";
import { StepTo } from "../../study/NothingYet";
import { carriedAll, useStudy } from "../../study/study";
import { useAddress } from "../../study/useAddress";
import { Choice } from "../../ui/Choice";
import { Cut } from "../../ui/Cut";
import { NetworkMark } from "../../ui/Marks";
import { Empty, Failed, Loading } from "../../ui/States";
import { LikeNames } from "../results";
import { type Funnel, useFunnel } from "./queries";
import { besides, money } from "./rules";
import { useGoal } from "./useGoal";

const BY = [
  { value: "network", label: "network" },
  { value: "campaign", label: "campaign" },
  { value: "post", label: "post" },
];

const HERE = "of the posts published in these days that carry a tracked link, whenever they came";
const LIKE = [
  { metric: "tracked_clicks", name: "clicks", of: "clicks of people" },
  { metric: "visits", name: "visits", of: "visits" },
  { metric: "conversions", name: "conversions", of: "conversions by the visit they were made in," },
];

/** From being seen to being bought, and the posts where attention and visits part. */
export function FunnelPage() {
  const { brand } = useBrand();
  const { study } = useStudy();
  const { params, set } = useAddress();
  const by = BY.some((b) => b.value === params.get("by")) ? (params.get("by") as string) : "network";
  const { goal, choice } = useGoal();
  const { first, last, compare } = study;
  const found = useFunnel(brand.slug, { first, last, compare, by, goal });
  const data = found.data;
  return (
    <AreaFrame area="site" actions={<SaveAs name="funnel" table={{ kind: "site.funnel", params: { by, goal } }} />}>
      {found.error ? (
        <Failed error={found.error} onRetry={() => found.refetch()} />
      ) : !data ? (
        <Loading what="Loading the funnels" />
      ) : data.rows.length === 0 ? (
        <Empty
          title="No post of these days carries a tracked link"
          action={<StepTo step="links?new=1" may="links.make" name="Make a tracked link" />}
        >
          Here stands how many of those who saw a post clicked, came and did what you hope for. Put a tracked link into
          a post, or move the period on the line above.
        </Empty>
      ) : (
        <section className="min-h-0 flex-1 overflow-y-auto px-5 py-3" aria-labelledby="funnel-title">
          <h1 id="funnel-title" className="text-[18px] leading-6">
            {data.total.click_rate.value !== null && data.total.visits > 0
              ? `Of a thousand views, ${figure(data.total.click_rate.value * 1000, "per_1000")} became clicks and ${figure(
                  (1000 * data.total.visits) / Math.max(1, data.total.impressions ?? 1),
                  "per_1000",
                )} visits`
              : "From being seen to being bought"}
          </h1>
          <p className="label">
            Posts of these days that carry a tracked link, all that came of them so far; conversions by the visit they
            were made in. Ranges are 95% intervals.
            {data.without_impressions > 0 &&
              ` ${plural(data.without_impressions, "post")} whose network tells no impressions left out of the sums.`}{" "}
            {besides(data.other_currencies)}
          </p>
          <Steps now={data.total} before={data.total_before} currency={data.currency} params={{ by, goal }} />
          <p className="label mt-1">
            Counted otherwise elsewhere:{" "}
            {LIKE.map(({ metric, name, of }, i) => (
              <Fragment key={metric}>
                {i > 0 && ", "}
                <LikeNames
                  metric={metric}
                  study={{ first, last, compare }}
                  title={`${name[0]?.toUpperCase()}${name.slice(1)}, counted otherwise`}
                  here={`${of} ${HERE}`}
                >
                  {name}
                </LikeNames>
              </Fragment>
            ))}
          </p>
          <p className="mt-4">
            By{" "}
            <Choice label="Funnels by" value={by} options={BY} onChoose={(value) => set("by", value)}>
              {BY.find((b) => b.value === by)?.label}
            </Choice>
            , conversions for {choice}
          </p>
          <FunnelTable rows={data.rows} before={data.before} by={by} goal={goal} currency={data.currency} />
          <div className="mt-5 grid grid-cols-2 gap-8">
            <ApartList
              title="Much attention, hardly a visit"
              empty="No post was seen much without bringing visits."
              rows={data.quiet}
            />
            <ApartList
              title="Little attention, many visits"
              empty="No post brought visits beyond its attention."
              rows={data.busy}
            />
          </div>
        </section>
      )}
    </AreaFrame>
  );
}

type Step = {
  name: string;
  key: string;
  value: number | null;
  was: number | null;
  by?: "click_rate" | "visit_rate" | "conversion_rate";
};
type StepsProps = { now: Funnel; before: Funnel; currency: string; params: Of["params"] };

function Steps({ now, before, currency, params }: StepsProps) {
  const of = { kind: "site.funnel", params };
  const steps: Step[] = [
    { name: "seen", key: "impressions", value: now.impressions, was: before.impressions },
    {
      name: "clicked",
      key: "clicks",
      value: now.clicks,
      was: before.clicks,
      by: "click_rate",
    },
    {
      name: "visited",
      key: "visits",
      value: now.visits,
      was: before.visits,
      by: "visit_rate",
    },
    {
      name: "converted",
      key: "conversions",
      value: now.conversions,
      was: before.conversions,
      by: "conversion_rate",
    },
  ];
  const widest = Math.log10(Math.max(10, now.impressions ?? now.clicks ?? 10));
  return (
    <ol className="mt-3 grid grid-cols-[repeat(4,1fr)_150px] border-y border-rule-strong" aria-label="The funnel">
      {steps.map((step) => {
        const rate = step.by && now[step.by];
        const old = step.by && before[step.by];
        return (
          <li key={step.name} className="border-r border-rule px-4 py-2">
            <p className="label">{step.name}</p>
            <p className="text-[20px] leading-6 font-semibold">
              <FigureValue {...of} cell={`all.${step.key}`} label={step.key}>
                {figure(step.value)}
              </FigureValue>
            </p>
            <svg width="100%" height="6" className="my-1 block" aria-hidden="true">
              <rect
                width={`${(100 * Math.log10(Math.max(1, step.value ?? 1))) / widest}%`}
                height="6"
                fill="var(--berry)"
              />
            </svg>
            <p className="text-[12.5px]">
              {step.by && rate?.value != null ? (
                <>
                  <FigureValue {...of} cell={`all.${step.by}`} label={`share that ${step.name}`} className="font-bold">
                    {percent(rate.value)}
                  </FigureValue>{" "}
                  {rate.low !== null && rate.high !== null && (
                    <span className="text-muted">
                      {percent(rate.low)} to {percent(rate.high)}
                    </span>
                  )}
                  <span className="block text-against-ink">before {old?.value != null ? percent(old.value) : "–"}</span>
                </>
              ) : (
                <span className="block text-against-ink">before {figure(step.was)}</span>
              )}
            </p>
          </li>
        );
      })}
      <li className="px-4 py-2">
        <p className="label">worth</p>
        <p className="text-[20px] leading-6 font-semibold">
          <FigureValue {...of} cell="all.cents" label="value">
            {money(now.cents, currency)}
          </FigureValue>
        </p>
        <p className="mt-4 text-[12.5px]">
          {now.cents_per_click !== null && `${money(now.cents_per_click, currency)} a click`}
          <span className="block text-against-ink">before {money(before.cents, currency)}</span>
        </p>
      </li>
    </ol>
  );
}

type TableProps = { rows: Funnel[]; before: Funnel[]; by: string; goal: number; currency: string };

function FunnelTable({ rows, before, by, goal, currency }: TableProps) {
  const { brand, networks } = useBrand();
  const { search } = useLocation();
  const old = new Map(before.map((row) => [row.key, row]));
  const opening = (row: Funnel, column: string, shown: ReactNode) => (
    <FigureValue
      kind="site.funnel"
      params={{ by, goal }}
      cell={`${by} ${row.key}.${column}`}
      label={`${column.replace("_", " ")}, ${row.name || row.key || "none"}`}
    >
      {shown}
    </FigureValue>
  );
  return (
    <table className="mt-1 w-full table-fixed">
      <thead className="label text-right">
        <tr className="h-7 border-b border-rule-strong">
          <th className="text-left font-normal capitalize">{by}</th>
          <th className="w-[84px] font-normal">Seen</th>
          <th className="w-[64px] font-normal">Clicks</th>
          <th className="w-[150px] font-normal">of views</th>
          <th className="w-[64px] font-normal">Visits</th>
          <th className="w-[150px] font-normal">of clicks</th>
          <th className="w-[72px] font-normal">Conv.</th>
          <th className="w-[150px] font-normal">of visits</th>
          <th className="w-[84px] font-normal">Worth</th>
          {by !== "post" && <th className="w-[84px] font-normal">Worth before</th>}
        </tr>
      </thead>
      <tbody>
        {rows.map((row) => (
          <tr key={row.key} className="rowline h-7 text-right">
            <td className="truncate pr-3 text-left">
              {by === "network" && row.key ? (
                <span className="flex items-center gap-1.5">
                  <NetworkMark network={networkNamed(networks, row.key)} />
                  {row.name || row.key}
                </span>
              ) : by === "post" ? (
                <Link
                  to={`/${brand.slug}/results/posts/${row.key}${carriedAll(search)}`}
                  className="leading-6 hover:text-berry"
                >
                  <Cut>{row.name}</Cut>
                </Link>
              ) : (
                row.name || "no campaign"
              )}
            </td>
            <td>{opening(row, "impressions", figure(row.impressions))}</td>
            <td>{opening(row, "clicks", figure(row.clicks))}</td>
            <td>{opening(row, "click_rate", <RateCell rate={row.click_rate} />)}</td>
            <td className="font-semibold">{opening(row, "visits", figure(row.visits))}</td>
            <td>{opening(row, "visit_rate", <RateCell rate={row.visit_rate} />)}</td>
            <td className="font-semibold">{opening(row, "conversions", figure(row.conversions))}</td>
            <td>{opening(row, "conversion_rate", <RateCell rate={row.conversion_rate} />)}</td>
            <td>{row.cents !== 0 ? opening(row, "cents", money(row.cents, currency)) : "–"}</td>
            {by !== "post" && (
              <td className="text-against-ink">
                {(old.get(row.key)?.cents ?? 0) !== 0 ? money(old.get(row.key)?.cents ?? 0, currency) : "–"}
              </td>
            )}
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function RateCell({ rate }: { rate: Funnel["click_rate"] }) {
  if (rate.value === null) return <>–</>;
  return (
    <>
      {percent(rate.value)}{" "}
      {rate.low !== null && rate.high !== null && (
        <span className="label">
          {percent(rate.low)}–{percent(rate.high)}
        </span>
      )}
    </>
  );
}

function ApartList({ title, empty, rows }: { title: string; empty: string; rows: Funnel[] }) {
  const { brand } = useBrand();
  const { search } = useLocation();
  return (
    <section aria-label={title}>
      <h2 className="text-[16px]">{title}</h2>
      {rows.length === 0 ? (
        <p className="label">{empty}</p>
      ) : (
        <ul>
          {rows.map((row) => (
            <li key={row.key} className="rowline grid h-7 grid-cols-[1fr_110px_80px] items-center gap-2">
              <Link
                to={`/${brand.slug}/results/posts/${row.key}${carriedAll(search)}`}
                className="min-w-0 leading-6 hover:text-berry"
              >
                <Cut>{row.name}</Cut>
              </Link>
              <span className="text-right text-muted">{figure(row.impressions)} views</span>
              <span className="text-right font-semibold">{plural(row.visits, "visit")}</span>
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}
