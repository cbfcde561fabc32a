import { useSearchParams } from "react-router";
import { FigureValue } from "../../../figures/FigureValue";
import { SaveAs } from "../../../figures/SaveAs";
import { figure } from "../../../lib/format";
import { useBrand } from "../../../study/brand";
import { useStudy } from "../../../study/study";
import { Button } from "../../../ui/Button";
import { Empty, Failed, Loading } from "../../../ui/States";
import { useSummary } from "../queries";
import { ResultsFrame } from "../ResultsFrame";
import { BoostTable } from "./BoostTable";
import { Limit } from "./Limit";
import { useBoosts } from "./queries";
import { cheapestWords, paidTitle } from "./rules";
import { SPLIT_METRICS, Split } from "./Split";

const COSTS = ["spend", "cost_per_thousand", "cost_per_click", "cost_per_conversion", "paid_value", "paid_return"];

/** What was paid for and what it brought, kept apart from what came by itself; every boost with what one of each cost. */
export function PaidPage() {
  const { brand } = useBrand();
  // What came in these days, whenever the post was published: no figure here is of an age.
  const { age: _, ...study } = useStudy().study;
  const [params] = useSearchParams();
  const marked = Number(params.get("boost")) || undefined;
  const boosts = useBoosts(brand.slug);
  const split = useSummary(brand.slug, study, SPLIT_METRICS);
  const costs = useSummary(brand.slug, study, COSTS);
  const rows = boosts.data?.pages.flatMap((page) => page.boosts) ?? [];
  const limit = boosts.data?.pages[0]?.limit;
  const figures = [...(split.data?.metrics ?? []), ...(costs.data?.metrics ?? [])];
  // All others are meant: nothing is said of the cheapest as long as some were not looked at.
  const cheapest = boosts.hasNextPage ? "" : cheapestWords(rows);
  const others = [...new Set(rows.map((one) => one.currency))].filter((one) => one !== limit?.told_in);
  const error = boosts.error ?? split.error ?? costs.error;
  return (
    <ResultsFrame>
      {error ? (
        <Failed error={error} onRetry={() => Promise.all([boosts.refetch(), split.refetch(), costs.refetch()])} />
      ) : !boosts.data || !split.data || !costs.data || !limit ? (
        <Loading what="Loading what was paid for" lines={9} />
      ) : (
        <section className="min-h-0 flex-1 overflow-y-auto px-5 py-3 narrow:px-3" aria-labelledby="paid-title">
          <div className="flex items-baseline justify-between gap-4">
            <h1 id="paid-title" className="text-[18px] leading-6">
              {paidTitle((key) => figures.find((one) => one.key === key)?.now.value, limit.told_in, others)}
            </h1>
            <SaveAs
              name="paid"
              table={{ kind: "results.course", params: { metrics: COSTS.join() } }}
              report={{ kind: "results.course", params: { metrics: COSTS.join() }, drawing: "tiles" }}
            />
          </div>
          {others.length > 0 && (
            <p>
              Figures are in {limit.told_in}; what boosts cost in {others.join(" and ")} is told with each of them
              alone.
            </p>
          )}
          {cheapest && <p>{cheapest}</p>}
          <Limit limit={limit} />
          {rows.length === 0 ? (
            <Empty title="Nothing was boosted yet">
              A post is boosted on its own page, once a month’s limit is said. What it brings for money is then told
              here, apart from what it gets by itself.
            </Empty>
          ) : (
            <>
              <dl className="mt-3 flex flex-wrap gap-x-8 gap-y-2">
                {costs.data.metrics.map((one) => (
                  <div key={one.key}>
                    <dt className="label">{one.name}</dt>
                    <dd>
                      <FigureValue
                        kind="results.course"
                        cell={one.key}
                        params={{ metrics: one.key }}
                        label={one.name}
                        className="text-[19px] font-semibold"
                      >
                        {figure(one.now.value, one.unit)}
                        {one.unit === "money" && one.now.value !== null ? ` ${limit.told_in}` : ""}
                      </FigureValue>
                    </dd>
                  </div>
                ))}
              </dl>
              <div className="mt-4">
                <Split metrics={split.data.metrics} />
              </div>
              <div className="mt-5 flex items-baseline justify-between gap-4">
                <h2 className="text-[16px]">Every boost, the last begun first</h2>
                <SaveAs name="boosts" table={{ kind: "plan.boosts" }} />
              </div>
              <BoostTable boosts={rows} marked={marked} />
              {boosts.hasNextPage && (
                <Button className="mt-2" isBusy={boosts.isFetchingNextPage} onClick={() => boosts.fetchNextPage()}>
                  Earlier ones
                </Button>
              )}
            </>
          )}
        </section>
      )}
    </ResultsFrame>
  );
}
