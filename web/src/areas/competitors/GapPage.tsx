import { useState } from "react";
import { useForm } from "react-hook-form";
import { FigureValue } from "../../figures/FigureValue";
import { SaveAs } from "../../figures/SaveAs";
import { addDays } from "../../lib/days";
import { figure, signed } from "../../lib/format";
import { useSize } from "../../lib/useSize";
import { useBrand } from "../../study/brand";
import { ageName, useStudy } from "../../study/study";
import { useAddress } from "../../study/useAddress";
import { Button } from "../../ui/Button";
import { Choice } from "../../ui/Choice";
import { DateField } from "../../ui/DateField";
import { Entry, Form } from "../../ui/Form";
import { Sheet } from "../../ui/Sheet";
import { Empty, Failed, Loading } from "../../ui/States";
import { useToast } from "../../ui/Toast";
import { CompetitorsFrame, useWhom } from "./CompetitorsFrame";
import { type Gap, useGap, useSetTarget } from "./queries";
import { aimedAt, FACTORS, shown } from "./rules";

type Lever = Gap["levers"][number];
const HEIGHT = 190;

/** What separates us from somebody, split exactly, and what each lever alone would have to become. */
export function GapPage() {
  const { brand, can } = useBrand();
  const { study } = useStudy();
  const { params, set } = useAddress();
  const whom = useWhom();
  const against = params.get("vs") ?? "middle";
  const found = useGap(brand.slug, study, whom, /^(middle|c\d{1,18})$/.test(against) ? against : "middle");
  const [aimed, setAimed] = useState<Lever | null>(null);
  const data = found.data;
  const kind = { kind: "competitors.gap", params: { set: whom.set, against: data?.against } };
  const options = [
    { value: "middle", label: "the middle of the set" },
    ...(data?.members ?? []).map((m) => ({
      value: m.key,
      label: m.name,
      hint: m.interactions === null ? "too little known" : `${figure(m.interactions)} a week`,
    })),
  ];
  return (
    <CompetitorsFrame actions={<SaveAs name="gap" table={kind} />}>
      <section className="min-h-0 flex-1 overflow-y-auto px-5 py-3" aria-labelledby="gap-title">
        <h1 id="gap-title" className="text-[18px] leading-6">
          {data?.levers.length ? data.title : "The gap"}
        </h1>
        <p className="label">
          Interactions a week, ours against{" "}
          <Choice label="Against" value={against} options={options} onChoose={(key) => set("vs", key)}>
            {options.find((o) => o.value === (data?.against ?? against))?.label ?? "the middle of the set"}
          </Choice>
          , posts {ageName(study.age ?? data?.age_hours ?? 72)}. The three parts add up to the whole: each is its
          factor's share by the logarithmic mean.
        </p>
        {found.error ? (
          <Failed error={found.error} onRetry={() => found.refetch()} />
        ) : !data ? (
          <Loading what="Splitting the gap" lines={9} />
        ) : data.levers.length === 0 ? (
          <Empty title="There is no gap to split">{data.problem}</Empty>
        ) : (
          <>
            <Steps data={data} />
            <Levers data={data} kind={kind} onAim={can("results.targets") ? setAimed : undefined} />
          </>
        )}
      </section>
      {aimed && data && <Aim lever={aimed} data={data} onClose={() => setAimed(null)} />}
    </CompetitorsFrame>
  );
}

