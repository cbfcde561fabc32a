import { scaleLinear, scaleLog } from "d3-scale";
import { useRef, useState } from "react";
import { FigureValue } from "../../figures/FigureValue";
import { SaveAs } from "../../figures/SaveAs";
import { figure, interval, short, type Unit } from "../../lib/format";
import { useSize } from "../../lib/useSize";
import { networkNamed, useBrand } from "../../study/brand";
import { ageName, useStudy } from "../../study/study";
import { useAddress, useAsTable } from "../../study/useAddress";
import { Choice } from "../../ui/Choice";
import { Empty, Failed, Loading } from "../../ui/States";
import { FormSwitch, TableForm } from "../../ui/TableForm";
import { CompetitorsFrame, useWhom } from "./CompetitorsFrame";
import { METRICS } from "./metrics";
import { type Axes, type Dot, useAxes } from "./queries";
import { placed } from "./rules";

const PAD = { left: 56, right: 16, top: 18, bottom: 40 };
const LARGEST = 22;
const AT_FIRST = { x: "posts_per_week", y: "interactions_per_1000", size: "followers" };

/** Everybody on two metrics of choice, sized by a third: where each stands, and where it came from. */
export function AxesPage() {
  const { brand } = useBrand();
  const { study } = useStudy();
  const { params, set } = useAddress();
  const whom = useWhom();
  const [isTable, setTable] = useAsTable();
  const box = useRef<HTMLElement>(null);
  const known = (name: keyof typeof AT_FIRST) =>
    METRICS.some((m) => m.key === params.get(name)) ? (params.get(name) as string) : AT_FIRST[name];
  const axes = { x: known("x"), y: known("y"), size: known("size") };
  const found = useAxes(brand.slug, study, { set: whom.set, by: whom.by }, axes);
  const data = found.data;
  const choice = (name: keyof typeof AT_FIRST, label: string) => (
    <Choice
      label={label}
      value={axes[name]}
      options={METRICS.map((m) => ({ value: m.key, label: m.name }))}
      onChoose={(key) => set(name, key)}
    >
      {METRICS.find((m) => m.key === axes[name])?.name}
    </Choice>
  );
  return (
    <CompetitorsFrame
      hasRows
      actions={
        <SaveAs
          name="axes"
          table={{ kind: "competitors.table", params: { set: whom.set, by: whom.by } }}
          chart={{ box, title: "Two axes", definition: `${data?.x.definition ?? ""} ${data?.y.definition ?? ""}` }}
        />
      }
    >
      <section
        ref={box}
        className="flex min-h-0 flex-1 flex-col overflow-y-auto px-5 py-3"
        aria-labelledby="axes-title"
      >
        <h1 id="axes-title" className="text-[18px] leading-6">
          {data ? axesTitle(data) : "Two axes"}
        </h1>
        <div className="flex items-baseline justify-between gap-3">
          <p className="label">
            {choice("x", "To the right")} to the right, {choice("y", "Upwards")} upwards, size by{" "}
            {choice("size", "Size")}; posts {ageName(study.age ?? data?.age_hours ?? 72)}. Lines are the set's medians;
            tails lead back over the {data?.days ?? 28} days before, and the two periods before those.
          </p>
          <FormSwitch isTable={isTable} onChange={setTable} />
        </div>
        {found.error ? (
          <Failed error={found.error} onRetry={() => found.refetch()} />
        ) : !data ? (
          <Loading what="Drawing everybody" lines={9} />
        ) : data.dots.length === 0 ? (
          <Empty title="Nobody has both figures here">Choose other metrics, a longer period, or another set.</Empty>
        ) : isTable ? (
          <AxesTable data={data} params={{ set: whom.set, by: whom.by }} />
        ) : (
          <Drawing data={data} />
        )}
        {data && data.left_out.length > 0 && (
          <p className="label">Without one of the two figures, so not drawn: {data.left_out.join(", ")}.</p>
        )}
      </section>
    </CompetitorsFrame>
  );
}

/** In which quarter we stand, in plain words. */
function axesTitle(data: Axes): string {
  const ours = data.dots.filter((dot) => dot.is_own);
  const [one] = ours;
  if (ours.length !== 1 || !one || data.middle_x === null || data.middle_y === null || data.dots.length < 3)
    return `${data.x.name[0]?.toUpperCase()}${data.x.name.slice(1)} and ${data.y.name}`;
  const isRight = (one.x.value ?? 0) >= data.middle_x;
  const isUpper = (one.y.value ?? 0) >= data.middle_y;
  const isOpen = (held: Dot["x"]["interval"], middle: number) => held && held.low <= middle && held.high >= middle;
  const open = [
    isOpen(one.x.interval, data.middle_x) && data.x.name,
    isOpen(one.y.interval, data.middle_y) && data.y.name,
  ].filter(Boolean);
  const chance = open.length ? `; in ${open.join(" and ")} that may be chance` : "";
  return `We stand ${data.quadrants[(isUpper ? 0 : 2) + (isRight ? 1 : 0)]}${chance}`;
}

