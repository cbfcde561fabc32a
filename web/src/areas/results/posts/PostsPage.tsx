import { useEffect, useMemo, useRef, useState } from "react";
import { useLocation, useNavigate } from "react-router";
import { SaveAs } from "../../../figures/SaveAs";
import { plural } from "../../../lib/format";
import { isTyped } from "../../../lib/keys";
import { useBrand } from "../../../study/brand";
import { useChosen } from "../../../study/choices";
import { carriedAll, useAge, useStudy } from "../../../study/study";
import { useAddress } from "../../../study/useAddress";
import { Choice } from "../../../ui/Choice";
import { Empty, Failed, Loading, While } from "../../../ui/States";
import { MetricPicker } from "../MetricPicker";
import { useCatalogue, usePosts, useTotals } from "../queries";
import { ResultsFrame } from "../ResultsFrame";
import { COLUMNS, MOST_COLUMNS } from "../rules";
import { ManageTags } from "../tags/ManageTags";
import { TagSheet } from "../tags/TagSheet";
import { PickedCampaign } from "./PickedCampaign";
import { PostCards } from "./PostCards";
import { PostsTable } from "./PostsTable";
import { TotalsTable } from "./TotalsTable";

const GROUPS: Record<string, string> = {
  "": "one by one",
  format: "by format",
  network: "by network",
  profile: "by profile",
  campaign: "by campaign",
  language: "by language",
  weekday: "by weekday",
  tag: "by tag",
};
const WAIT_MS = 250;

/** Which posts of the table stand first: in a report those are shown, by the figure that it is sorted by. */
function outstanding(sort: string, keys: string[]) {
  const by = sort.replace(/^-/, "");
  return keys.includes(by)
    ? { metric: by, end: sort.startsWith("-") ? "top" : "bottom" }
    : { metric: "interactions", end: "top" };
}

