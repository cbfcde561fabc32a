import { useRef, useState } from "react";
import { Link, useLocation, useSearchParams } from "react-router";
import { CourseChart } from "../../../charts/CourseChart";
import { BasisSheet } from "../../../figures/BasisSheet";
import { SaveAs } from "../../../figures/SaveAs";
import { addDays } from "../../../lib/days";
import { plural } from "../../../lib/format";
import { useBrand } from "../../../study/brand";
import { useChosen } from "../../../study/choices";
import { FirstSteps } from "../../../study/FirstSteps";
import { useKeepPreference, usePreferences } from "../../../study/queries";
import { carriedAll, useAge, useStudy } from "../../../study/study";
import { useAddress, useAsTable } from "../../../study/useAddress";
import { Empty, Failed, Loading, While } from "../../../ui/States";
import { FormSwitch } from "../../../ui/TableForm";
import { UnderWay } from "../../foresight";
import { BehindSheet } from "../BehindSheet";
import { ClicksBehind } from "../ClicksBehind";
import { MetricPicker } from "../MetricPicker";
import { type Measured, useSpikes, useSummary } from "../queries";
import { ResultsFrame } from "../ResultsFrame";
import { courseCaption, courseOf, type Form, formOf, MOST_IN_STRIP, STRIP } from "../rules";
import { ByNetwork } from "./ByNetwork";
import { CourseTable } from "./CourseTable";
import { Multiples } from "./Multiples";
import { Strip } from "./Strip";
import { Targets } from "./Targets";
import { TopPosts } from "./TopPosts";

/** The figures of the period, each against the comparison: its course, its networks, the posts that stood out. */
export function SummaryPage() {
  const { brand } = useBrand();
  const { study } = useStudy();
  const [, setParams] = useSearchParams();
  const { params, set } = useAddress();
  const [keys, choose] = useChosen("summary", STRIP);
  // An address may ask for a figure that this person does not show: it joins them for as long as it is asked for.
  const asked = params.get("metric") ?? "interactions";
  const shown = keys.includes(asked) || !params.get("metric") ? keys : [...keys.slice(0, MOST_IN_STRIP - 1), asked];
  const summary = useSummary(brand.slug, study, shown);
  const [isPicking, setPicking] = useState(false);
  const box = useRef<HTMLElement>(null);
  const metrics = summary.data?.metrics ?? [];
  const wanted = metrics.find((m) => m.key === asked) ?? metrics[0];
  // Where nobody asked for a figure, the chart is of one that there is.
  const isKnown = params.get("metric") || wanted?.now.value !== null;
  const metric = isKnown ? wanted : (metrics.find((m) => m.days.some((v) => v)) ?? wanted);
  const basis = params.get("basis");
  const isSeveral = params.get("view") === "several";
  const isNothing = metrics.length > 0 && metrics.every((m) => m.now.value === null || m.now.value === 0);
  return (
    <ResultsFrame
      actions={
        <>
          <button type="button" className="under hover:text-berry" onClick={() => setPicking(true)}>
            Choose figures
          </button>
          <button
            type="button"
            aria-pressed={isSeveral}
            className="under hover:text-berry"
            onClick={() => set("view", isSeveral ? null : "several")}
          >
            {isSeveral ? "One at a time" : "All at once"}
          </button>
          {metric && (
            <SaveAs
              name={metric.key}
              table={{ kind: "results.course", params: { metrics: shown.join(",") } }}
              chart={{ box, title: metric.title.text, definition: `${metric.name} per day.` }}
            />
          )}
        </>
      }
    >
      <h1 className="sr-only">Results of {brand.name}</h1>
      {summary.error ? (
        <Failed error={summary.error} onRetry={() => summary.refetch()} />
      ) : !summary.data || !metric ? (
        <Loading what="Loading the figures" lines={9} />
      ) : (
        <While isOld={summary.isPlaceholderData}>
          <Strip
            metrics={metrics}
            isOver={summary.data.whole_days > 0}
            chosen={metric.key}
            onChoose={(key) => set("metric", key)}
            onBasis={(key) => set("basis", key)}
          />
          {isNothing ? (
            <>
              <Empty title="Nothing is known of these days">
                No profile studied has a post or a reading here. Move the period on the line above, or collect under
                Sources.
              </Empty>
              <FirstSteps />
            </>
          ) : isSeveral ? (
            <Multiples
              metrics={metrics}
              compared={summary.data.compared.first}
              whole={summary.data.whole_days}
              onChoose={(key) => setParams(one(key))}
              onDay={(key, day) => setParams(one(key, day))}
            />
          ) : (
            <div className="grid min-h-0 flex-1 grid-cols-[3fr_2fr]">
              <Course
                box={box}
                metric={metric}
                metrics={metrics}
                compared={summary.data.compared.first}
                whole={summary.data.whole_days}
                onDay={(day) => set("day", day)}
              />
              <div className="flex min-w-0 flex-col overflow-y-auto px-5 py-3">
                <Targets />
                <UnderWay most={4} />
                <TopPosts metric={metric.key} />
              </div>
            </div>
          )}
          <BasisSheet of={courseOf(basis)} onClose={() => set("basis", null)} />
          {metric.over === "brought" ? (
            <ClicksBehind day={params.get("day")} onClose={() => set("day", null)} />
          ) : (
            <BehindSheet
              metric={metric.key}
              name={metric.name}
              day={params.get("day")}
              onClose={() => set("day", null)}
            />
          )}
        </While>
      )}
      <MetricPicker
        isOpen={isPicking}
        onClose={() => setPicking(false)}
        title="Figures of the summary"
        chosen={keys}
        most={MOST_IN_STRIP}
        onChoose={choose}
      />
    </ResultsFrame>
  );
}