function AxesTable({ data, params }: { data: Axes; params: { set?: number; by?: string } }) {
  const of = (dot: Dot, f: Dot["x"], column: Axes["x"]) => (
    <FigureValue
      key={column.key}
      kind="competitors.table"
      cell={`${dot.key}.${column.key}`}
      params={params}
      label={`${column.name}, ${dot.name}`}
    >
      {figure(f.value, column.unit as Unit)}
      {f.interval && ` (${interval(f.interval.low, f.interval.high, column.unit as Unit)})`}
    </FigureValue>
  );
  return (
    <TableForm
      caption={`${data.x.name} and ${data.y.name}`}
      head={["who", data.x.name, data.y.name, `${data.size.name} (size)`]}
      rows={data.dots.map((dot) => [
        dot.is_own ? `${dot.name} (us)` : dot.name,
        of(dot, dot.x, data.x),
        of(dot, dot.y, data.y),
        of(dot, dot.size, data.size),
      ])}
    />
  );
}

function axis(values: number[], isLog: boolean, range: [number, number]) {
  const [low, high] = [Math.min(...values), Math.max(...values)];
  if (isLog && low > 0) return scaleLog([low / 1.25, high * 1.25], range);
  const span = high - low || Math.abs(high) || 1;
  // What cannot be below nothing is not drawn there.
  const from = low >= 0 ? Math.max(0, low - span * 0.12) : low - span * 0.12;
  return scaleLinear([from, high + span * 0.12], range).nice();
}

function Drawing({ data }: { data: Axes }) {
  const { networks } = useBrand();
  const [measure, { width, height: room }] = useSize<HTMLDivElement>();
  const [here, setHere] = useState<string | null>(null);
  const height = Math.max(300, room);
  const inner = { width: Math.max(0, width - PAD.left - PAD.right), height: height - PAD.top - PAD.bottom };
  const { dots } = data;
  const xs = dots.flatMap((d) => [d.x.value ?? 0, ...d.trail.map((t) => t.x)]);
  const ys = dots.flatMap((d) => [d.y.value ?? 0, ...d.trail.map((t) => t.y)]);
  const x = axis(xs, data.is_log_x, [0, inner.width]);
  const y = axis(ys, data.is_log_y, [inner.height, 0]);
  const largest = Math.max(1e-9, ...dots.map((d) => Math.max(0, d.size.value ?? 0)));
  const radius = (d: Dot) => Math.max(4, LARGEST * Math.sqrt(Math.max(0, d.size.value ?? 0) / largest));
  // The small lie before the large, and ours before all.
  const order = [...dots].sort((a, b) => Number(a.is_own) - Number(b.is_own) || radius(b) - radius(a));
  const labelled = [...order].reverse();
  const nameOf = (d: Dot) =>
    d.key.startsWith("p") ? `${d.name} ${networkNamed(networks, d.networks[0] ?? "").monogram}` : d.name;
  const labels = placed(
    labelled.map((d) => ({
      x: x(d.x.value ?? 0),
      y: y(d.y.value ?? 0),
      r: Math.min(radius(d), 8),
      width: nameOf(d).length * 6.6,
    })),
    inner,
  );
  const chosen = dots.find((d) => d.key === here);
  const onKey = (key: string) => {
    const step = key === "ArrowRight" ? 1 : key === "ArrowLeft" ? -1 : 0;
    if (!step) return;
    const sorted = [...dots].sort((a, b) => (a.x.value ?? 0) - (b.x.value ?? 0));
    const now = here === null ? (step > 0 ? -1 : sorted.length) : sorted.findIndex((d) => d.key === here);
    setHere(sorted[Math.min(sorted.length - 1, Math.max(0, now + step))]?.key ?? null);
  };
  const corner = (i: number) => ({
    x: i % 2 ? inner.width - 4 : 4,
    y: i < 2 ? 12 : inner.height - 6,
    anchor: i % 2 ? ("end" as const) : ("start" as const),
  });
  const few = (ticks: number[]) => ticks.filter((_, i) => ticks.length < 9 || i % Math.ceil(ticks.length / 7) === 0);
  return (
    <>
      <div ref={measure} className="min-h-[300px] flex-1">
        {width > 0 && (
          <svg
            width={width}
            height={height}
            role="img"
            aria-label={`${data.x.name} and ${data.y.name} of everybody; arrow keys go from one to the next`}
            tabIndex={0}
            onKeyDown={(event) => onKey(event.key)}
            onBlur={() => setHere(null)}
          >
            <g transform={`translate(${PAD.left} ${PAD.top})`}>
              {few(y.ticks(6)).map((tick) => (
                <g key={tick}>
                  <line x2={inner.width} y1={y(tick)} y2={y(tick)} stroke="var(--rule)" />
                  <text x="-8" y={y(tick) + 4} textAnchor="end" fontSize="11.5" fill="var(--muted)">
                    {short(tick, data.y.unit as Unit)}
                  </text>
                </g>
              ))}
              {few(x.ticks(7)).map((tick) => (
                <text
                  key={tick}
                  x={x(tick)}
                  y={inner.height + 17}
                  textAnchor="middle"
                  fontSize="11.5"
                  fill="var(--muted)"
                >
                  {short(tick, data.x.unit as Unit)}
                </text>
              ))}
              <text x={inner.width} y={inner.height + 34} textAnchor="end" fontSize="12" fill="var(--muted)">
                {data.x.name}
                {data.is_log_x && ", log scale"}
              </text>
              <text y="-6" fontSize="12" fill="var(--muted)">
                {data.y.name}
                {data.is_log_y && ", log scale"}
              </text>
              {data.middle_x !== null && data.middle_y !== null && dots.length > 2 && (
                <>
                  <path
                    d={`M${x(data.middle_x)} 0V${inner.height}M0 ${y(data.middle_y)}H${inner.width}`}
                    stroke="var(--against)"
                    strokeDasharray="4 3"
                  />
                  {data.quadrants.map((words, i) => (
                    <text
                      key={words + String(i)}
                      x={corner(i).x}
                      y={corner(i).y}
                      textAnchor={corner(i).anchor}
                      fontSize="11.5"
                      fill="var(--muted)"
                      stroke="var(--paper)"
                      strokeWidth="3"
                      paintOrder="stroke"
                    >
                      {words}
                    </text>
                  ))}
                </>
              )}
              {order.map((d) => (
                <Mark key={d.key} dot={d} r={radius(d)} x={x} y={y} isHere={here === d.key} onHere={setHere} />
              ))}
              {labelled.map(
                (d, i) =>
                  labels[i] && (
                    <text
                      key={d.key}
                      x={labels[i]?.x}
                      y={labels[i]?.y}
                      textAnchor={labels[i]?.anchor}
                      fontSize="12.5"
                      fill={d.is_own ? "var(--berry)" : "var(--ink)"}
                      fontWeight={d.is_own ? 600 : 400}
                      stroke="var(--paper)"
                      strokeWidth="3"
                      paintOrder="stroke"
                      pointerEvents="none"
                    >
                      {nameOf(d)}
                    </text>
                  ),
              )}
            </g>
          </svg>
        )}
      </div>
      <p className="label min-h-5" aria-live="polite">
        {chosen &&
          `${nameOf(chosen)}: ${figure(chosen.x.value, data.x.unit as Unit)} ${data.x.name}, ${figure(chosen.y.value, data.y.unit as Unit)} ${data.y.name}, ${figure(chosen.size.value, data.size.unit as Unit)} ${data.size.name}`}
      </p>
    </>
  );
}