/** From ours to theirs in steps: one for each factor. */
function Steps({ data }: { data: Gap }) {
  const [measure, { width }] = useSize<HTMLDivElement>();
  const ours = data.ours ?? 0;
  const theirs = data.theirs ?? 0;
  let level = ours;
  const steps = data.levers.map((lever) => {
    const from = level;
    level += lever.part;
    return { lever, from, to: level };
  });
  const values = [
    0,
    ours,
    theirs,
    ...steps.flatMap((s) => [
      s.from,
      s.to,
      ...(s.lever.interval ? [s.from + s.lever.interval.low, s.from + s.lever.interval.high] : []),
    ]),
  ];
  const [low, high] = [Math.min(...values), Math.max(...values)];
  const tall = HEIGHT - 44;
  const y = (v: number) => 22 + tall - (tall * (v - low)) / (high - low || 1);
  const column = Math.max(60, width / 5);
  const isNarrow = column < 120;
  const bar = Math.min(90, column * 0.5);
  const at = (i: number) => column * (i + 0.5);
  const said = `${figure(ours)} interactions a week are ours; ${data.levers
    .map((l) => `${FACTORS[l.factor]?.name} ${signed(figure(Math.abs(l.part)), l.part)}`)
    .join("; ")}; ${data.name} has ${figure(theirs)}`;
  const ends = [
    { name: "Ours", value: ours, ink: "var(--berry)", i: 0 },
    { name: isNarrow ? "Theirs" : data.name, value: theirs, ink: "var(--tick)", i: 4 },
  ];
  return (
    <div ref={measure} className="mt-3">
      {width > 0 && (
        <svg width={width} height={HEIGHT} role="img" aria-label={said}>
          <line x2={width} y1={y(0)} y2={y(0)} stroke="var(--rule-strong)" />
          {ends.map((end) => (
            <g key={end.name}>
              <rect
                x={at(end.i) - bar / 2}
                width={bar}
                y={Math.min(y(0), y(end.value))}
                height={Math.max(1, Math.abs(y(0) - y(end.value)))}
                fill={end.ink}
              />
              <Label x={at(end.i)} y={y(end.value) - 6} text={figure(end.value)} isStrong />
              <Label x={at(end.i)} y={HEIGHT - 4} text={end.name} />
            </g>
          ))}
          {steps.map(({ lever, from, to }, i) => (
            <g key={lever.factor}>
              <line
                x1={at(i) + bar / 2}
                x2={at(i + 1) + bar / 2}
                y1={y(from)}
                y2={y(from)}
                stroke="var(--muted)"
                strokeDasharray="2 3"
              />
              <rect
                x={at(i + 1) - bar / 2}
                width={bar}
                y={Math.min(y(from), y(to))}
                height={Math.max(1.5, Math.abs(y(from) - y(to)))}
                fill={lever.part >= 0 ? "var(--against)" : "var(--berry)"}
                opacity="0.75"
              />
              {lever.interval && (
                <path
                  d={`M${at(i + 1)} ${y(from + lever.interval.low)}V${y(from + lever.interval.high)}`}
                  stroke="var(--ink)"
                  strokeWidth="1.4"
                />
              )}
              <Label
                x={at(i + 1)}
                y={Math.min(y(from), y(to)) - 6}
                text={signed(figure(Math.abs(lever.part)), lever.part)}
                isStrong
              />
              <Label x={at(i + 1)} y={HEIGHT - 4} text={FACTORS[lever.factor]?.[isNarrow ? "short" : "name"] ?? ""} />
            </g>
          ))}
          <line
            x1={at(3) + bar / 2}
            x2={at(4) - bar / 2}
            y1={y(theirs)}
            y2={y(theirs)}
            stroke="var(--muted)"
            strokeDasharray="2 3"
          />
        </svg>
      )}
    </div>
  );
}

function Label({ x, y, text, isStrong }: { x: number; y: number; text: string; isStrong?: boolean }) {
  return (
    <text
      x={x}
      y={Math.max(12, y)}
      textAnchor="middle"
      fontSize="12.5"
      fontWeight={isStrong ? 600 : 400}
      fill={isStrong ? "var(--ink)" : "var(--muted)"}
      stroke="var(--paper)"
      strokeWidth="3"
      paintOrder="stroke"
    >
      {text}
    </text>
  );
}

type LeversProps = {
  data: Gap;
  kind: { kind: string; params: Record<string, string | number | undefined> };
  onAim?: (lever: Lever) => void;
};

