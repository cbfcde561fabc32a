import { useVirtualizer } from "@tanstack/react-virtual";
import { memo, type RefObject, useEffect, useMemo, useRef } from "react";
import { published } from "../../../lib/days";
import { ageSoFar, figure, formatNames, short } from "../../../lib/format";
import { isTyped } from "../../../lib/keys";
import { networkNamed, useBrand } from "../../../study/brand";
import { useWidths } from "../../../study/choices";
import { useTags } from "../../../study/queries";
import { useAge } from "../../../study/study";
import { ColumnEdge } from "../../../ui/ColumnEdge";
import { Cut } from "../../../ui/Cut";
import { CellBar, NetworkMark } from "../../../ui/Marks";
import { SortHead } from "../../../ui/SortHead";
import { ageWords, youngWords } from "../../foresight";
import { HiddenMark } from "../PostLink";
import type { Metric, PostRow, Tag } from "../queries";
import { TagMark } from "../tags/TagMark";
import { usePostsTable } from "./usePostsTable";

const ROW = 28;
const [NAME, GAP, SIDES] = [250, 8, 40];
// What is not of one's choosing: the box, format, time and index.
const FIXED = [18, 78, 124, 112];
const LEAST = 54;
// From here on a head has room for its metric's whole name.
const ROOMY = 100;
const LINE = "grid items-center gap-x-2 px-5";
const SHORT: Record<string, string> = {
  interactions: "Interact.",
  impressions: "Impress.",
  er_reach: "Eng./reach",
  er_impressions: "Eng./impr.",
  er_followers: "Eng./foll.",
  clicks: "Clicks",
  interactions_per_1000: "Per 1,000",
  profile_visits: "Visits",
};

export const shortName = (metric: Metric) => SHORT[metric.key] ?? metric.name;

type Whole = { values: Record<string, number | null>; n: Record<string, number> };
type Props = {
  rows: PostRow[];
  total: number;
  columns: Metric[];
  sort: string;
  whole?: Whole;
  onSort: (sort: string) => void;
  onOpen: (post: { id: number }) => void;
  onEnd: () => void;
  onPick: (ids: number[]) => void;
  onTag: () => void;
};

