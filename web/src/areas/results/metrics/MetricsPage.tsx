import { useState } from "react";
import { useSearchParams } from "react-router";
import { plural } from "../../../lib/format";
import { useBrand } from "../../../study/brand";
import { Button } from "../../../ui/Button";
import { NetworkMark } from "../../../ui/Marks";
import { Empty, Failed, Loading } from "../../../ui/States";
import { useToast } from "../../../ui/Toast";
import { type Metric, useCatalogue, useRemoveMetric } from "../queries";
import { ResultsFrame } from "../ResultsFrame";
import { matches } from "../rules";
import { MetricEditor } from "./MetricEditor";

const OVER = {
  received: "what posts of any age received in the period",
  published: "the posts published in the period, each at equal age",
  profile: "what profiles report by the day",
  brought: "what tracked links and the brand's sites counted in the period",
};
const ADDS_UP = {
  sum: "added",
  last: "the last word counts",
  ratio_of_sums: "ratio of sums",
  geometric_mean: "geometric mean",
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
};

/** Every metric: what it means, how it is made and adds up, and which networks supply it; and the team's own. */
export function MetricsPage() {
  const { brand, can } = useBrand();
  const canChange = can("results.metrics");
  const catalogue = useCatalogue(brand.slug);
  const [params, setParams] = useSearchParams();
  const [edited, setEdited] = useState<Metric | "new" | null>(null);
  const text = params.get("find") ?? "";
  const shown = (catalogue.data?.metrics ?? []).filter((m) => matches(m, text));
  const sorted = [...shown.filter((m) => m.is_team), ...shown.filter((m) => !m.is_team)];
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
          {catalogue.data ? `${plural(sorted.length, "metric")} and what each means` : "Metrics"}
        </h1>
        {catalogue.error ? (
          <Failed error={catalogue.error} onRetry={() => catalogue.refetch()} />
        ) : !catalogue.data ? (
          <Loading what="Loading the catalogue" lines={12} />
        ) : sorted.length === 0 ? (
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
            <tbody>
              {sorted.map((metric) => (
                <Row key={metric.key} metric={metric} onEdit={() => setEdited(metric)} />
              ))}
            </tbody>
          </table>
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
        {metric.over === "brought" ? (
          <span>Counted here, whatever the network tells.</span>
        ) : (
          <Supply metric={metric} />
        )}
      </td>
    </tr>
  );
}

function Supply({ metric }: { metric: Metric }) {
  const { networks } = useBrand();
  return (
    <>
      <span className="flex flex-wrap gap-1">
        {metric.supply.map((s) => {
          const network = networks.find((n) => n.key === s.network);
          if (!network || !s.own) return null;
          return (
            <span key={s.network} title={s.public ? "also of others' profiles" : "of one's own alone"}>
              <NetworkMark network={network} />
            </span>
          );
        })}
      </span>
      <span className="label">
        {plural(metric.supply.filter((n) => n.own).length, "network")}; of others' profiles{" "}
        {metric.supply.filter((n) => n.public).length}
      </span>
    </>
  );
}