function Levers({ data, kind, onAim }: LeversProps) {
  const isBehind = (data.theirs ?? 0) > (data.ours ?? 0);
  return (
    <table className="mt-4 w-full">
      <caption className="text-left text-[16px]">
        {isBehind ? "What each lever alone would have to become" : "How far each lever alone could fall"}
      </caption>
      <thead className="label text-right">
        <tr className="h-7 border-b border-rule-strong">
          <th className="text-left font-normal">Lever</th>
          <th className="font-normal">Ours</th>
          <th className="font-normal">{data.name}</th>
          <th className="font-normal">Part of the gap</th>
          <th className="font-normal">{isBehind ? "Alone it takes" : "Alone down to"}</th>
          <th className="font-normal">Range of the field</th>
          <th className="font-normal">Our best 13 weeks</th>
          <th className="pl-4 text-left font-normal">Within reach?</th>
          <th>
            <span className="sr-only">Act</span>
          </th>
        </tr>
      </thead>
      <tbody>
        {data.levers.map((lever) => (
          <tr key={lever.factor} className="rowline h-9 text-right">
            <td className="text-left" title={FACTORS[lever.factor]?.help}>
              <span className="font-semibold">{FACTORS[lever.factor]?.name}</span>
            </td>
            <td className="text-berry">{shown(lever.factor, lever.ours)}</td>
            <td>{shown(lever.factor, lever.theirs)}</td>
            <td>
              <FigureValue {...kind} cell={lever.factor} label={`the part of ${FACTORS[lever.factor]?.name}`}>
                {signed(figure(Math.abs(lever.part)), lever.part)}
              </FigureValue>
              {lever.interval && (
                <span className="label block leading-4">
                  {figure(lever.interval.low)} to {figure(lever.interval.high)}
                </span>
              )}
            </td>
            <td className="font-semibold">{shown(lever.factor, lever.needed)}</td>
            <td>
              {lever.field_low === null || lever.field_high === null
                ? figure(null)
                : `${shown(lever.factor, lever.field_low)} to ${shown(lever.factor, lever.field_high)}`}
            </td>
            <td>{lever.best_quarter === null ? figure(null) : shown(lever.factor, lever.best_quarter)}</td>
            <td className="pl-4 text-left">{reachWords(lever, isBehind)}</td>
            <td>
              {onAim && isBehind && (
                <Button kind="quiet" onClick={() => onAim(lever)}>
                  set a target
                </Button>
              )}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function reachWords(lever: Lever, isBehind: boolean): string {
  if (!isBehind) return lever.part <= 0 ? "we are ahead" : "they are ahead";
  if (lever.is_plausible === null) return "nothing to judge by";
  if (!lever.is_plausible) return "nobody here has done that";
  return lever.best_quarter !== null && lever.needed <= lever.best_quarter
    ? "we have done it before"
    : "others here do it";
}

/** A target from a lever: what it takes, by a day, followed in Results and on the minute line. */
function Aim({ lever, data, onClose }: { lever: Lever; data: Gap; onClose: () => void }) {
  const { brand, today } = useBrand();
  const say = useToast();
  const aim = useSetTarget(brand.slug);
  const of = FACTORS[lever.factor];
  const aimed = aimedAt(lever, data.own_followers);
  const form = useForm({
    defaultValues: { value: aimed === null ? "" : String(Number(aimed.toPrecision(3))), by: addDays(today, 91) },
  });
  const { value, by } = form.watch();
  const number = Number(value.replace(",", "."));
  const isNumber = value.trim() !== "" && Number.isFinite(number);
  if (!of) return null;
  return (
    <Sheet isOpen onClose={onClose} title={`A target for ${of.name.toLowerCase()}`} form="dialog">
      <Form
        form={form}
        error={aim.error}
        className="flex flex-col gap-3"
        onSubmit={() => {
          if (!isNumber) return;
          aim.mutate(
            {
              metric: of.metric,
              value: number,
              by,
              why: `To close the gap to ${data.name}`,
              profiles: data.own_profiles,
            },
            {
              onSuccess: () => {
                say("It is followed in Results and on the minute line.");
                onClose();
              },
            },
          );
        }}
      >
        <p className="text-muted">
          {of.help}. Ours is {shown(lever.factor, lever.ours)} now; {shown(lever.factor, lever.needed)} alone would
          close the gap to {data.name}.
          {lever.factor === "audience" &&
            " What is followed is the sum of our followers, which has to grow in the same measure."}
        </p>
        <Entry
          form={form}
          name="value"
          label="Value aimed at"
          help={of.help}
          error={isNumber ? undefined : "Write a number, such as 6 or 7.5."}
        >
          {(field) => <input {...field} inputMode="decimal" />}
        </Entry>
        <Entry form={form} name="by" label="By">
          {(field) => <DateField {...field} today={today} />}
        </Entry>
        <Button type="submit" kind="main" className="self-start" isBusy={aim.isPending} disabled={!isNumber}>
          Set the target
        </Button>
      </Form>
    </Sheet>
  );
}
