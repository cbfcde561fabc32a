import { useState } from "react";
import { dayOf, shortDay } from "../../../lib/days";
import { figure, type Unit } from "../../../lib/format";
import { useBrand } from "../../../study/brand";
import { useAge, useStudy } from "../../../study/study";
import { Choice } from "../../../ui/Choice";
import { CellBar } from "../../../ui/Marks";
import { Empty, Failed, Loading } from "../../../ui/States";
import { PostLink } from "../PostLink";
import { useCatalogue, useTop } from "../queries";
import { intervalText } from "../rules";

/** The posts of the period that did best or worst by a metric; the index unless the chosen figure is one of posts. */
export function TopPosts({ metric }: { metric: string }) {
  const { brand } = useBrand();
  const { study } = useStudy();
  const age = useAge();
  const [end, setEnd] = useState<"top" | "bottom">("top");
  const [by, setBy] = useState<"index" | "same">("index");
  const catalogue = useCatalogue(brand.slug).data?.metrics ?? [];
  const same = catalogue.find((m) => m.key === metric && m.is_of_posts && m.key !== "index");
  const key = by === "same" && same ? same.key : "index";
  const unit: Unit = key === "index" ? "index" : (same?.unit ?? "count");
  const name = key === "index" ? "Index" : (same?.name ?? "");
  const top = useTop(brand.slug, study, key, end);
  const rows = top.data?.posts ?? [];
  const max = Math.max(key === "index" ? 2 : 1e-9, ...rows.map((p) => p.high ?? p.value));
  return (
    <section className="mt-4 flex min-w-0 flex-col first:mt-0" aria-labelledby="top-title">
      <div className="flex items-baseline justify-between gap-3">
        <h2 id="top-title" className="text-[18px] leading-6">
          {end === "top" ? "What stood above the rest" : "What fell below the rest"}
        </h2>
        <button
          type="button"
          onClick={() => setEnd(end === "top" ? "bottom" : "top")}
          className="label under h-6 shrink-0 hover:text-berry"
        >
          {end === "top" ? "show the weakest" : "show the strongest"}
        </button>
      </div>
      <p className="label mb-1">
        By{" "}
        <Choice
          label="Posts are ranked by"
          value={by}
          options={[
            { value: "index", label: "index", hint: "against typical" },
            ...(same ? [{ value: "same", label: same.name.toLowerCase() }] : []),
          ]}
          onChoose={(value) => setBy(value as "index" | "same")}
        >
          {name.toLowerCase()}
        </Choice>{" "}
        {age.words}
        {key === "index" ? "; 1.00 is the profile's typical post." : "."}{" "}
        {top.data?.is_shrunk && "Ranked by what the evidence supports: the pale bar is the interval."}
      </p>
      {top.error ? (
        <Failed error={top.error} onRetry={() => top.refetch()} />
      ) : !top.data ? (
        <Loading />
      ) : rows.length === 0 ? (
        <Empty title="No post can be judged yet">
          {top.data.total === 0
            ? "None was published in this period."
            : `${top.data.total} posts here, but none has reached this age. Choose a younger age in the sentence above.`}
        </Empty>
      ) : (
        <>
          <table className="w-full table-fixed">
            <thead className="label text-left">
              <tr className="rowline h-6">
                <th className="font-normal">Post</th>
                <th className="w-[86px] font-normal">Sent</th>
                <th className="w-[64px] text-right font-normal">Inter.</th>
                <th className="w-[132px] text-right font-normal">{name}</th>
              </tr>
            </thead>
            <tbody>
              {rows.map((post) => (
                <tr key={post.id} className="rowline h-7 hover:bg-panel">
                  <td className="pr-2">
                    <PostLink post={post} />
                  </td>
                  <td className="whitespace-nowrap">{shortDay(dayOf(post.published_at, brand.time_zone))}</td>
                  <td className="text-right">{figure(post.interactions)}</td>
                  <td className="text-right" title={intervalText(post.low, post.high, unit)}>
                    <span className="mr-2">{figure(post.value, unit)}</span>
                    {post.low !== null && post.high !== null ? (
                      <Whisker low={post.low} value={post.judged} high={post.high} max={max} />
                    ) : (
                      <CellBar value={post.value} max={max} />
                    )}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
          {top.data.missing > 0 && (
            <p className="label mt-2">{top.data.missing} more are too young or have no such figure.</p>
          )}
        </>
      )}
    </section>
  );
}

function Whisker({ low, value, high, max }: { low: number; value: number; high: number; max: number }) {
  const x = (v: number) => (64 * Math.max(0, v)) / max;
  return (
    <svg width="64" height="9" aria-hidden="true" className="inline-block align-middle">
      <rect x={x(low)} width={Math.max(1, x(high) - x(low))} height="9" fill="var(--wash)" />
      <rect x={Math.min(61.5, x(value) - 1.25)} width="2.5" height="9" fill="var(--berry)" />
    </svg>
  );
}
