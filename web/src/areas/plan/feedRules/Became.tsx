import { Link } from "react-router";
import { moment } from "../../../lib/days";
import { useBrand } from "../../../study/brand";
import { Button } from "../../../ui/Button";
import { Failed, Loading } from "../../../ui/States";
import { type FeedRule, useFeedRuleItems } from "./queries";
import { didWords, outcomeWords } from "./rules";

/** What became of items by a rule, and why of some nothing did. */
export function Became({ rule }: { rule: FeedRule }) {
  const { brand } = useBrand();
  const items = useFeedRuleItems(brand.slug, rule.id);
  const rows = items.data?.pages.flatMap((page) => page.items) ?? [];
  return (
    <div className="mb-5">
      <h2 className="text-[16px]">What it did</h2>
      <p className="label">{didWords(rule)}</p>
      {items.error ? (
        <Failed error={items.error} onRetry={() => items.refetch()} />
      ) : !items.data ? (
        <Loading what="Loading what became of the items" />
      ) : rows.length === 0 ? (
        <p className="mt-1">Nothing yet. The feed is asked every hour, and what is new since it began is acted on.</p>
      ) : (
        <ul>
          {rows.map((one) => (
            <li key={one.id} className="rowline flex items-baseline gap-3 py-1">
              <span className="min-w-0 flex-1">
                {one.post !== null ? (
                  <Link to={`/${brand.slug}/plan/${one.post}`} className="under break-words hover:text-berry">
                    {one.title || one.address}
                  </Link>
                ) : (
                  <span className="break-words">{one.title || one.address}</span>
                )}
                {one.reason && <span className="label block">{one.reason}</span>}
              </span>
              <span className={`shrink-0 ${one.outcome === "failed" ? "text-down" : ""}`}>{outcomeWords(one)}</span>
              <span className="label shrink-0">{moment(one.at ?? one.decided_at, brand.time_zone)}</span>
            </li>
          ))}
        </ul>
      )}
      {items.hasNextPage && (
        <Button className="mt-2" isBusy={items.isFetchingNextPage} onClick={() => items.fetchNextPage()}>
          Earlier ones
        </Button>
      )}
    </div>
  );
}
