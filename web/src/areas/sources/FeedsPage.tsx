import { useForm } from "react-hook-form";
import { useSearchParams } from "react-router";
import { moment } from "../../lib/days";
import { plural, since } from "../../lib/format";
import { useBrand } from "../../study/brand";
import { AskForIdea } from "../../study/KeepIdea";
import { Button } from "../../ui/Button";
import { Cut } from "../../ui/Cut";
import { Entry, Form } from "../../ui/Form";
import { StateWord } from "../../ui/Marks";
import { Empty, Failed, Loading } from "../../ui/States";
import { useToast } from "../../ui/Toast";
import { useFeeds, useFollowFeed, useStopFeed } from "./queries";
import { SourcesBar } from "./SourcesBar";

/** Web feeds that are followed, and their newest items. */
export function FeedsPage() {
  const { brand, can } = useBrand();
  const canChange = can("sources.follow");
  const [params, setParams] = useSearchParams();
  const only = Number(params.get("feed")) || undefined;
  const feeds = useFeeds(brand.slug, only);
  const follow = useFollowFeed(brand.slug);
  const stop = useStopFeed(brand.slug);
  const say = useToast();
  const form = useForm({ defaultValues: { address: "" } });
  const { address } = form.watch();
  return (
    <>
      <SourcesBar />
      {feeds.error ? (
        <Failed error={feeds.error} onRetry={() => feeds.refetch()} />
      ) : !feeds.data ? (
        <Loading what="Loading the feeds" />
      ) : (
        <div className="grid min-h-0 flex-1 grid-cols-[minmax(0,3fr)_minmax(0,2fr)]">
          <section className="min-w-0 overflow-y-auto border-r border-rule px-5 py-3" aria-labelledby="items-title">
            <div className="flex items-baseline justify-between">
              <h1 id="items-title" className="text-[18px] leading-6">
                {only
                  ? `Items of ${feeds.data.feeds.find((f) => f.id === only)?.title ?? "this feed"}`
                  : "New in all feeds"}
              </h1>
              {only && (
                <Button kind="quiet" onClick={() => setParams({})}>
                  all feeds
                </Button>
              )}
            </div>
            {feeds.data.items.length === 0 &&
              (feeds.data.feeds.length === 0 ? (
                <Empty title="No feed is followed yet">
                  Follow the news of a competitor, of your town, of your trade: what appears there shows here, once
                  each.
                </Empty>
              ) : (
                <Empty title="Nothing has appeared yet">What the feeds bring shows here as it comes.</Empty>
              ))}
            <ul className="mt-1">
              {feeds.data.items.map((item) => (
                <li key={item.id} className="rowline py-2">
                  <span className="flex items-baseline gap-3">
                    {item.address ? (
                      <a
                        href={item.address}
                        target="_blank"
                        rel="noreferrer noopener"
                        className="min-w-0 font-semibold hover:text-berry"
                      >
                        <Cut>{item.title || item.address}</Cut>
                      </a>
                    ) : (
                      <Cut className="font-semibold">{item.title || "without a title"}</Cut>
                    )}
                    <span className="label ml-auto whitespace-nowrap">
                      {item.published_at ? moment(item.published_at, brand.time_zone) : "no date given"}
                    </span>
                  </span>
                  <span className="flex items-baseline gap-3">
                    <Cut className="label">
                      {item.feed}
                      {item.summary && item.summary !== item.title && `: ${item.summary}`}
                    </Cut>
                    <AskForIdea
                      words="keep as an idea"
                      className="under ml-auto h-6 whitespace-nowrap hover:text-berry"
                      begun={{ origin: { origin: "feed", item: item.id }, seen: item.title || item.address }}
                    />
                  </span>
                </li>
              ))}
            </ul>
          </section>
          <section className="min-w-0 overflow-y-auto px-5 py-3" aria-labelledby="feeds-title">
            {canChange && (
              <Form
                form={form}
                error={follow.error}
                className="mb-5 flex flex-col gap-3"
                onSubmit={() => {
                  follow.mutate(address, {
                    onSuccess: () => {
                      say("The feed is followed.");
                      form.setValue("address", "");
                    },
                  });
                }}
              >
                <Entry
                  form={form}
                  name="address"
                  label="Follow a feed"
                  help="The address of an RSS or Atom feed, or of a page that names one"
                >
                  {(field) => <input {...field} autoComplete="off" />}
                </Entry>
                <Button type="submit" isBusy={follow.isPending} disabled={!address.trim()} className="self-start">
                  Follow
                </Button>
              </Form>
            )}
            <h2 id="feeds-title" className="text-[16px]">
              {plural(feeds.data.feeds.length, "feed")}
            </h2>
            <ul>
              {feeds.data.feeds.map((feed) => (
                <li key={feed.id} className="rowline py-2">
                  <span className="flex items-baseline gap-3">
                    <button
                      type="button"
                      onClick={() => setParams({ feed: String(feed.id) })}
                      className="min-w-0 text-left font-semibold hover:text-berry"
                    >
                      <Cut>{feed.title}</Cut>
                    </button>
                    {canChange && (
                      <button
                        type="button"
                        aria-label={`Stop following ${feed.title}`}
                        onClick={() =>
                          stop.mutate(feed.id, {
                            onSuccess: () => say(`${feed.title} is no longer followed. Its items stay.`),
                          })
                        }
                        className="under ml-auto h-6 hover:text-berry"
                      >
                        stop
                      </button>
                    )}
                  </span>
                  <span className="label block break-all">{feed.address}</span>
                  {feed.failures > 0 ? (
                    <StateWord tone="wrong">
                      {feed.message} Asked again {since(feed.next_at, new Date())}.
                    </StateWord>
                  ) : (
                    <span className="label">
                      {plural(feed.item_count, "item")}, looked at {since(feed.fetched_at, new Date())}
                    </span>
                  )}
                </li>
              ))}
            </ul>
          </section>
        </div>
      )}
    </>
  );
}
