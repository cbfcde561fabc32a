import { useEffect, useState } from "react";
import { Link } from "react-router";
import { SaveAs } from "../../figures/SaveAs";
import { dayOf, shortDay } from "../../lib/days";
import { ageSoFar, figure, formatNames, plural } from "../../lib/format";
import { networkNamed, useBrand } from "../../study/brand";
import { KeepIdea } from "../../study/KeepIdea";
import { ageName, useStudy } from "../../study/study";
import { useAddress } from "../../study/useAddress";
import { Button } from "../../ui/Button";
import { Choice } from "../../ui/Choice";
import { CellBar, NetworkMark } from "../../ui/Marks";
import { Empty, Failed, Loading, While } from "../../ui/States";
import { useToast } from "../../ui/Toast";
import { CompetitorsFrame, useWhom } from "./CompetitorsFrame";
import { type BestPost, useBestPosts, useLooked } from "./queries";

const PAGE = 48;
const WAIT_MS = 250;
const SORTS = [
  { value: "-index", label: "how far above their own usual" },
  { value: "-published_at", label: "the newest" },
  { value: "-interactions", label: "interactions" },
  { value: "-comments", label: "comments" },
  { value: "-shares", label: "shares" },
];

/** What the others published that rose above their own usual: read, kept as ideas, and what is new since one looked. */
export function BestPostsPage() {
  const { brand, can } = useBrand();
  const { study } = useStudy();
  const { params, set } = useAddress();
  const whom = useWhom();
  const say = useToast();
  const sort = SORTS.some((s) => s.value === params.get("sort")) ? (params.get("sort") as string) : "-index";
  const text = params.get("text") ?? "";
  const hashtag = params.get("hashtag") ?? "";
  const isNew = params.get("new") === "yes";
  const isRows = params.get("form") === "rows";
  const [typed, setTyped] = useState(text);
  const [limit, setLimit] = useState(PAGE);
  const [idea, setIdea] = useState<BestPost | null>(null);
  const found = useBestPosts(brand.slug, study, whom, { text, hashtag, sort, isNew, limit });
  const looked = useLooked(brand.slug);
  useEffect(() => {
    if (typed === text) return undefined;
    const timer = setTimeout(() => set("text", typed || null, true), WAIT_MS);
    return () => clearTimeout(timer);
  }, [typed, text, set]);
  const data = found.data;
  const max = Math.max(2, ...(data?.posts ?? []).map((p) => p.index ?? 0));
  return (
    <CompetitorsFrame
      actions={
        <>
          <SaveAs
            name="best-posts"
            table={{ kind: "competitors.best", params: { set: whom.set, limit: 24 } }}
            report={{ kind: "competitors.best", params: { set: whom.set, limit: 6 }, drawing: "cards" }}
          />
          <input
            type="search"
            aria-label="Words in the text"
            placeholder="words in the text"
            value={typed}
            onChange={(event) => setTyped(event.target.value)}
            className="h-6 w-40 rounded-[2px] border border-rule-strong bg-panel px-2"
          />
          <button
            type="button"
            className="under hover:text-berry"
            onClick={() => set("form", isRows ? null : "rows", true)}
          >
            {isRows ? "as cards" : "as rows"}
          </button>
        </>
      }
    >
      <section className="min-h-0 flex-1 overflow-y-auto px-5 py-3" aria-labelledby="best-title">
        <h1 id="best-title" className="text-[18px] leading-6">
          What the others published{data ? `: ${plural(data.total, "post")}` : ""}
        </h1>
        <div className="flex flex-wrap items-baseline justify-between gap-3">
          <p className="label">
            By{" "}
            <Choice label="Order" value={sort} options={SORTS} onChoose={(value) => set("sort", value)}>
              {SORTS.find((s) => s.value === sort)?.label}
            </Choice>
            , posts {ageName(study.age ?? data?.age_hours ?? 72)}; 1.00 is that profile's own typical post.
            {hashtag && (
              <>
                {" "}
                Only with #{hashtag}.{" "}
                <button type="button" className="under hover:text-berry" onClick={() => set("hashtag", null)}>
                  all of them
                </button>
              </>
            )}
          </p>
          {data && (
            <p className="flex items-baseline gap-3">
              <button
                type="button"
                aria-pressed={isNew}
                disabled={!data.since}
                className={`h-6 ${isNew ? "border-b-2 border-ink font-semibold" : "text-muted hover:text-ink"}`}
                onClick={() => set("new", isNew ? null : "yes")}
              >
                {data.since
                  ? `${plural(data.new, "is", "are")} new since ${shortDay(dayOf(data.since, brand.time_zone))}`
                  : "all are new to you"}
              </button>
              {data.new > 0 && (
                <Button
                  kind="quiet"
                  isBusy={looked.isPending}
                  onClick={() => looked.mutate(whom.set, { onError: (error) => say(error.message, "wrong") })}
                >
                  I have seen these
                </Button>
              )}
            </p>
          )}
        </div>
        {found.error ? (
          <Failed error={found.error} onRetry={() => found.refetch()} />
        ) : !data ? (
          <Loading what="Loading their posts" lines={9} />
        ) : data.posts.length === 0 ? (
          <Empty title={isNew ? "Nothing new since you looked" : "No post of theirs fits this"}>
            {isNew ? "What is collected next stands here." : "Choose a longer period, or take out a word."}
          </Empty>
        ) : (
          <While isOld={found.isPlaceholderData}>
            <ul
              className={
                isRows
                  ? "mt-2"
                  : "mt-3 grid grid-cols-[repeat(auto-fill,minmax(270px,1fr))] gap-x-6 gap-y-4 narrow:grid-cols-1"
              }
            >
              {data.posts.map((post) => (
                <Post
                  key={post.id}
                  {...{ post, isRows, max }}
                  since={data.since}
                  onIdea={can("plan.write") ? () => setIdea(post) : undefined}
                  onHashtag={(word) => set("hashtag", word)}
                />
              ))}
            </ul>
            {data.posts.length < (isNew ? data.new : data.total) && data.posts.length >= limit && (
              <Button className="mt-4 self-start" isBusy={found.isFetching} onClick={() => setLimit(limit + PAGE)}>
                Show {PAGE} more
              </Button>
            )}
          </While>
        )}
      </section>
      {idea && (
        <KeepIdea
          begun={{ origin: { origin: "post", post: idea.id }, seen: idea.text || "without text" }}
          onClose={() => setIdea(null)}
        />
      )}
    </CompetitorsFrame>
  );
}

