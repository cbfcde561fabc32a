import type { ReactNode } from "react";
import { Link, useLocation } from "react-router";
import { moment, spanText } from "../../lib/days";
import { interval } from "../../lib/format";
import { useBrand } from "../../study/brand";
import { carriedAll, useStudy } from "../../study/study";
import { Sheet } from "../../ui/Sheet";
import { Failed, Loading } from "../../ui/States";
import { RelatedList } from "./LikeNames";
import { useBasis } from "./queries";

/** How a figure is made: definition, the formula with its numbers, what is counted, what is missing, how old. */
export function BasisSheet({ metric, onClose }: { metric: string | null; onClose: () => void }) {
  const { brand } = useBrand();
  const { study } = useStudy();
  const { search } = useLocation();
  const basis = useBasis(brand.slug, study, metric);
  const b = basis.data;
  // Clicks and visits are counted here: no profile's reading is in them, and links are behind them.
  const isBrought = b?.over === "brought";
  return (
    <Sheet
      isOpen={metric !== null}
      onClose={onClose}
      title={b ? `${[b.name, b.what].filter(Boolean).join(" ")}: how it is made` : "How it is made"}
    >
      {basis.error ? (
        <Failed error={basis.error} onRetry={() => basis.refetch()} />
      ) : !b ? (
        <Loading />
      ) : (
        <>
          <dl className="flex flex-col gap-3.5">
            <Entry name="Definition">{b.definition}</Entry>
            <Entry name={spanText(b.period.first, b.period.last)}>
              <span className="text-[17px] font-semibold">{b.formula}</span>
            </Entry>
            {b.figure.interval && (
              <Entry name="95 % interval">
                {interval(b.figure.interval.low, b.figure.interval.high, b.unit)}, taking{" "}
                {isBrought ? "each by itself" : "the posts as a sample"}
              </Entry>
            )}
            <Entry name={`Before, ${spanText(b.compared.first, b.compared.last)}`}>{b.formula_before}</Entry>
            <Entry name="Counted">
              {b.counted}
              {b.counted_before && `; before, ${b.counted_before}`}
            </Entry>
            <Entry name="Missing">{b.missing || "Nothing that should be in it."}</Entry>
            {b.holes && (
              <Entry name="Days that were not collected">
                {b.holes}.{" "}
                <Link to={`/${brand.slug}/sources/health`} className="under hover:text-berry">
                  Health
                </Link>
              </Entry>
            )}
            {b.note && <Entry name="Mind">{b.note}</Entry>}
            {!isBrought && <Entry name="Profiles">{b.profiles.join(", ") || "none"}</Entry>}
            <Entry name="Days begin in">{b.time_zone}</Entry>
            {!isBrought && <Entry name="Last read">{b.as_of ? moment(b.as_of, brand.time_zone) : "never"}</Entry>}
          </dl>
          {b.related.length > 0 && (
            <section aria-labelledby="related-title" className="mt-4">
              <h3 id="related-title" className="text-[15px]">
                By a like name
              </h3>
              <RelatedList related={b.related} unit={b.unit} />
            </section>
          )}
          <Link
            to={`/${brand.slug}/${isBrought ? "links" : "results/posts"}${carriedAll(search)}`}
            className="under mt-4 self-start font-semibold hover:text-berry"
          >
            {isBrought ? "The links behind it" : "The posts behind it"}
          </Link>
        </>
      )}
    </Sheet>
  );
}

function Entry({ name, children }: { name: string; children: ReactNode }) {
  return (
    <div>
      <dt className="label">{name}</dt>
      <dd>{children}</dd>
    </div>
  );
}
