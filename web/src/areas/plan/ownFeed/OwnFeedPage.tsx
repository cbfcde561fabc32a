import { Link } from "react-router";
import { moment } from "../../../lib/days";
import { figure } from "../../../lib/format";
import { useBrand } from "../../../study/brand";
import { MinuteLine } from "../../../study/line/MinuteLine";
import { Button } from "../../../ui/Button";
import { Empty, Failed, Loading } from "../../../ui/States";
import { useToast } from "../../../ui/Toast";
import { ClicksOf } from "./ClicksOf";
import { FeedSettings } from "./FeedSettings";
import { type OwnFeedItem, useOwnFeed, useOwnFeedActs } from "./queries";

/** The brand's own feed: where it is read, what stands in it, how often each was seen and clicked on. */
export function OwnFeedPage() {
  const { brand, can } = useBrand();
  const found = useOwnFeed(brand.slug);
  const feed = found.data?.pages[0]?.feed;
  const items = found.data?.pages.flatMap((page) => page.items) ?? [];
  return (
    <>
      <MinuteLine turned="future" hasBrush={false} />
      <div className="flex min-h-[34px] flex-wrap items-center gap-x-3 border-b border-rule px-5 narrow:px-3">
        <Link to={`/${brand.slug}/plan`} className="under hover:text-berry">
          Calendar
        </Link>
        <h1 className="text-[16px]">The site’s own feed</h1>
        <Link to={`/${brand.slug}/plan/messages`} className="under hover:text-berry">
          Messages to browsers
        </Link>
        <span className="label">Posts that also appear on your own site, for whoever follows it</span>
      </div>
      {found.error ? (
        <Failed error={found.error} onRetry={() => found.refetch()} />
      ) : !feed ? (
        <Loading what="Loading the feed" />
      ) : (
        <div className="grid min-h-0 flex-1 grid-cols-[minmax(280px,360px)_minmax(0,1fr)]">
          <section
            className="min-w-0 overflow-y-auto border-r border-rule px-5 py-3 narrow:px-3"
            aria-label="How it is set up"
          >
            <FeedSettings key={feed.edition} feed={feed} />
          </section>
          <section
            className="min-w-0 overflow-y-auto px-5 py-3 narrow:px-3"
            aria-label="What stands in it"
            tabIndex={0}
          >
            {items.length === 0 ? (
              <Empty title="Nothing stands in it yet">
                Tick “Also in the site’s own feed” where you write a post. It appears as soon as the post is out.
              </Empty>
            ) : (
              <table className="w-full">
                <caption className="label text-left">
                  Seen: times that a reader loaded an item with its pictures, programs left out. Clicks: people’s, on
                  the item’s own link.
                </caption>
                <thead className="label">
                  <tr className="rowline">
                    <th className="text-left font-normal">Item</th>
                    <th className="text-left font-normal">Since</th>
                    <th className="text-right font-normal">Seen</th>
                    <th className="pl-3 text-right font-normal">Clicks</th>
                    <th>
                      <span className="sr-only">Take it out</span>
                    </th>
                  </tr>
                </thead>
                <tbody>
                  {items.map((one) => (
                    <Row key={one.id} item={one} canChange={can("plan.publish")} />
                  ))}
                </tbody>
              </table>
            )}
            {found.hasNextPage && (
              <Button className="mt-2" isBusy={found.isFetchingNextPage} onClick={() => found.fetchNextPage()}>
                Earlier ones
              </Button>
            )}
          </section>
        </div>
      )}
    </>
  );
}

function Row({ item, canChange }: { item: OwnFeedItem; canChange: boolean }) {
  const { brand } = useBrand();
  const say = useToast();
  const { away } = useOwnFeedActs(brand.slug);
  return (
    <tr className={`rowline ${item.is_away ? "text-muted" : ""}`}>
      <td className="py-1.5 pr-3">
        {item.post === null ? (
          <span className="break-words">{item.title}</span>
        ) : (
          <Link to={`/${brand.slug}/plan/${item.post}`} className="under break-words hover:text-berry">
            {item.title}
          </Link>
        )}
        {item.is_away && <span className="label block">taken out; who has it keeps it</span>}
      </td>
      <td className="label whitespace-nowrap py-1.5 pr-3">{moment(item.published_at, brand.time_zone)}</td>
      <td className="py-1.5 text-right font-semibold">{figure(item.views)}</td>
      <td className="py-1.5 pl-3 text-right">
        <ClicksOf link={item.link} clicks={item.clicks} />
      </td>
      <td className="py-1.5 pl-3 text-right">
        {canChange && (
          <button
            type="button"
            className="under min-h-6 whitespace-nowrap hover:text-berry"
            disabled={away.isPending}
            onClick={() =>
              away.mutate({ id: item.id, is_away: !item.is_away }, { onError: (error) => say(error.message, "wrong") })
            }
          >
            {item.is_away ? "put it back" : "take it out"}
          </button>
        )}
      </td>
    </tr>
  );
}
