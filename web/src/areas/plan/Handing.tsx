import { useState } from "react";
import { Link } from "react-router";
import { useBrand } from "../../study/brand";
import { Button } from "../../ui/Button";
import { Check } from "../../ui/Check";
import { Sheet } from "../../ui/Sheet";
import { type Planned, useBrandsToHandTo, useHand } from "./queries";

/** One post for several brands: a draft for each, on its own profiles, with its own links. */
export function Handing({ planned, isOpen, onClose }: { planned: Planned; isOpen: boolean; onClose: () => void }) {
  const { brand } = useBrand();
  const brands = useBrandsToHandTo(brand.slug, planned.id, isOpen);
  const hand = useHand(brand.slug);
  const [chosen, setChosen] = useState<string[]>([]);
  return (
    <Sheet isOpen={isOpen} onClose={onClose} title="For other brands too" form="dialog">
      <p className="text-muted">
        Each gets a draft of what is saved, on its own profiles of the same networks, with files of its own and its own
        tracked links to the same pages.
      </p>
      {brands.data?.length === 0 && <p className="mt-2">There is no other brand that you may write for.</p>}
      <div className="mt-3 flex flex-col gap-1">
        {brands.data?.map((one) => (
          <Check
            key={one.slug}
            isOn={chosen.includes(one.slug)}
            onChange={(isOn) => setChosen(isOn ? [...chosen, one.slug] : chosen.filter((slug) => slug !== one.slug))}
          >
            {one.name}
          </Check>
        ))}
      </div>
      {hand.error && (
        <p role="alert" className="mt-2 text-down">
          {hand.error.message}
        </p>
      )}
      {hand.data ? (
        <ul className="mt-3">
          {hand.data.map((one) => (
            <li key={one.id}>
              <Link to={`/${one.brand}/plan/${one.id}`} className="under hover:text-berry">
                The draft of {one.name}
              </Link>
            </li>
          ))}
        </ul>
      ) : (
        <div className="mt-3">
          <Button
            kind="main"
            disabled={chosen.length === 0}
            isBusy={hand.isPending}
            onClick={() => hand.mutate({ id: planned.id, brands: chosen })}
          >
            Hand it over
          </Button>
        </div>
      )}
    </Sheet>
  );
}
