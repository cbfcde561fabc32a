import { useMemo, useRef, useState } from "react";
import { Link, useLocation } from "react-router";
import { type PostMark, TrafficChart } from "../../charts/TrafficChart";
import { SaveAs } from "../../figures/SaveAs";
import { addDays, dayOf, shortDay } from "../../lib/days";
import { figure, plural } from "../../lib/format";
import { useBrand } from "../../study/brand";
import { carriedAll, useAge, useStudy } from "../../study/study";
import { Empty, Failed, Loading } from "../../ui/States";
import { ClicksBehind } from "./ClicksBehind";
import { PostLink } from "./PostLink";
import { type PostRow, usePosts, useTraffic } from "./queries";
import { ResultsFrame } from "./ResultsFrame";
import { attentionApart, trafficTitle } from "./rules";

const TABLE = { sort: "-interactions", text: "", columns: ["clicks", "ctr"] };

/** Clicks by day with the posts laid over them: what brought people, and what only brought reactions. */
export function TrafficPage() {
  const { brand, can } = useBrand();
  const canChange = can("site.setup");
  const { study } = useStudy();
  const age = useAge();
  const { search } = useLocation();
  const box = useRef<HTMLElement>(null);
  const clicks = useTraffic(brand.slug, study);
  const posts = usePosts(brand.slug, study, TABLE);
  const rows = useMemo(() => posts.data?.pages.flatMap((p) => p.posts) ?? [], [posts.data]);
  const apart = attentionApart(rows);
  const people = clicks.data?.clicks ?? [];
  const visited = (clicks.data?.visits ?? []).reduce((sum, n) => sum + n, 0);
  const bought = (clicks.data?.conversions ?? []).reduce((sum, n) => sum + n, 0);
  const clicked = people.reduce((sum, n) => sum + n, 0);
  const total = posts.data?.pages[0]?.total ?? 0;
  const judged = rows.filter((p) => p.interactions !== null && p.values.clicks != null).length;
  const marks: PostMark[] = rows.map((p) => ({
    id: p.id,
    day: dayOf(p.published_at, brand.time_zone),
    size: Math.sqrt(p.interactions ?? 0),
    clicks: p.values.clicks ?? null,
    text: p.text,
  }));
  const [day, setDay] = useState<string | null>(null);
  const isOfPosts = Boolean(study.profile || study.format || study.tag || study.language || study.boosted);
  const title = clicked > 0 ? trafficTitle(clicked, visited, bought) : "Clicks on tracked links by day";
  const error = clicks.error ?? posts.error;
  return (
    <ResultsFrame
      actions={
        <SaveAs
          name="traffic"
          table={{ kind: "results.posts", params: { columns: "interactions,clicks,ctr", sort: "-clicks" } }}
          chart={{ box, title, definition: "People's clicks on tracked links by day, bots left out; posts as marks." }}
        />
      }
    >
      {error ? (
        <Failed error={error} onRetry={() => clicks.refetch()} />
      ) : !clicks.data || !posts.data ? (
        <Loading what="Loading the clicks" lines={9} />
      ) : (
        <section ref={box} className="min-h-0 flex-1 overflow-y-auto px-5 py-3" aria-labelledby="traffic-title">
          <h1 id="traffic-title" className="text-[18px] leading-6">
            {title}
          </h1>
          <p className="label">
            Area: clicks of people by day, bots left out.
            {clicks.data.has_visits && " Dotted: visits that came by a tracked link or from a network."} A day opens
            what made it. {isOfPosts && "A link's clicks belong to the post studied that carried it last. "}
            {(clicks.data.site_visits ?? 0) > visited && (
              <>
                <Link to={`/${brand.slug}/site/sites${carriedAll(search)}`} className="under hover:text-berry">
                  {plural(clicks.data.site_visits ?? 0, "visit")} of the site in all
                </Link>
                , however they came.{" "}
              </>
            )}
            Marks above: the{" "}
            {rows.length < total ? `${rows.length} of ${figure(total)} posts with the most interactions` : "posts"},
            taller with more interactions {age.words}; filled where the network reports clicks, the darker the more.
          </p>
          {clicked === 0 && visited === 0 && (
            <p className="mt-2">
              No tracked link was clicked in these days.{" "}
              {canChange && (
                <Link to={`/${brand.slug}/links?new=1`} className="under hover:text-berry">
                  Make a link
                </Link>
              )}
            </p>
          )}
          <TrafficChart
            days={people.map((_, i) => addDays(study.first, i))}
            clicks={people}
            visits={clicks.data.has_visits ? clicks.data.visits : undefined}
            spikes={clicks.data.spikes}
            onDay={setDay}
            posts={marks}
            hrefOf={(id) => `/${brand.slug}/results/posts/${id}${search}`}
          />
          {rows.length === 0 ? (
            <Empty title="No post in these days">Move the period on the line above.</Empty>
          ) : (
            <div className="mt-3 grid grid-cols-2 gap-8">
              <Apart
                title="Much attention, hardly a click"
                empty="No post had much attention without clicks."
                posts={apart.quiet as PostRow[]}
              />
              <Apart
                title="Little attention, many clicks"
                empty="No post brought clicks without attention."
                posts={apart.busy as PostRow[]}
              />
            </div>
          )}
          <p className="label mt-2">
            Ranks among the {plural(judged, "post")} here whose network reports clicks.{" "}
            <Link to={`/${brand.slug}/links${carriedAll(search)}`} className="under hover:text-berry">
              Clicks link by link
            </Link>{" "}
            <Link to={`/${brand.slug}/site${carriedAll(search)}`} className="under hover:text-berry">
              From view to value
            </Link>
          </p>
        </section>
      )}
      <ClicksBehind day={day} onClose={() => setDay(null)} />
    </ResultsFrame>
  );
}

function Apart({ title, empty, posts }: { title: string; empty: string; posts: PostRow[] }) {
  const { brand } = useBrand();
  return (
    <div>
      <h2 className="text-[16px]">{title}</h2>
      {posts.length === 0 ? (
        <p className="label">{empty}</p>
      ) : (
        <table className="w-full table-fixed">
          <thead className="label">
            <tr className="rowline h-6">
              <th className="text-left font-normal">Post</th>
              <th className="w-[58px] text-left font-normal">Sent</th>
              <th className="w-[74px] text-right font-normal">Interact.</th>
              <th className="w-[64px] text-right font-normal">Clicks</th>
            </tr>
          </thead>
          <tbody>
            {posts.map((post) => (
              <tr key={post.id} className="rowline h-7">
                <td>
                  <PostLink post={post} />
                </td>
                <td>{shortDay(dayOf(post.published_at, brand.time_zone))}</td>
                <td className="text-right">{figure(post.interactions)}</td>
                <td className="text-right font-semibold">{figure(post.values.clicks)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </div>
  );
}
