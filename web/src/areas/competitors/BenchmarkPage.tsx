import { useRef } from "react";
import { BOTTOM, DayFrame, Grid } from "../../charts/DayFrame";
import { bandPath, linePath, valueScale } from "../../charts/ticks";
import { FigureValue } from "../../figures/FigureValue";
import { SaveAs } from "../../figures/SaveAs";
import { shortDay } from "../../lib/days";
import { figure, interval, short, type Unit } from "../../lib/format";
import { useBrand } from "../../study/brand";
import { ageName, useStudy } from "../../study/study";
import { useAddress, useAsTable } from "../../study/useAddress";
import { Choice } from "../../ui/Choice";
import { Failed, Loading } from "../../ui/States";
import { FormSwitch, TableForm } from "../../ui/TableForm";
import { CompetitorsFrame, useWhom } from "./CompetitorsFrame";
import { METRICS } from "./metrics";
import { type Benchmark, useBenchmark } from "./queries";
import { SizeChart } from "./SizeChart";

const TOP = 10;

/** Where we stand in the set, over time, and against what is usual for an audience of our size. */
export function BenchmarkPage() {
  const { brand } = useBrand();
  const { study } = useStudy();
  const { params, set } = useAddress();
  const whom = useWhom();
  const [isTable, setTable] = useAsTable();
  const metric = METRICS.some((m) => m.key === params.get("metric"))
    ? (params.get("metric") as string)
    : "interactions_per_1000";
  const found = useBenchmark(brand.slug, study, { set: whom.set, by: whom.by }, metric);
  const box = useRef<HTMLElement>(null);
  const kindParams = { set: whom.set, by: whom.by, metric };
  const data = found.data;
  return (
    <CompetitorsFrame
      hasRows
      actions={
        <SaveAs
          name={`benchmark-${metric}`}
          table={{ kind: "competitors.band", params: kindParams }}
          chart={{ box, title: data?.title ?? "", definition: data?.column.definition ?? "" }}
        />
      }
    >
      {found.error ? (
        <Failed error={found.error} onRetry={() => found.refetch()} />
      ) : !data ? (
        <Loading what="Laying the band" lines={9} />
      ) : (
        <div className="grid min-h-0 flex-1 grid-cols-[3fr_2fr] overflow-y-auto">
          <section ref={box} className="min-w-0 border-r border-rule px-5 py-3" aria-labelledby="band-title">
            <h1 id="band-title" className="text-[18px] leading-6">
              {data.title}
            </h1>
            <div className="flex items-baseline justify-between gap-3">
              <p className="label">
                <Choice
                  label="Metric"
                  value={metric}
                  options={METRICS.map((m) => ({ value: m.key, label: m.name }))}
                  onChoose={(key) => set("metric", key)}
                >
                  {data.column.name}
                </Choice>{" "}
                {data.column.is_of_posts && `${ageName(study.age ?? data.age_hours)}, `}by{" "}
                {data.bin_days === 7 ? "week" : `${data.bin_days} days`}, the period from the dotted line on. The band
                holds the middle half of the others, the pale one all of them; the line is ours, with its 95 % interval.
              </p>
              <FormSwitch isTable={isTable} onChange={setTable} />
            </div>
            {isTable ? <BandTable data={data} /> : <Band data={data} />}
            <Where data={data} params={kindParams} />
          </section>
          <section className="min-w-0 px-5 py-3" aria-labelledby="size-title">
            <h2 id="size-title" className="text-[18px] leading-6">
              {data.size?.above && !data.has_several
                ? `We get ${figure(data.size.above, "index")} times what is usual for our audience`
                : "What is usual for an audience of our size"}
            </h2>
            <p className="label">
              Interactions of a post for 1,000 followers by audience, both on log scales. The line is laid through the
              others; where single ones of them lie is shaded (95 %).
            </p>
            <SizeChart data={data} params={kindParams} />
            <p className="mt-2">{data.size_words}</p>
            {data.slope_words && <p className="mt-1 text-muted">{data.slope_words}</p>}
          </section>
        </div>
      )}
    </CompetitorsFrame>
  );
}

