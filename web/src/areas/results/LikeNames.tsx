import { useState } from "react";
import { Link, useLocation } from "react-router";
import type { Schemas } from "../../api/client";
import { figure, type Unit } from "../../lib/format";
import { useBrand } from "../../study/brand";
import { carriedAll, type Study } from "../../study/study";
import { Sheet } from "../../ui/Sheet";
import { Failed, Loading } from "../../ui/States";
import { useBasis } from "./queries";

type Related = Schemas["Related"];

/** Figures that somebody may take for one another: what each counts, why they differ, and a step there. */
export function RelatedList({ related, unit }: { related: Related[]; unit: Unit }) {
  const { brand } = useBrand();
  const { search } = useLocation();
  return (
    <ul>
      {related.map((other) => (
        <li key={`${other.name} ${other.counted}`} className="rowline py-1.5">
          <span className="flex items-baseline justify-between gap-3">
            <Link to={leadingTo(brand.slug, other.path, search)} className="under hover:text-berry">
              {other.name} {other.counted}
            </Link>
            <b>{figure(other.value, unit)}</b>
          </span>
          <span className="label">{other.why}</span>
        </li>
      ))}
    </ul>
  );
}

type Props = { metric: string; study: Study; title: string; here: string; children: string };

/** Beside a figure of another area: what else is called like it, the metric of Results first. `here` says what stands here. */
export function LikeNames({ metric, study, title, here, children }: Props) {
  const { brand } = useBrand();
  const [isOpen, setOpen] = useState(false);
  const basis = useBasis(brand.slug, study, isOpen ? metric : null);
  const b = basis.data;
  return (
    <>
      <button type="button" className="under hover:text-berry" onClick={() => setOpen(true)}>
        {children}
      </button>
      <Sheet isOpen={isOpen} onClose={() => setOpen(false)} title={title}>
        <p className="mb-2">Here: {here}.</p>
        {basis.error ? (
          <Failed error={basis.error} onRetry={() => basis.refetch()} />
        ) : !b ? (
          <Loading />
        ) : (
          <RelatedList
            unit={b.unit}
            related={[
              {
                name: b.name,
                counted: b.what,
                value: b.figure.value,
                why: b.definition,
                path: `results?metric=${metric}`,
              },
              ...b.related,
            ]}
          />
        )}
      </Sheet>
    </>
  );
}

/** An address with what is studied, and what the other figure asks for besides. */
function leadingTo(brand: string, path: string, search: string): string {
  const [place, more] = path.split("?");
  const asked = new URLSearchParams(carriedAll(search));
  for (const [name, value] of new URLSearchParams(more)) {
    // A link made for a network, or a profile's posts: never both.
    if (name === "network") asked.delete("profile");
    if (name === "profile") asked.delete("network");
    asked.set(name, value);
  }
  return `/${brand}/${place}?${asked}`;
}