type Scale = (value: number) => number;
type MarkProps = { dot: Dot; r: number; x: Scale; y: Scale; isHere: boolean; onHere: (key: string | null) => void };

function Mark({ dot, r, x, y, isHere, onHere }: MarkProps) {
  const ink = dot.is_own ? "var(--berry)" : "var(--tick)";
  const now = { x: x(dot.x.value ?? 0), y: y(dot.y.value ?? 0) };
  const way = [...dot.trail.map((t) => ({ x: x(t.x), y: y(t.y) })), now].filter(
    (p) => Number.isFinite(p.x) && Number.isFinite(p.y),
  );
  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: the same is read by arrow keys
    <g className="mark" onMouseEnter={() => onHere(dot.key)} onMouseLeave={() => onHere(null)}>
      {way.length > 1 && (
        <path
          d={`M${way.map((p) => `${p.x.toFixed(1)} ${p.y.toFixed(1)}`).join("L")}`}
          fill="none"
          stroke={ink}
          strokeWidth={isHere || dot.is_own ? 1.6 : 1}
          opacity={isHere || dot.is_own ? 0.9 : 0.45}
        />
      )}
      {way.slice(0, -1).map((p, i) => (
        <circle key={`${dot.key} ${String(i)}`} cx={p.x} cy={p.y} r="1.8" fill={ink} opacity="0.6" />
      ))}
      {isHere && dot.x.interval && (
        <path d={`M${x(dot.x.interval.low)} ${now.y}H${x(dot.x.interval.high)}`} stroke="var(--ink)" />
      )}
      {isHere && dot.y.interval && (
        <path d={`M${now.x} ${y(dot.y.interval.low)}V${y(dot.y.interval.high)}`} stroke="var(--ink)" />
      )}
      <circle
        cx={now.x}
        cy={now.y}
        r={r}
        fill={ink}
        fillOpacity={dot.is_own ? 0.75 : 0.35}
        stroke={isHere ? "var(--ink)" : ink}
      />
    </g>
  );
}
