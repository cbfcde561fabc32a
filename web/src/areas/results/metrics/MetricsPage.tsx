import { type ReactNode, useState } from "react";
import { useSearchParams } from "react-router";
import { plural } from "../../../lib/format";
import { useBrand } from "../../../study/brand";
import { Button } from "../../../ui/Button";
import { NetworkMark } from "../../../ui/Marks";
import { Empty, Failed, Loading } from "../../../ui/States";
import { useToast } from "../../../ui/Toast";
import { bySubject, found, MOST_FOUND, type OfMeasure } from "../catalogue";
import { type Metric, useCatalogue, useRemoveMetric } from "../queries";
import { ResultsFrame } from "../ResultsFrame";
import { MetricEditor } from "./MetricEditor";

const OVER = {
  received: "what posts of any age received in the period",
  published: "the posts published in the period, each at equal age",
  profile: "what profiles report by the day",
  brought: "what tracked links, the brand's sites and comments counted in the period",
};
const ADDS_UP = {
  sum: "added",
  last: "the last word counts",
  ratio_of_sums: "ratio of sums",
  geometric_mean: "geometric mean",
  median: "the middle post",
  largest: "the largest",
  change: "against the comparison",
};
const UNITS: Record<string, string> = {
  count: "count",
  rate: "rate",
  per_1000: "per 1,000",
  per_week: "per week",
  per_post: "per post",
  index: "index",
  seconds: "seconds",
  number: "number",
  change: "change",
  money: "money",
};

/** Every metric: what it means, how it is made and adds up, and which networks supply it; and the team's own. */
export function MetricsPage() {
  const { brand, can } = useBrand();
  const canChange = can("results.metrics");
  const catalogue = useCatalogue(brand.slug);
  const [params, setParams] = useSearchParams();
  const [edited, setEdited] = useState<Metric | "new" | null>(null);
  const text = params.get("find") ?? "";
  const metrics = catalogue.data?.metrics ?? [];
  const hits = text.trim() ? found(metrics, text) : metrics;
  const own = hits.filter((m) => m.is_team);
  const rows = (list: Metric[]) => list.map((m) => <Row key={m.key} metric={m} onEdit={() => setEdited(m)} />);
  return (
    <ResultsFrame
      actions={
        <>
          <input
            type="search"
            value={text}
            onChange={(e) => setParams(e.target.value ? { find: e.target.value } : {}, { replace: true })}
            placeholder="Find a metric"
            aria-label="Find a metric"
            className="h-6 w-52 rounded-[2px] border border-rule-strong bg-panel px-2 placeholder:text-muted"
          />
          {canChange && (
            <button type="button" className="under font-semibold hover:text-berry" onClick={() => setEdited("new")}>
              A metric of our own
            </button>
          )}
        </>
      }
    >
      <section className="min-h-0 flex-1 overflow-y-auto px-5 py-3" aria-labelledby="metrics-title">
        <h1 id="metrics-title" className="text-[18px] leading-6">
          {catalogue.data ? `${plural(hits.length, "metric")} and what each means` : "Metrics"}
        </h1>
        {catalogue.data && !text.trim() && (
          <p className="label mt-1">
            {plural(catalogue.data.measures.length, "thing")} are counted, each in every way that says something of it.
            Open a way to read what it means.
          </p>
        )}
        {catalogue.error ? (
          <Failed error={catalogue.error} onRetry={() => catalogue.refetch()} />
        ) : !catalogue.data ? (
          <Loading what="Loading the catalogue" lines={12} />
        ) : hits.length === 0 ? (
          <Empty title="No metric is called so">Look for a word of its name, definition or formula.</Empty>
        ) : (
          <table className="mt-2 w-full">
            <thead className="label text-left">
              <tr className="rowline h-7">
                <th className="w-[190px] font-normal">Metric</th>
                <th className="font-normal">Definition</th>
                <th className="w-[90px] font-normal">Unit</th>
                <th className="w-[120px] font-normal">Adds up</th>
                <th className="w-[250px] font-normal">Supplied by, of one's own</th>
              </tr>
            </thead>
            {text.trim() ? (
              <tbody>{rows([...own, ...hits.filter((m) => !m.is_team)].slice(0, MOST_FOUND))}</tbody>
            ) : (
              <>
                {own.length > 0 && (
                  <tbody>
                    <HeadingRow name="The team's own" />
                    {rows(own)}
                  </tbody>
                )}
                {bySubject(catalogue.data, metrics).map(({ name, measures }) => (
                  <tbody key={name}>
                    <HeadingRow name={name} />
                    {measures.map((measure) => (
                      <MeasureRows key={measure.key} measure={measure} rows={rows} />
                    ))}
                  </tbody>
                ))}
              </>
            )}
          </table>
        )}
        {text.trim() && hits.length > MOST_FOUND && (
          <p className="label mt-2">{hits.length - MOST_FOUND} more; write more of what it is called.</p>
        )}
      </section>
      {edited !== null && (
        <MetricEditor
          metric={edited === "new" ? null : edited}
          names={catalogue.data?.names ?? []}
          onClose={() => setEdited(null)}
        />
      )}
    </ResultsFrame>
  );
}