/** Every post of the period: sorted, searched, grouped, walked through and tagged by keyboard. */
export function PostsPage() {
  const { brand, can } = useBrand();
  const canChange = can("results.tag");
  const { study } = useStudy();
  const age = useAge();
  const { search } = useLocation();
  const navigate = useNavigate();
  const { params, set } = useAddress();
  const sort = params.get("sort") ?? "-published_at";
  const by = params.get("by") ?? "";
  const form = params.get("form") === "cards" ? "cards" : "rows";
  const [typed, setTyped] = useState(params.get("text") ?? "");
  const text = params.get("text") ?? "";
  const [keys, choose] = useChosen("columns", COLUMNS);
  const catalogue = useCatalogue(brand.slug).data?.metrics;
  const columns = useMemo(
    () => keys.map((key) => catalogue?.find((m) => m.key === key)).filter((m) => m !== undefined),
    [keys, catalogue],
  );
  const isAmong = params.get("young") === "among";
  const posts = usePosts(brand.slug, study, { sort, text, columns: keys, young: isAmong ? "among" : "after" });
  const totals = useTotals(brand.slug, study, { text, columns: keys }, by || null);
  const rows = useMemo(() => posts.data?.pages.flatMap((page) => page.posts) ?? [], [posts.data]);
  const total = posts.data?.pages[0]?.total ?? 0;
  const young = posts.data?.pages[0]?.too_young ?? 0;
  const [sheet, setSheet] = useState<"columns" | "tag" | "manage" | null>(null);
  const [picked, setPicked] = useState<number[]>([]);
  const field = useRef<HTMLInputElement>(null);
  // biome-ignore lint/correctness/useExhaustiveDependencies: only what is typed starts the wait
  useEffect(() => {
    const wait = setTimeout(() => typed !== text && set("text", typed, true), WAIT_MS);
    return () => clearTimeout(wait);
  }, [typed]);
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (isTyped(event) || event.key !== "/") return;
      event.preventDefault();
      field.current?.focus();
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, []);
  const open = (post: { id: number }) => navigate(`/${brand.slug}/results/posts/${post.id}${search}`);
  const byGroup = (name: string, value: string) =>
    navigate(`/${brand.slug}/results/posts${narrowed(carriedAll(search), name, value)}`);
  return (
    <ResultsFrame
      actions={
        <>
          <input
            ref={field}
            type="search"
            value={typed}
            onChange={(e) => setTyped(e.target.value)}
            placeholder="Search the texts ( / )"
            aria-label="Search the texts"
            className="h-6 w-44 rounded-[2px] border border-rule-strong bg-panel px-2 placeholder:text-muted"
          />
          <Choice
            label="Posts one by one or in groups"
            value={by}
            options={Object.entries(GROUPS).map(([value, label]) => ({ value, label }))}
            onChoose={(value) => set("by", value)}
          >
            {GROUPS[by] ?? "one by one"}
          </Choice>
          <button
            type="button"
            className="under hover:text-berry"
            onClick={() => set("form", form === "rows" ? "cards" : "")}
          >
            {form === "rows" ? "as cards" : "as rows"}
          </button>
          <button type="button" className="under hover:text-berry" onClick={() => setSheet("columns")}>
            Columns
          </button>
          {canChange && (
            <button type="button" className="under hover:text-berry" onClick={() => setSheet("manage")}>
              Tags
            </button>
          )}
          <SaveAs
            name="posts"
            table={{ kind: "results.posts", params: { columns: keys.join(","), text, sort } }}
            report={{ kind: "results.top", params: { ...outstanding(sort, keys), limit: 6 }, drawing: "cards" }}
          />
        </>
      }
    >
      <div className="flex items-baseline gap-3 px-5 pt-2.5 pb-1">
        <h1 className="text-[18px]">{posts.data ? plural(total, "post") : "Posts"}</h1>
        <p className="label">
          Figures {age.words}.{" "}
          {young > 0 && (
            <>
              {plural(young, "post is", "posts are")} too young or were not read at this age: out of the sums, and{" "}
              {isAmong ? "among the others by what they are heading for" : "after the others"}{" "}
              <button
                type="button"
                className="under hover:text-berry"
                onClick={() => set("young", isAmong ? null : "among")}
              >
                {isAmong ? "put them after" : "put them among"}
              </button>
            </>
          )}
        </p>
        {picked.length > 0 && (
          <p className="ml-auto flex items-baseline gap-3">
            <b>{plural(picked.length, "post")} picked</b>
            {canChange && (
              <button type="button" className="under font-semibold hover:text-berry" onClick={() => setSheet("tag")}>
                Tag them ( t )
              </button>
            )}
            {can("plan.write") && <PickedCampaign posts={picked} />}
          </p>
        )}
      </div>
      {posts.error ? (
        <Failed error={posts.error} onRetry={() => posts.refetch()} />
      ) : !posts.data ? (
        <Loading what="Loading the posts" lines={12} />
      ) : rows.length === 0 ? (
        <Empty title={text ? "No post holds these words" : "No post in these days"}>
          Move the period on the line above, or take a filter out of the sentence.
        </Empty>
      ) : by ? (
        <While isOld={totals.isPlaceholderData}>
          <TotalsTable totals={totals} columns={columns} by={by} text={text} onGroup={byGroup} />
        </While>
      ) : form === "cards" ? (
        <While isOld={posts.isPlaceholderData}>
          <PostCards
            rows={rows}
            columns={columns}
            onEnd={posts.hasNextPage ? () => void posts.fetchNextPage() : undefined}
          />
        </While>
      ) : (
        <While isOld={posts.isPlaceholderData}>
          <PostsTable
            rows={rows}
            total={total}
            columns={columns}
            sort={sort}
            whole={totals.data?.whole}
            onSort={(next) => set("sort", next)}
            onOpen={open}
            onEnd={() => {
              if (posts.hasNextPage && !posts.isFetchingNextPage) void posts.fetchNextPage();
            }}
            onPick={setPicked}
            onTag={() => canChange && setSheet("tag")}
          />
        </While>
      )}
      <MetricPicker
        isOpen={sheet === "columns"}
        onClose={() => setSheet(null)}
        title="Columns of the table"
        chosen={keys}
        most={MOST_COLUMNS}
        onChoose={choose}
        isOffered={(m) => m.is_of_posts && m.key !== "index"}
      />
      <TagSheet isOpen={sheet === "tag"} onClose={() => setSheet(null)} posts={picked} rows={rows} />
      <ManageTags isOpen={sheet === "manage"} onClose={() => setSheet(null)} />
    </ResultsFrame>
  );
}

function narrowed(search: string, name: string, value: string): string {
  const query = new URLSearchParams(search);
  query.set(name, value);
  return `?${query}`;
}
