import { Link, useLocation } from "react-router";
import { published } from "../../../lib/days";
import { figure, formatNames } from "../../../lib/format";
import { networkNamed, useBrand } from "../../../study/brand";
import { useTags } from "../../../study/queries";
import { Button } from "../../../ui/Button";
import { CellBar, NetworkMark } from "../../../ui/Marks";
import { HiddenMark } from "../PostLink";
import type { Metric, PostRow } from "../queries";
import { TagMark } from "../tags/TagMark";
import { shortName } from "./PostsTable";

const FIGURES = 4;

/** The posts as cards: what they say, large enough to read, with the first of the chosen figures. */
export function PostCards({ rows, columns, onEnd }: { rows: PostRow[]; columns: Metric[]; onEnd?: () => void }) {
  const { brand, networks } = useBrand();
  const { search } = useLocation();
  const tags = useTags(brand.slug).data ?? [];
  const max = Math.max(2, ...rows.map((p) => p.index ?? 0));
  return (
    <div className="min-h-0 flex-1 overflow-y-auto px-5 pb-5" tabIndex={0} role="region" aria-label="Posts as cards">
      <ul className="grid grid-cols-[repeat(auto-fill,minmax(270px,1fr))] gap-x-5">
        {rows.map((post) => {
          const network = networkNamed(networks, post.network);
          return (
            <li key={post.id} className="border-t border-rule py-3">
              <p className="label flex items-center gap-2">
                <NetworkMark network={network} />
                {published(post, brand.time_zone)} · {formatNames[post.format]}
              </p>
              {post.picture && (
                <img
                  src={post.picture}
                  alt=""
                  loading="lazy"
                  className="mt-2 aspect-[4/3] w-full border border-rule object-cover"
                />
              )}
              <Link
                to={`/${brand.slug}/results/posts/${post.id}${search}`}
                className={`my-1.5 line-clamp-3 min-h-[66px] font-title text-[15.5px] leading-[22px] hover:text-berry ${post.is_removed ? "line-through" : ""}`}
              >
                {post.text || "without text"}
              </Link>
              <HiddenMark hidden={post.hidden} />
              <p className="flex items-center gap-2">
                <span className="font-semibold">{figure(post.index, "index")}</span>
                <CellBar value={post.index} max={max} />
                <span className="label">index</span>
              </p>
              <dl className="mt-1 grid grid-cols-4 gap-x-2">
                {columns.slice(0, FIGURES).map((metric) => (
                  <div key={metric.key} className="min-w-0">
                    <dt className="label truncate" title={metric.name}>
                      {shortName(metric)}
                    </dt>
                    <dd>{figure(post.values[metric.key], metric.unit)}</dd>
                  </div>
                ))}
              </dl>
              <p className="mt-1 flex flex-wrap gap-x-2">
                {post.tags.map((id) => {
                  const tag = tags.find((t) => t.id === id);
                  return tag && <TagMark key={id} name={tag.name} colour={tag.colour} isSmall />;
                })}
              </p>
            </li>
          );
        })}
      </ul>
      {onEnd && <Button onClick={onEnd}>More posts</Button>}
    </div>
  );
}