function Where({ data, params }: { data: Benchmark; params: Record<string, string | number | undefined> }) {
  const unit = data.column.unit as Unit;
  if (!data.place || data.place.percentile === null) return null;
  const { place } = data;
  return (
    <p className="mt-2">
      {data.now?.value !== undefined && data.now?.value !== null && (
        <>
          Over the whole period {figure(data.now.value, unit)}
          {data.now.interval && ` (${interval(data.now.interval.low, data.now.interval.high, unit)})`}:{" "}
        </>
      )}
      <FigureValue kind="competitors.band" cell="percentile" params={params} label="our percentile">
        above {figure(place.percentile ?? 0, "count")} in 100 of the others
      </FigureValue>
      {place.low !== place.high && `; ${figure(place.low)} to ${figure(place.high)} are not ruled out`}.
    </p>
  );
}

function Band({ data }: { data: Benchmark }) {
  const unit = data.column.unit as Unit;
  const height = 300;
  const tall = height - TOP - BOTTOM;
  const at = (i: number) => data.bins.map((bin) => bin.band[i] ?? null);
  const ours = data.bins.map((bin) => bin.ours.value);
  const [low, high] = [
    data.bins.map((bin) => bin.ours.interval?.low ?? null),
    data.bins.map((bin) => bin.ours.interval?.high ?? null),
  ];
  const y = valueScale([...at(4), ...ours], tall);
  const most = y.domain()[1] ?? 1;
  const Y = (v: number) => TOP + y(Math.min(most, v));
  const begun = Math.max(
    0,
    data.bins.findIndex((bin) => bin.first >= data.period.first),
  );
  const textOf = (i: number) => {
    const bin = data.bins[i];
    if (!bin) return "";
    const [least, quarter, middle, three, largest] = bin.band;
    const half =
      middle === null
        ? ""
        : `, the middle ${figure(middle, unit)}, half of them ${figure(quarter, unit)} to ${figure(three, unit)}`;
    return `From ${shortDay(bin.first)}: ours ${figure(bin.ours.value, unit)}; ${bin.members} others ${figure(least, unit)} to ${figure(largest, unit)}${half}`;
  };
  return (
    <DayFrame
      days={data.bins.map((bin) => bin.first)}
      height={height}
      label={`${data.column.name}, ours and the others`}
      textOf={textOf}
    >
      {(place, here) => (
        <>
          <Grid ticks={y.ticks(5)} Y={Y} width={place.width} text={(v) => short(v, unit)} />
          <path
            d={`M${place.x(begun) - place.step / 2} ${TOP}V${TOP + tall}`}
            stroke="var(--berry)"
            strokeDasharray="2 4"
          />
          <path d={bandPath(at(0), at(4), place.x, Y)} fill="var(--tick)" opacity="0.16" />
          <path d={bandPath(at(1), at(3), place.x, Y)} fill="var(--tick)" opacity="0.34" />
          <path
            d={linePath(at(2), place.x, Y)}
            fill="none"
            stroke="var(--against-ink)"
            strokeWidth="1.5"
            strokeDasharray="5 3"
          />
          <path d={bandPath(low, high, place.x, Y)} fill="var(--berry)" opacity="0.14" />
          <path
            d={linePath(ours, place.x, Y)}
            fill="none"
            stroke="var(--berry)"
            strokeWidth="2.2"
            strokeLinejoin="round"
          />
          {ours.map((value, i) =>
            value === null ? null : (
              <circle
                key={data.bins[i]?.first}
                cx={place.x(i)}
                cy={Y(value)}
                r={here === i ? 4 : 2.2}
                fill="var(--berry)"
                stroke="var(--paper)"
              />
            ),
          )}
        </>
      )}
    </DayFrame>
  );
}

function BandTable({ data }: { data: Benchmark }) {
  const unit = data.column.unit as Unit;
  return (
    <TableForm
      caption={data.column.name}
      head={["from", "ours", "least", "a quarter", "middle", "three quarters", "most", "others"]}
      rows={data.bins.map((bin) => [
        shortDay(bin.first),
        figure(bin.ours.value, unit),
        ...bin.band.map((v) => figure(v, unit)),
        String(bin.members),
      ])}
    />
  );
}
