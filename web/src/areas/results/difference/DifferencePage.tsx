import { useSearchParams } from "react-router";
import { BasisSheet } from "../../../figures/BasisSheet";
import { SaveAs } from "../../../figures/SaveAs";
import { absolute, figure } from "../../../lib/format";
import { useBrand } from "../../../study/brand";
import { useChosen } from "../../../study/choices";
import { useStudy } from "../../../study/study";
import { useAddress } from "../../../study/useAddress";
import { Empty, Failed, Loading, While } from "../../../ui/States";
import { type Decomposition, useDecomposition, useSummary } from "../queries";
import { ResultsFrame } from "../ResultsFrame";
import { courseOf, MOST_IN_STRIP, STRIP } from "../rules";
import { Strip } from "../summary/Strip";
import { Contributors } from "./Contributors";
import { Factors } from "./Factors";
import { Parts } from "./Parts";

/** Why a figure is not what it was: parts that add up to its change, each one step from what it is made of. */
export function DifferencePage() {
  const { brand } = useBrand();
  const { study } = useStudy();
  const [params] = useSearchParams();
  const { set } = useAddress();
  const [keys] = useChosen("summary", STRIP);
  const asked = params.get("metric") ?? "interactions";
  const shown = keys.includes(asked) ? keys : [...keys.slice(0, MOST_IN_STRIP - 1), asked];
  const summary = useSummary(brand.slug, study, shown);
  const found = useDecomposition(brand.slug, study, asked);
  return (
    <ResultsFrame
      actions={<SaveAs name="difference" table={{ kind: "results.difference", params: { metric: asked } }} />}
    >
      <h1 className="sr-only">What made the difference</h1>
      {summary.data && (
        <Strip
          metrics={summary.data.metrics}
          isOver={summary.data.whole_days > 0}
          chosen={asked}
          onChoose={(key) => set("metric", key)}
          onBasis={(key) => set("basis", key)}
        />
      )}
      {found.error ? (
        <Failed error={found.error} onRetry={() => found.refetch()} />
      ) : !found.data ? (
        <Loading what="Taking the change apart" lines={9} />
      ) : (
        <While isOld={found.isPlaceholderData}>
          {found.data.reason ? (
            <Empty title={`${found.data.name} cannot be taken apart`}>{found.data.reason}</Empty>
          ) : (
            <Told made={found.data} />
          )}
        </While>
      )}
      <BasisSheet of={courseOf(params.get("basis"))} onClose={() => set("basis", null)} />
    </ResultsFrame>
  );
}

function Told({ made }: { made: Decomposition }) {
  return (
    <div className="grid min-h-0 flex-1 grid-cols-[3fr_2fr]">
      <section className="min-w-0 overflow-y-auto border-r border-rule px-5 py-3" aria-labelledby="difference-title">
        <h2 id="difference-title" className="text-[18px] leading-6">
          {made.title}
        </h2>
        <p className="label">
          {figure(made.now, made.unit)} against {figure(made.before, made.unit)}, of {made.period.days} whole days each.
          The parts of each table add up to {absolute(made.change ?? 0, made.unit)}: they tell where it stands, not why
          it came. {made.note}
        </p>
        {made.factors.length > 0 && <Factors made={made} />}
        {made.networks.length > 1 && <Contributors made={made} by="network" rows={made.networks} />}
        {made.formats.length > 1 && <Contributors made={made} by="format" rows={made.formats} />}
      </section>
      <Parts made={made} />
    </div>
  );
}