function HeadingRow({ name }: { name: string }) {
  return (
    <tr>
      <th colSpan={5} scope="rowgroup" className="pt-4 pb-1 text-left text-[16px] font-normal">
        {name}
      </th>
    </tr>
  );
}

/** One thing that is counted, its total, and the ways of counting it by name; those that are opened stand beneath. */
function MeasureRows({ measure, rows }: { measure: OfMeasure; rows: (list: Metric[]) => ReactNode }) {
  const { ways } = useWays();
  const [opened, setOpened] = useState<string[]>([]);
  const toggle = (key: string) =>
    setOpened((old) => (old.includes(key) ? old.filter((k) => k !== key) : [...old, key]));
  const [total] = measure.metrics;
  return (
    <>
      <tr className="rowline align-top">
        <td className="py-2 pr-3 font-semibold">{measure.name}</td>
        <td colSpan={3} className="py-2 pr-5">
          {measure.definition}
          <span className="mt-0.5 flex flex-wrap gap-x-3">
            {measure.metrics.map((m) => (
              <button
                key={m.key}
                type="button"
                aria-expanded={opened.includes(m.key)}
                title={m.name}
                onClick={() => toggle(m.key)}
                className={`label under h-6 hover:text-berry ${opened.includes(m.key) ? "font-semibold text-ink" : ""}`}
              >
                {ways.get(m.way) ?? m.way}
              </button>
            ))}
          </span>
        </td>
        <td className="py-2">{total && <Told metric={total} />}</td>
      </tr>
      {rows(measure.metrics.filter((m) => opened.includes(m.key)))}
    </>
  );
}

function useWays() {
  const { brand } = useBrand();
  const ways = useCatalogue(brand.slug).data?.ways ?? [];
  return { ways: new Map(ways.map((way) => [way.key, way.name])) };
}

function Row({ metric, onEdit }: { metric: Metric; onEdit: () => void }) {
  const { brand, can } = useBrand();
  const canChange = can("results.metrics");
  const remove = useRemoveMetric(brand.slug);
  const [isSure, setSure] = useState(false);
  const say = useToast();
  return (
    <tr className="rowline align-top">
      <td className="py-2 pr-3">
        <span className="font-semibold">{metric.name}</span>
        <span className="label block">{metric.is_team ? "the team's own" : metric.key}</span>
      </td>
      <td className="py-2 pr-5">
        {metric.definition}
        {metric.note && <span className="text-muted"> {metric.note}</span>}
        {metric.formula && <code className="block text-[13px] text-muted">{metric.formula}</code>}
        <span className="label block">Over {OVER[metric.over]}.</span>
        {metric.is_team && canChange && (
          <span className="flex gap-3">
            <Button kind="quiet" onClick={onEdit}>
              Change
            </Button>
            {isSure ? (
              <Button
                kind="quiet"
                className="text-down"
                onClick={() => remove.mutate(metric.id as number, { onError: (e) => say(e.message, "wrong") })}
              >
                Yes, remove {metric.name}
              </Button>
            ) : (
              <Button kind="quiet" onClick={() => setSure(true)}>
                Remove
              </Button>
            )}
          </span>
        )}
      </td>
      <td className="py-2">{UNITS[metric.unit]}</td>
      <td className="py-2">{ADDS_UP[metric.adds_up]}</td>
      <td className="py-2">
        <Told metric={metric} />
      </td>
    </tr>
  );
}

/** Who tells it, of one's own and of others' profiles. */
function Told({ metric }: { metric: Metric }) {
  const { networks } = useBrand();
  if (metric.over === "brought") return <span>Counted here, whatever the network tells.</span>;
  return (
    <>
      <span className="flex flex-wrap gap-1">
        {networks
          .filter((n) => metric.own_networks.includes(n.key))
          .map((network) => (
            <span
              key={network.key}
              title={metric.public_networks.includes(network.key) ? "also of others' profiles" : "of one's own alone"}
            >
              <NetworkMark network={network} />
            </span>
          ))}
      </span>
      <span className="label">
        {plural(metric.own_networks.length, "network")}; of others' profiles {metric.public_networks.length}
      </span>
    </>
  );
}
