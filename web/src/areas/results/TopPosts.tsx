import { useState } from "react";
import { Link, useLocation } from "react-router";
import { networkNamed, useBrand } from "../../app/brand";
import { ageName, useStudy } from "../../app/study";
import { dayOf, shortDay } from "../../lib/days";
import { figure, plural } from "../../lib/format";
import { CellBar, NetworkMark } from "../../ui/Marks";
import { Empty, Failed, Loading } from "../../ui/States";
import { usePosts } from "./queries";

/** The posts of the period that did best or worst against what is typical of their profile. */
export function TopPosts() {
  const { brand, networks } = useBrand();
  const { study } = useStudy();
  const { search } = useLocation();
  const [isBest, setBest] = useState(true);
  const posts = usePosts(brand.slug, study, isBest ? "-index" : "index", "");
  const first = posts.data?.pages[0];
  const rows = (first?.posts ?? []).filter((p) => p.index !== null).slice(0, 14);
  const max = Math.max(2, ...rows.map((p) => p.index ?? 0));
  return (
    <section className="flex min-w-0 flex-col overflow-y-auto px-5 py-3" aria-labelledby="top-title">
      <div className="flex items-baseline justify-between">
        <h2 id="top-title" className="text-[18px] leading-6">
          {isBest ? "What stood above typical" : "What fell below typical"}
        </h2>
        <button type="button" onClick={() => setBest(!isBest)} className="label under h-6 hover:text-berry">
          {isBest ? "show the weakest" : "show the strongest"}
        </button>
      </div>
      <p className="label mb-1">
        Interactions {ageName(study.age)} against the profile's typical post; 1.00 is typical.
      </p>
      {posts.error ? (
        <Failed error={posts.error} onRetry={() => posts.refetch()} />
      ) : !first ? (
        <Loading />
      ) : rows.length === 0 ? (
        <Empty title="No post can be judged yet">
          {first.total === 0
            ? "None was published in this period."
            : `${plural(first.total, "post")} here, but none has reached this age. Choose a younger age in the sentence above.`}
        </Empty>
      ) : (
        <>
          <table className="w-full table-fixed">
            <thead className="label text-left">
              <tr className="rowline h-6">
                <th className="font-normal">Post</th>
                <th className="w-[58px] font-normal">Sent</th>
                <th className="w-[58px] text-right font-normal">Inter.</th>
                <th className="w-[128px] text-right font-normal">Index</th>
              </tr>
            </thead>
            <tbody>
              {rows.map((post) => {
                const network = networkNamed(networks, post.network);
                return (
                  <tr key={post.id} className="rowline h-7 hover:bg-panel">
                    <td className="pr-2">
                      <span className="flex items-center gap-2">
                        <NetworkMark network={post.network} name={network.name} monogram={network.monogram} />
                        <Link
                          to={`/${brand.slug}/results/posts/${post.id}${search}`}
                          className="truncate leading-6 hover:text-berry"
                          title={post.text}
                        >
                          {post.text || "without text"}
                        </Link>
                      </span>
                    </td>
                    <td>{shortDay(dayOf(post.published_at, brand.time_zone))}</td>
                    <td className="text-right">{figure(post.interactions)}</td>
                    <td className="text-right">
                      <span className="mr-2">{figure(post.index, "index")}</span>
                      <CellBar value={post.index} max={max} />
                    </td>
                  </tr>
                );
              })}
            </tbody>
          </table>
          {first.too_young > 0 && (
            <p className="label mt-2">
              {plural(first.too_young, "post is", "posts are")} too young or were not read at this age.
            </p>
          )}
        </>
      )}
    </section>
  );
}
