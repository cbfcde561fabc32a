import { Link, useLocation } from "react-router";
import type { Schemas } from "../api/client";
import { figure, type Unit } from "../lib/format";
import { useBrand } from "../study/brand";
import { leadingTo } from "./leading";

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
