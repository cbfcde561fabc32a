import { Link, useSearchParams } from "react-router";
import { moment } from "../../../lib/days";
import { useBrand } from "../../../study/brand";
import { MinuteLine } from "../../../study/line/MinuteLine";
import { Empty, Failed, Loading } from "../../../ui/States";
import { useToReview } from "./queries";
import { ReviewPanel } from "./ReviewPanel";

/** Posts that wait for one's own yes, one after the other; made for a phone as well. */
export function ToReviewPage() {
  const { brand } = useBrand();
  const [params, setParams] = useSearchParams();
  const waiting = useToReview(brand.slug);
  const open = Number(params.get("post")) || waiting.data?.[0]?.id;
  return (
    <>
      <MinuteLine turned="future" hasBrush={false} />
      <div className="flex min-h-[34px] items-center gap-3 border-b border-rule px-5 narrow:px-3">
        <Link to={`/${brand.slug}/plan`} className="under hover:text-berry">
          Calendar
        </Link>
        <h1 className="text-[16px]">Waiting for your yes</h1>
      </div>
      {waiting.error ? (
        <Failed error={waiting.error} onRetry={() => waiting.refetch()} />
      ) : !waiting.data ? (
        <Loading what="Looking for what waits" />
      ) : waiting.data.length === 0 && !params.get("post") ? (
        <Empty title="Nothing waits for your yes">Posts that somebody asks a yes for stand here.</Empty>
      ) : (
        <div className="grid min-h-0 flex-1 grid-cols-[260px_minmax(0,1fr)]">
          <nav className="overflow-y-auto border-r border-rule px-4 py-2" aria-label="Posts that wait">
            {waiting.data.map((entry) => (
              <button
                key={entry.id}
                type="button"
                aria-current={entry.id === open}
                onClick={() => setParams({ post: String(entry.id) })}
                className="rowline block w-full py-1.5 text-left hover:text-berry aria-[current=true]:text-berry"
              >
                <span className="block truncate font-semibold">{entry.title || entry.text || "Untitled"}</span>
                <span className="label">{entry.at ? moment(entry.at, brand.time_zone) : "no time yet"}</span>
              </button>
            ))}
            {waiting.data.length === 0 && <p className="label">Nothing else waits for you.</p>}
          </nav>
          <section className="min-w-0 overflow-y-auto px-5 py-3 narrow:px-3" aria-label="The post">
            {open && (
              <div className="max-w-[980px]">
                <ReviewPanel key={open} planned={open} isAlone />
              </div>
            )}
          </section>
        </div>
      )}
    </>
  );
}
