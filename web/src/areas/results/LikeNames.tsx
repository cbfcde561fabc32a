import { useState } from "react";
import { useBasis } from "../../figures/queries";
import { RelatedList } from "../../figures/RelatedList";
import { useBrand } from "../../study/brand";
import type { Study } from "../../study/study";
import { Sheet } from "../../ui/Sheet";
import { Failed, Loading } from "../../ui/States";

type Props = { metric: string; study: Study; title: string; here: string; children: string };

/** Beside a figure of another area: what else is called like it, the metric of Results first. `here` says what stands here. */
export function LikeNames({ metric, study, title, here, children }: Props) {
  const { brand } = useBrand();
  const [isOpen, setOpen] = useState(false);
  const basis = useBasis(brand.slug, study, isOpen ? { kind: "results.course", cell: metric } : null);
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