type PostProps = {
  post: BestPost;
  isRows: boolean;
  max: number;
  since: string | null;
  onIdea?: () => void;
  onHashtag: (word: string) => void;
};

function Post({ post, isRows, max, since, onIdea, onHashtag }: PostProps) {
  const { brand, networks } = useBrand();
  const network = networkNamed(networks, post.network);
  const isNew = since !== null && post.published_at > since;
  const head = (
    <span className="flex min-w-0 items-center gap-2">
      <NetworkMark network={network} />
      <span className="truncate font-semibold">{post.owner || post.profile}</span>
      <span className="label shrink-0">
        {shortDay(dayOf(post.published_at, brand.time_zone))}, {(formatNames[post.format] ?? post.format).toLowerCase()}
      </span>
      {isNew && <span className="shrink-0 text-[12px] font-semibold text-berry">new</span>}
    </span>
  );
  const words = (
    <Link
      to={`/${brand.slug}/results/posts/${post.id}`}
      className={`hover:text-berry ${isRows ? "truncate" : "line-clamp-4"}`}
      title={post.text}
    >
      {post.text || "without text"}
    </Link>
  );
  const figures = (
    <span className="flex shrink-0 items-baseline gap-2 narrow:shrink narrow:flex-wrap">
      <span className="font-semibold" title="of its profile's typical post">
        {post.index === null ? "no index yet" : `${figure(post.index, "index")} times`}
      </span>
      <CellBar value={post.index} max={max} isOurs={false} />
      <span className="label">
        {figure(post.interactions)} interactions
        {post.young
          ? `, ${ageSoFar(post.young.age_hours)}, heading for ${figure(post.young.heading)} (${figure(post.young.heading_low)} to ${figure(post.young.heading_high)})`
          : post.present_hours !== null
            ? `, ${ageSoFar(post.present_hours)}`
            : ""}
      </span>
    </span>
  );
  const acts = (
    <span className="flex shrink-0 items-baseline gap-3">
      {onIdea && (
        <button type="button" className="under h-6 hover:text-berry" onClick={onIdea}>
          keep as an idea
        </button>
      )}
      {/^https?:\/\//.test(post.url) && (
        <a href={post.url} target="_blank" rel="noopener noreferrer" className="under h-6 leading-6 hover:text-berry">
          at {network.name}
        </a>
      )}
    </span>
  );
  if (isRows)
    return (
      <li className="rowline grid grid-cols-[230px_minmax(0,1fr)_auto_auto] items-center gap-x-5 py-1 narrow:grid-cols-1">
        {head}
        {words}
        {figures}
        {acts}
      </li>
    );
  return (
    <li className="flex flex-col gap-1.5 border-t border-rule-strong pt-2">
      {head}
      {post.picture && (
        <img src={post.picture} alt="" loading="lazy" className="h-28 w-full border border-rule object-cover" />
      )}
      {words}
      {post.hashtags.length > 0 && (
        <span className="label flex flex-wrap gap-x-2">
          {post.hashtags.slice(0, 5).map((word) => (
            <button key={word} type="button" className="hover:text-berry" onClick={() => onHashtag(word)}>
              #{word}
            </button>
          ))}
        </span>
      )}
      <span className="mt-auto flex flex-wrap items-baseline justify-between gap-x-3">
        {figures}
        {acts}
      </span>
    </li>
  );
}
