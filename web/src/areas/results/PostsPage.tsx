import { useVirtualizer } from "@tanstack/react-virtual";
import { useEffect, useMemo, useRef, useState } from "react";
import { useLocation, useNavigate, useSearchParams } from "react-router";
import { networkNamed, useBrand } from "../../app/brand";
import { MinuteLine } from "../../app/line/MinuteLine";
import { StudySentence } from "../../app/StudySentence";
import { ageName, useStudy } from "../../app/study";
import { moment } from "../../lib/days";
import { figure, formatNames, plural, type Unit } from "../../lib/format";
import { CellBar, NetworkMark } from "../../ui/Marks";
import { SortHead } from "../../ui/SortHead";
import { Empty, Failed, Loading } from "../../ui/States";
import { type PostRow, usePosts } from "./queries";

const ROW = 28;
const GRID =
  "grid grid-cols-[minmax(200px,1fr)_92px_128px_76px_84px_76px_68px_64px_64px_68px_124px] items-center gap-x-2 px-5";
const NUMBERS: { key: keyof PostRow; name: string; unit: Unit }[] = [
  { key: "interactions", name: "Interact.", unit: "count" },
  { key: "impressions", name: "Impress.", unit: "count" },
  { key: "reach", name: "Reach", unit: "count" },
  { key: "comments", name: "Comm.", unit: "count" },
  { key: "shares", name: "Shares", unit: "count" },
  { key: "link_clicks", name: "Clicks", unit: "count" },
  { key: "er_impressions", name: "By impr.", unit: "rate" },
];

