import { useState } from "react";
import { Link, useLocation, useSearchParams } from "react-router";
import { useBrand, useNetwork } from "../../app/brand";
import { MinuteLine } from "../../app/line/MinuteLine";
import { StudySentence } from "../../app/StudySentence";
import { ageName, useStudy } from "../../app/study";
import { CourseChart } from "../../charts/CourseChart";
import { addDays } from "../../lib/days";
import { figure } from "../../lib/format";
import { Delta, NetworkMark } from "../../ui/Marks";
import { Empty, Failed, Loading } from "../../ui/States";
import { BasisSheet } from "./BasisSheet";
import { CourseTable } from "./CourseTable";
import type { Measured } from "./queries";
import { useSummary } from "./queries";
import { formOf, shares, stripOf } from "./rules";
import { Strip } from "./Strip";
import { TopPosts } from "./TopPosts";

export function SummaryPage() {
  const { brand } = useBrand();
  const { study, change } = useStudy();
  const { search } = useLocation();
  const [params, setParams] = useSearchParams();
  const summary = useSummary(brand.slug, study);
  const chosen = params.get("metric") ?? "interactions";
  const basis = params.get("basis");
  const set = (name: string, value: string | null) =>
    setParams((old) => {
      const next = new URLSearchParams(old);
      if (value) next.set(name, value);
      else next.delete(name);
      return next;
    });
  const metrics = summary.data?.metrics ?? [];
  const metric = metrics.find((m) => m.key === chosen) ?? metrics[0];
  return (
    <>
      <h1 className="sr-only">Results of {brand.name}</h1>
      <MinuteLine />
      <StudySentence>
        <Link to={`/${brand.slug}/results/posts${search}`} className="under font-semibold hover:text-berry">
          All posts
        </Link>
      </StudySentence>
      {summary.error ? (
        <Failed error={summary.error} onRetry={() => summary.refetch()} />
      ) : !summary.data || !metric ? (
        <Loading what="Loading the figures" lines={9} />
      ) : (
        <>
          <Strip
            metrics={stripOf(metrics)}
            chosen={metric.key}
            onChoose={(key) => set("metric", key)}
            onBasis={(key) => set("basis", key)}
          />
          {metrics.every((m) => m.now.n === 0) ? (
            <Empty title="Nothing is known of these days">
              No profile studied has a post or a reading here. Move the period on the line above, or collect under
              Sources.
            </Empty>
          ) : (
            <div className="grid min-h-0 flex-1 grid-cols-[3fr_2fr]">
              <Course
                metric={metric}
                posts={metrics.find((m) => m.key === "posts")}
                onDay={(day) => change({ first: day, last: day })}
                age={study.age}
              />
              <TopPosts />
            </div>
          )}
          <BasisSheet
            metric={basis}
            unit={metrics.find((m) => m.key === basis)?.unit ?? "count"}
            onClose={() => set("basis", null)}
          />
        </>
      )}
    </>
  );
}

function Course({
  metric,
  posts,
  onDay,
  age,
}: {
  metric: Measured;
  posts?: Measured;
  onDay: (day: string) => void;
  age: number;
}) {
  const { study } = useStudy();
  const [isTable, setTable] = useState(false);
  const days = metric.days.map((_, i) => addDays(study.first, i));
  const compared = useSummary(useBrand().brand.slug, study).data?.compared;
  const daysBefore = metric.days_before.map((_, i) => addDays(compared?.first ?? study.first, i));
  const hasDays = metric.days.some((v) => v !== null);
  const form = formOf(metric.key);
  return (
    <section
      className="flex min-w-0 flex-col gap-1 overflow-y-auto border-r border-rule px-5 py-3"
      aria-labelledby="course-title"
    >
      <div className="flex items-baseline justify-between gap-4">
        <h2 id="course-title" className="text-[18px] leading-6">
          {metric.title.text}
        </h2>
        {hasDays && (
          <button
            type="button"
            aria-pressed={isTable}
            onClick={() => setTable(!isTable)}
            className="label under h-6 shrink-0 hover:text-berry"
          >
            {isTable ? "as a chart" : "as a table"}
          </button>
        )}
      </div>
      <p className="label">
        {!hasDays
          ? `Made ${ageName(age)} of each post, so it has no course by day.`
          : form === "bar"
            ? `${metric.name} per day.`
            : `${metric.name} per day, solid; the comparison period, dashed. Short marks on the axis are posts; a click on a day studies it.`}
      </p>
      {!hasDays ? null : isTable ? (
        <CourseTable metric={metric} days={days} />
      ) : (
        <CourseChart
          label={metric.name}
          unit={metric.unit}
          days={days}
          now={metric.days}
          before={metric.days_before}
          daysBefore={daysBefore}
          posts={posts?.days}
          form={form}
          onDay={onDay}
          height={262}
        />
      )}
      <ByNetwork metric={metric} />
    </section>
  );
}

function ByNetwork({ metric }: { metric: Measured }) {
  if (metric.networks.length === 0) return null;
  const parts = shares(metric.networks);
  return (
    <div className="mt-3">
      <h3 className="text-[15px]">{metric.name} by network</h3>
      <table className="mt-1 w-full">
        <thead className="sr-only">
          <tr>
            <th>Network</th>
            <th>Value</th>
            <th>Change</th>
            <th>Share</th>
          </tr>
        </thead>
        <tbody>
          {metric.networks.map((part, i) => (
            <NetworkRow
              key={part.network}
              metric={metric}
              network={part.network}
              value={part.value}
              before={part.before}
              share={metric.unit === "rate" ? null : (parts[i] ?? null)}
            />
          ))}
        </tbody>
      </table>
    </div>
  );
}

function NetworkRow({
  metric,
  network,
  value,
  before,
  share,
}: {
  metric: Measured;
  network: string;
  value: number | null;
  before: number | null;
  share: number | null;
}) {
  const known = useNetwork(network);
  const difference = value === null || before === null ? null : value - before;
  return (
    <tr className="rowline h-7">
      <td className="w-40">
        <span className="inline-flex items-center gap-2">
          <NetworkMark network={network} name={known.name} monogram={known.monogram} />
          {known.name}
        </span>
      </td>
      <td className="w-28 text-right font-semibold">
        {value === null ? <span className="font-normal text-muted">not reported</span> : figure(value, metric.unit)}
      </td>
      <td className="w-32 pl-4">
        {value !== null && (
          <Delta
            change={{ difference, relative: difference === null || !before ? null : difference / Math.abs(before) }}
            unit={metric.unit}
          />
        )}
      </td>
      <td>
        {share !== null && (
          <svg width="100%" height="10" aria-hidden="true">
            <rect width={`${share * 100}%`} height="10" fill="var(--berry)" />
          </svg>
        )}
      </td>
    </tr>
  );
}
