import type { ReactNode } from "react";
import { Link, useLocation } from "react-router";
import { moment, spanText } from "../lib/days";
import { figure, interval } from "../lib/format";
import { useBrand } from "../study/brand";
import { useStudy } from "../study/study";
import { Sheet } from "../ui/Sheet";
import { Failed, Loading } from "../ui/States";
import { leadingTo } from "./leading";
import { Parts } from "./Parts";
import { type Basis, type Of, useBasis } from "./queries";
import { RelatedList } from "./RelatedList";
import { partsTitle } from "./rules";

/** How a figure is made, whichever it is: definition, parts and what is done with them, what is missing, how old. */
export function BasisSheet({ of, onClose }: { of: Of | null; onClose: () => void }) {
  const { brand } = useBrand();
  const { study } = useStudy();
  const basis = useBasis(brand.slug, study, of);
  const b = basis.data;
  return (
    <Sheet
      isOpen={of !== null}
      onClose={onClose}
      title={b ? `${titled([b.name, b.what].filter(Boolean).join(" "))}: how it is made` : "How it is made"}
    >
      {basis.error ? (
        <Failed error={basis.error} onRetry={() => basis.refetch()} />
      ) : !b ? (
        <Loading />
      ) : (
        <Told basis={b} />
      )}
    </Sheet>
  );
}

const titled = (name: string) => name.charAt(0).toUpperCase() + name.slice(1);

function Told({ basis: b }: { basis: Basis }) {
  const { brand } = useBrand();
  const { search } = useLocation();
  return (
    <>
      <dl className="flex flex-col gap-3.5">
        <Entry name="Definition">{b.definition}</Entry>
        <Entry name={b.days || spanText(b.period.first, b.period.last)}>
          <span className="text-[17px] font-semibold">{b.formula || figure(b.figure.value, b.unit)}</span>
        </Entry>
        {b.figure.interval && (
          <Entry name={`${Math.round(100 * b.figure.interval.level)} % interval`}>
            {interval(b.figure.interval.low, b.figure.interval.high, b.unit)}
            {b.interval_of && `, taking ${b.interval_of}`}
          </Entry>
        )}
        {b.before && (
          <Entry name={`Before, ${spanText(b.compared.first, b.compared.last)}`}>
            {b.formula_before || figure(b.before.value, b.unit)}
          </Entry>
        )}
        {b.parts.length > 0 && (
          <Entry name={partsTitle(b)}>
            <Parts basis={b} />
          </Entry>
        )}
        {b.counted && (
          <Entry name="Counted">
            {b.counted}
            {b.counted_before && `; before, ${b.counted_before}`}
          </Entry>
        )}
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
        {!b.is_counted_here && <Entry name="Profiles">{b.profiles.join(", ") || "none"}</Entry>}
        <Entry name="Days begin in">{b.time_zone}</Entry>
        {!b.is_counted_here && <Entry name="Last read">{b.as_of ? moment(b.as_of, brand.time_zone) : "never"}</Entry>}
      </dl>
      {b.related.length > 0 && (
        <section aria-labelledby="related-title" className="mt-4">
          <h3 id="related-title" className="text-[15px]">
            By a like name
          </h3>
          <RelatedList related={b.related} unit={b.unit} />
        </section>
      )}
      {b.behind && (
        <Link
          to={leadingTo(brand.slug, b.behind.path, search)}
          className="under mt-4 self-start font-semibold hover:text-berry"
        >
          {b.behind.name}
        </Link>
      )}
    </>
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