/** Every post of the period: sorted, searched, walked through by keyboard. */
export function PostsPage() {
  const { brand, networks } = useBrand();
  const { study } = useStudy();
  const { search } = useLocation();
  const navigate = useNavigate();
  const [params, setParams] = useSearchParams();
  const sort = params.get("sort") ?? "-published_at";
  const [text, setText] = useState(params.get("text") ?? "");
  const posts = usePosts(brand.slug, study, sort, text);
  const rows = useMemo(() => posts.data?.pages.flatMap((page) => page.posts) ?? [], [posts.data]);
  const total = posts.data?.pages[0]?.total ?? 0;
  const young = posts.data?.pages[0]?.too_young ?? 0;
  const [at, setAt] = useState(0);
  const list = useRef<HTMLDivElement>(null);
  const searchField = useRef<HTMLInputElement>(null);
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => list.current,
    estimateSize: () => ROW,
    overscan: 12,
  });
  const items = virtual.getVirtualItems();
  const lastShown = items.at(-1)?.index ?? 0;
  const { hasNextPage, isFetchingNextPage, fetchNextPage } = posts;
  useEffect(() => {
    if (hasNextPage && !isFetchingNextPage && lastShown >= rows.length - 30) void fetchNextPage();
  }, [lastShown, rows.length, hasNextPage, isFetchingNextPage, fetchNextPage]);
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (/^(INPUT|TEXTAREA)$/.test((event.target as HTMLElement).tagName)) return;
      if (event.key === "/") {
        event.preventDefault();
        searchField.current?.focus();
      }
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, []);
  const open = (post?: PostRow) => post && navigate(`/${brand.slug}/results/posts/${post.id}${search}`);
  const max = Math.max(2, ...rows.slice(0, 200).map((p) => p.index ?? 0));
  const onSort = (next: string) =>
    setParams((old) => {
      const changed = new URLSearchParams(old);
      changed.set("sort", next);
      return changed;
    });
  return (
    <>
      <MinuteLine />
      <StudySentence has={["profile", "format", "age"]}>
        <input
          ref={searchField}
          type="search"
          value={text}
          onChange={(e) => setText(e.target.value)}
          placeholder="Search the texts ( / )"
          aria-label="Search the texts"
          className="h-7 w-52 rounded-[2px] border border-rule-strong bg-panel px-2 placeholder:text-muted"
        />
      </StudySentence>
      <div className="flex items-baseline gap-3 px-5 pt-3 pb-1">
        <h1 className="text-[18px]">{posts.data ? plural(total, "post") : "Posts"}</h1>
        <p className="label">
          Figures {ageName(study.age)}.{" "}
          {young > 0 &&
            `${plural(young, "post is", "posts are")} too young or were not read at this age; they come last.`}
        </p>
      </div>
      {posts.error ? (
        <Failed error={posts.error} onRetry={() => posts.refetch()} />
      ) : !posts.data ? (
        <Loading what="Loading the posts" lines={12} />
      ) : rows.length === 0 ? (
        <Empty title={text ? "No post holds these words" : "No post in these days"}>
          Move the period on the line above, or take a filter out of the sentence.
        </Empty>
      ) : (
        <div role="table" aria-label="Posts" aria-rowcount={total} className="flex min-h-0 flex-1 flex-col">
          <div role="row" className={`${GRID} overflow-hidden border-b border-rule-strong [scrollbar-gutter:stable]`}>
            <SortHead name="text" sort={sort} onSort={() => onSort("-published_at")} align="left">
              Post
            </SortHead>
            <SortHead name="format" sort={sort} onSort={onSort} align="left" first="up">
              Format
            </SortHead>
            <SortHead name="published_at" sort={sort} onSort={onSort} align="left">
              Sent
            </SortHead>
            {NUMBERS.map((column) => (
              <SortHead key={column.key} name={column.key} sort={sort} onSort={onSort}>
                {column.name}
              </SortHead>
            ))}
            <SortHead name="index" sort={sort} onSort={onSort}>
              Index
            </SortHead>
          </div>
          <div
            ref={list}
            role="rowgroup"
            tabIndex={0}
            aria-label="Posts, walk with j and k, Enter opens"
            className="min-h-0 flex-1 overflow-y-auto outline-offset-[-2px] [scrollbar-gutter:stable]"
            onKeyDown={(event) => {
              const by = { j: 1, k: -1, ArrowDown: 1, ArrowUp: -1, PageDown: 20, PageUp: -20 }[event.key];
              if (by !== undefined) {
                event.preventDefault();
                const next = Math.max(0, Math.min(rows.length - 1, at + by));
                setAt(next);
                virtual.scrollToIndex(next);
              }
              if (event.key === "Enter") open(rows[at]);
            }}
          >
            <div style={{ height: virtual.getTotalSize(), position: "relative" }}>
              {items.map((item) => {
                const post = rows[item.index];
                if (!post) return null;
                const network = networkNamed(networks, post.network);
                return (
                  // biome-ignore lint/a11y/useKeyWithClickEvents: Enter on the table opens the marked row
                  <div
                    key={post.id}
                    role="row"
                    aria-rowindex={item.index + 2}
                    onClick={() => open(post)}
                    className={`${GRID} rowline absolute inset-x-0 cursor-pointer hover:bg-panel ${item.index === at ? "bg-panel shadow-[inset_3px_0_0_var(--berry)]" : ""}`}
                    style={{ height: ROW, transform: `translateY(${item.start}px)` }}
                  >
                    <span role="cell" className="flex min-w-0 items-center gap-2">
                      <NetworkMark network={post.network} name={network.name} monogram={network.monogram} />
                      <span className={`truncate ${post.is_removed ? "line-through" : ""}`}>
                        {post.text || "without text"}
                      </span>
                    </span>
                    <span role="cell">{formatNames[post.format]}</span>
                    <span role="cell">{moment(post.published_at, brand.time_zone)}</span>
                    {NUMBERS.map((column) => (
                      <span role="cell" key={column.key} className="text-right">
                        {figure(post[column.key] as number | null, column.unit)}
                      </span>
                    ))}
                    <span role="cell" className="text-right">
                      <span className="mr-2">{figure(post.index, "index")}</span>
                      <CellBar value={post.index} max={max} />
                    </span>
                  </div>
                );
              })}
            </div>
          </div>
        </div>
      )}
    </>
  );
}