/** The posts as rows: only what is seen is drawn, so that fifty thousand scroll as ten do. */
export function PostsTable({ rows, total, columns, sort, whole, onSort, onOpen, onEnd, onPick, onTag }: Props) {
  const { brand } = useBrand();
  const tags = useTags(brand.slug).data;
  const tagsById = useMemo(() => new Map((tags ?? []).map((tag) => [tag.id, tag])), [tags]);
  const table = usePostsTable(rows, onOpen, onTag);
  const list = useRef<HTMLDivElement>(null);
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => list.current,
    estimateSize: () => ROW,
    overscan: 6,
  });
  // The table's keys work from the whole page, as the search's does; what is typed into a field is left alone.
  const keys = useRef(table.onKey);
  keys.current = table.onKey;
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      const target = event.target as HTMLElement;
      if (event.defaultPrevented || event.ctrlKey || event.metaKey || event.altKey || !/^[jkxt]$/i.test(event.key))
        return;
      if (isTyped(event) || target.closest("[role=dialog], [role=rowgroup]")) return;
      list.current?.focus();
      const next = keys.current(event);
      if (next !== null) virtual.scrollToIndex(next);
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, [virtual]);
  const items = virtual.getVirtualItems();
  // A row that leaves the sight is written anew for the one that comes into it: cheaper than making one.
  const pool = useRef(1);
  pool.current = Math.max(pool.current, items.length);
  const lastShown = items.at(-1)?.index ?? 0;
  // biome-ignore lint/correctness/useExhaustiveDependencies: asked for when the end comes near, not when the asker changes
  useEffect(() => {
    if (lastShown >= rows.length - 30) onEnd();
  }, [lastShown, rows.length]);
  // biome-ignore lint/correctness/useExhaustiveDependencies: told when the picks change
  useEffect(() => onPick([...table.picked]), [table.picked]);
  const max = useMemo(() => Math.max(2, ...rows.slice(0, 200).map((p) => p.index ?? 0)), [rows]);
  const [widths, setWidth] = useWidths("post-widths");
  const usual = columns.length > 7 ? 62 : 68;
  const drawn = columns.map((metric) => widths[metric.key] ?? usual).join(" ");
  const grid = useMemo(() => {
    const [box, format, sent, index] = FIXED;
    const own = drawn.split(" ").map(Number);
    const sum = [...own, ...FIXED].reduce((a, b) => a + b, 0);
    return {
      gridTemplateColumns: `${box}px minmax(${NAME}px,1fr) ${format}px ${sent}px ${own.map((one) => `${one}px`).join(" ")} ${index}px`,
      minWidth: sum + NAME + SIDES + GAP * (own.length + FIXED.length),
    };
  }, [drawn]);
  // Rows keep one way to act, whatever is drawn anew around them.
  const acts = useRef<Acts>({ open: onOpen, pick: () => undefined });
  acts.current = {
    open: onOpen,
    pick: (at, isRange) => {
      table.setAt(at);
      table.toggle(at, isRange);
    },
  };
  const at = useAge().words;
  return (
    <div
      role="table"
      aria-label="Posts"
      aria-rowcount={total}
      className="scrolls flex min-h-0 flex-1 flex-col overflow-x-auto narrow:h-[75vh] narrow:overflow-x-auto [&>*]:narrow:min-w-[900px]"
    >
      <div
        role="row"
        className={`${LINE} overflow-hidden border-b border-rule-strong [scrollbar-gutter:stable]`}
        style={grid}
      >
        <span role="columnheader" className="sr-only">
          Picked
        </span>
        <span aria-hidden="true" />
        <SortHead name="text" sort={sort} onSort={() => onSort("-published_at")} align="left">
          Post
        </SortHead>
        <SortHead name="format" sort={sort} onSort={onSort} align="left" first="up">
          Format
        </SortHead>
        <SortHead name="published_at" sort={sort} onSort={onSort} align="left">
          Sent
        </SortHead>
        {columns.map((metric) => (
          <SortHead
            key={metric.key}
            name={metric.key}
            sort={sort}
            onSort={onSort}
            edge={
              <ColumnEdge
                name={metric.name}
                least={LEAST}
                usual={usual}
                width={widths[metric.key] ?? usual}
                onWidth={(width) => setWidth(metric.key, width)}
              />
            }
          >
            <span title={`${metric.name}: ${metric.definition}`}>
              {(widths[metric.key] ?? usual) >= ROOMY ? metric.name : shortName(metric)}
            </span>
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
        aria-label="Posts: j and k walk, Enter opens, x picks, Shift with them picks a range, t tags"
        className="scrolls stays min-h-0 flex-1 overflow-x-hidden overflow-y-auto outline-offset-[-2px] [scrollbar-gutter:stable]"
        style={{ minWidth: grid.minWidth }}
        onKeyDown={(event) => {
          if (event.target !== event.currentTarget) return;
          const next = table.onKey(event);
          if (next !== null) virtual.scrollToIndex(next);
        }}
      >
        <div style={{ height: virtual.getTotalSize(), position: "relative" }}>
          {items.map((item) => {
            const post = rows[item.index];
            return (
              post && (
                <Row
                  key={item.index % pool.current}
                  post={post}
                  at={item.index}
                  start={item.start}
                  isPicked={table.picked.has(post.id)}
                  isMarked={item.index === table.at}
                  columns={columns}
                  grid={grid}
                  max={max}
                  tagsById={tagsById}
                  acts={acts}
                />
              )
            );
          })}
        </div>
      </div>
      {whole && (
        <div
          role="row"
          className={`${LINE} h-8 overflow-hidden border-t border-rule-strong bg-panel font-semibold [scrollbar-gutter:stable]`}
          style={grid}
        >
          <span role="cell" />
          <span role="cell">All of them, {at}</span>
          <span role="cell" />
          <span role="cell" className="label truncate font-normal">
            sums, rates of sums
          </span>
          {columns.map((metric) => (
            <span role="cell" key={metric.key} className="text-right" title={`over ${whole.n[metric.key] ?? 0} posts`}>
              {figure(whole.values[metric.key], metric.unit)}
            </span>
          ))}
          <span role="cell" />
        </div>
      )}
    </div>
  );
}

type Acts = { open: (post: PostRow) => void; pick: (at: number, isRange: boolean) => void };
type RowProps = {
  post: PostRow;
  at: number;
  start: number;
  isPicked: boolean;
  isMarked: boolean;
  columns: Metric[];
  grid: { gridTemplateColumns: string; minWidth: number };
  max: number;
  tagsById: Map<number, Tag>;
  acts: RefObject<Acts>;
};

/** One post. While the table scrolls only rows that come into sight are drawn; the others stay as they are. */
const Row = memo(function Row({ post, at, start, isPicked, isMarked, columns, grid, max, tagsById, acts }: RowProps) {
  const { brand, networks } = useBrand();
  const network = networkNamed(networks, post.network);
  return (
    // biome-ignore lint/a11y/useKeyWithClickEvents: Enter on the table opens the marked row
    <div
      role="row"
      aria-rowindex={at + 2}
      aria-selected={isPicked}
      onClick={() => acts.current.open(post)}
      className={`${LINE} rowline absolute inset-x-0 cursor-pointer hover:bg-panel ${isPicked ? "bg-wash" : isMarked ? "bg-panel" : ""} ${isMarked ? "shadow-[inset_3px_0_0_var(--berry)]" : ""}`}
      style={{ ...grid, height: ROW, transform: `translateY(${start}px)` }}
    >
      <span role="cell" className="flex">
        <PickBox
          isOn={isPicked}
          label={`Pick ${post.text.slice(0, 40) || "the post"}`}
          onPick={(isRange) => acts.current.pick(at, isRange)}
        />
      </span>
      <span role="cell" className="flex min-w-0 items-center gap-2 overflow-hidden">
        <NetworkMark network={network} />
        <Cut className={`min-w-16 ${post.is_removed ? "line-through" : ""}`}>{post.text || "without text"}</Cut>
        <HiddenMark hidden={post.hidden} />
        {post.is_boosted && <span className="label shrink-0">boosted</span>}
        {/* Where a young post says what it heads for, its words come before its tags. */}
        {post.tags.slice(0, post.present_hours === null ? 2 : post.is_boosted ? 0 : 1).map((id) => {
          const tag = tagsById.get(id);
          return tag && <TagMark key={id} name={tag.name} colour={tag.colour} isSmall />;
        })}
        {post.present_hours !== null && (
          <span
            className="label ml-auto shrink-0"
            title={
              post.young
                ? `${youngWords({ ...post.young, count: post.interactions ?? 0 })}. Young: outside of sums`
                : "Not known at the age that is studied: as last seen, outside of sums and rankings"
            }
          >
            {post.young
              ? `${ageWords(post.young.age_hours)}, to ${short(post.young.heading)} (${short(post.young.heading_low)}–${short(post.young.heading_high)})`
              : ageSoFar(post.present_hours)}
          </span>
        )}
      </span>
      <span role="cell">{formatNames[post.format]}</span>
      <span role="cell" className="whitespace-nowrap">
        {published(post, brand.time_zone)}
      </span>
      {columns.map((metric) => (
        <span role="cell" key={metric.key} className={`text-right ${post.present_hours === null ? "" : "text-muted"}`}>
          {figure(post.values[metric.key], metric.unit)}
        </span>
      ))}
      <span role="cell" className="text-right">
        <span className="mr-2">{figure(post.index, "index")}</span>
        <CellBar value={post.index} max={max} />
      </span>
    </div>
  );
});

function PickBox({ isOn, label, onPick }: { isOn: boolean; label: string; onPick: (isRange: boolean) => void }) {
  return (
    <button
      type="button"
      role="checkbox"
      aria-checked={isOn}
      aria-label={label}
      tabIndex={-1}
      className="-ml-1 flex h-7 w-6 items-center justify-center"
      onClick={(event) => {
        event.stopPropagation();
        onPick(event.shiftKey);
      }}
    >
      <svg width="14" height="14" viewBox="0 0 14 14" aria-hidden="true">
        <rect
          x="0.75"
          y="0.75"
          width="12.5"
          height="12.5"
          rx="1.5"
          fill={isOn ? "var(--berry)" : "var(--panel)"}
          stroke={isOn ? "var(--berry)" : "var(--tick)"}
          strokeWidth="1.5"
        />
        {isOn && <path d="M3.5 7.2 6 9.6l4.5-5" fill="none" stroke="var(--on-berry)" strokeWidth="1.8" />}
      </svg>
    </button>
  );
}
