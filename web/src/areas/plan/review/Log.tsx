import { useState } from "react";
import { moment } from "../../../lib/days";
import { useBrand } from "../../../study/brand";
import { Failed, Loading } from "../../../ui/States";
import { useLog } from "./queries";
import { logWords } from "./rules";

/** Who did what with a post, and where it went out: asked for when somebody wants to know. */
export function Log({ planned }: { planned: number }) {
  const { brand } = useBrand();
  const [isOpen, setOpen] = useState(false);
  const log = useLog(brand.slug, planned, isOpen);
  return (
    <section className="mt-4" aria-label="Who did what">
      <button
        type="button"
        aria-expanded={isOpen}
        className="under min-h-6 hover:text-berry"
        onClick={() => setOpen(!isOpen)}
      >
        Who did what
      </button>
      {isOpen &&
        (log.error ? (
          <Failed error={log.error} onRetry={() => log.refetch()} />
        ) : !log.data ? (
          <Loading what="Loading what was done" />
        ) : log.data.length === 0 ? (
          <p className="label">Nothing is written down.</p>
        ) : (
          <ol>
            {log.data.map((one) => (
              <li key={`${one.when} ${one.action} ${one.network}`} className="rowline py-1">
                {logWords(one, (at) => moment(at, brand.time_zone))}{" "}
                <span className="label whitespace-nowrap">{moment(one.when, brand.time_zone)}</span>
              </li>
            ))}
          </ol>
        ))}
    </section>
  );
}
