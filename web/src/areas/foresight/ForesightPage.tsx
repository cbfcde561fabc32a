import { SaveAs } from "../../figures/SaveAs";
import { useBrand } from "../../study/brand";
import { Empty, Failed, Loading } from "../../ui/States";
import { ForesightFrame } from "./ForesightFrame";
import { useUnderWay } from "./queries";
import { underWayTitle } from "./rules";
import { Rows } from "./UnderWay";

/** Everything that is under way. */
export function ForesightPage() {
  const { brand } = useBrand();
  const found = useUnderWay(brand.slug);
  return (
    <ForesightFrame actions={<SaveAs name="under-way" table={{ kind: "foresight.under_way" }} />}>
      {found.error ? (
        <Failed error={found.error} onRetry={() => found.refetch()} />
      ) : !found.data ? (
        <Loading what="Loading what is under way" />
      ) : (
        <section className="min-h-0 flex-1 overflow-y-auto px-5 py-3">
          <h1 className="text-[18px] leading-6">{underWayTitle(found.data)}</h1>
          <p className="label">
            Posts of the last seven days, each at its own age against what is typical then. Pale: what came so far;
            berry: what it is heading for by seven days, with its 80 % interval; dashed: where a typical post of its
            kind ends. Taking off and falling flat: outside of what 95 % of its profile's posts had at that age.
          </p>
          {found.data.length === 0 ? (
            <Empty title="No young post">What is published next is followed here from its first hour.</Empty>
          ) : (
            <div className="mt-2 max-w-[900px]">
              <Rows posts={found.data} />
            </div>
          )}
        </section>
      )}
    </ForesightFrame>
  );
}