/** One figure alone, or a day of it while all are in sight. */
const one = (key: string, day?: string) => (old: URLSearchParams) => {
  const next = new URLSearchParams(old);
  next.set("metric", key);
  if (day) next.set("day", day);
  else next.delete("view");
  return next;
};

type CourseProps = {
  box: React.RefObject<HTMLElement | null>;
  metric: Measured;
  metrics: Measured[];
  /** First day of the comparison period. */
  compared: string;
  /** How many days are over. */
  whole: number;
  onDay: (day: string) => void;
};

const withMetric = (search: string, key: string) => {
  const kept = new URLSearchParams(carriedAll(search));
  kept.set("metric", key);
  return `?${kept}`;
};

function Course({ box, metric, metrics, compared, whole, onDay }: CourseProps) {
  const { brand } = useBrand();
  const { search } = useLocation();
  const { study } = useStudy();
  const age = useAge();
  const [isTable, setTable] = useAsTable();
  const forms = (usePreferences(brand.slug).data?.values.forms ?? {}) as Record<string, Form>;
  const keep = useKeepPreference(brand.slug);
  const spikes = useSpikes(brand.slug, study, metric.key);
  const days = metric.days.map((_, i) => addDays(study.first, i));
  const hasDays = metric.days.some((v) => v !== null);
  const form = formOf(metric.key, forms);
  const other = form === "bar" ? "line" : "bar";
  const isByDay = spikes.data?.is_by_day ?? false;
  const posts = metrics.find((m) => m.key === "posts");
  return (
    <section
      ref={box}
      className="flex min-w-0 flex-col gap-1 overflow-y-auto border-r border-rule px-5 py-3"
      aria-labelledby="course-title"
    >
      <div className="flex items-baseline justify-between gap-4">
        <h2 id="course-title" className="text-[18px] leading-6">
          {metric.title.text}
        </h2>
        {hasDays && (
          <span className="flex shrink-0 gap-3 narrow:shrink narrow:flex-wrap">
            {metric.change.difference !== null && (
              <Link
                to={`/${brand.slug}/results/difference${withMetric(search, metric.key)}`}
                className="label under h-6 hover:text-berry"
              >
                what made the difference
              </Link>
            )}
            {!isTable && (
              <button
                type="button"
                onClick={() => keep.mutate({ name: "forms", value: { ...forms, [metric.key]: other } })}
                className="label under h-6 shrink-0 hover:text-berry"
              >
                as {other}s
              </button>
            )}
            <FormSwitch isTable={isTable} onChange={setTable} />
          </span>
        )}
      </div>
      <p className="label">
        {!hasDays ? "This figure has no course by day." : courseCaption(metric, age.words, form, isByDay)}
      </p>
      {whole > 0 && whole < days.length && (
        <p className="label">
          The figures above are of the {plural(whole, "day")} that are over, held against as many. Today is drawn, not
          counted.
        </p>
      )}
      {metric.missing_note && <p className="label">{metric.missing_note}</p>}
      {!hasDays ? null : isTable ? (
        <CourseTable metric={metric} days={days} />
      ) : (
        <CourseChart
          label={metric.name}
          unit={metric.unit}
          days={days}
          now={metric.days}
          before={metric.days_before}
          daysBefore={metric.days_before.map((_, i) => addDays(compared, i))}
          posts={posts?.days}
          form={form}
          spikes={spikes.data?.spikes}
          whole={whole}
          onDay={isByDay ? onDay : undefined}
          height={262}
        />
      )}
      <ByNetwork metric={metric} />
    </section>
  );
}
