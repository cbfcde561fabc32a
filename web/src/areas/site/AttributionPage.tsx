import { useState } from "react";
import { Link, useLocation } from "react-router";
import { FigureValue } from "../../figures/FigureValue";
import type { Of } from "../../figures/queries";
import { SaveAs } from "../../figures/SaveAs";
import { moment } from "../../lib/days";
import { figure, plural } from "../../lib/format";
import { AreaFrame } from "../../study/AreaFrame";
import { useBrand } from "../../study/brand";
import { carriedAll, useStudy } from "../../study/study";
import { useAddress } from "../../study/useAddress";
import { Choice } from "../../ui/Choice";
import { Cut } from "../../ui/Cut";
import { Sheet } from "../../ui/Sheet";
import { Empty, Failed, Loading } from "../../ui/States";
import { useToast } from "../../ui/Toast";
import { type Attribution, useAttribution, useChangeStage, useConversions, useWay } from "./queries";
import { attributionTitle, besides, channelName, MODELS, money } from "./rules";
import { useGoal } from "./useGoal";

const BY = [
  { value: "channel", label: "channel" },
  { value: "campaign", label: "campaign" },
  { value: "post", label: "post" },
];
const WINDOWS = [7, 14, 30, 60, 90];

/** Who brought the conversions: eight answers side by side, and how much they differ. */
export function AttributionPage() {
  const { brand } = useBrand();
  const { study } = useStudy();
  const { search } = useLocation();
  const { params, set } = useAddress();
  const by = BY.some((b) => b.value === params.get("by")) ? (params.get("by") as string) : "channel";
  const window = WINDOWS.includes(Number(params.get("window"))) ? Number(params.get("window")) : 30;
  const isValue = params.get("count") === "value";
  const stage = params.get("stage") ?? "";
  const { goal, choice, hasGoals } = useGoal();
  const asked = { by, goal, window, stage, of: isValue ? "value" : "conversions" };
  const { first, last } = study;
  const found = useAttribution(brand.slug, { first, last, by, goal, window, stage });
  const data = found.data;
  return (
    <AreaFrame area="site" actions={<SaveAs name="attribution" table={{ kind: "site.attribution", params: asked }} />}>
      {found.error ? (
        <Failed error={found.error} onRetry={() => found.refetch()} />
      ) : !data ? (
        <Loading what="Loading the conversions" />
      ) : data.conversions === 0 ? (
        <Empty
          title={hasGoals ? "No conversions in these days" : "No goal is set yet"}
          action={
            <Link to={`/${brand.slug}/site/sites${carriedAll(search)}`} className="under hover:text-berry">
              Sites and goals
            </Link>
          }
        >
          Say what people are to do on your site, and put the page script into its pages.
        </Empty>
      ) : (
        <div className="grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)_300px]">
          <section className="min-w-0 overflow-y-auto border-r border-rule px-5 py-3" aria-labelledby="who-title">
            <h1 id="who-title" className="text-[18px] leading-6">
              {attributionTitle(data.rows, data.conversions, isValue ? "cents" : "counts")}
            </h1>
            {data.other_currencies.length > 0 && <p className="label">{besides(data.other_currencies)}</p>}
            <p>
              {plural(data.conversions, "conversion")} worth {money(data.cents, data.currency)}, for {choice}, by{" "}
              <Choice label="Credit by" value={by} options={BY} onChoose={(value) => set("by", value)}>
                {by}
              </Choice>
              , visits of the{" "}
              <Choice
                label="Look-back window"
                value={String(window)}
                options={WINDOWS.map((days) => ({ value: String(days), label: `${days} days` }))}
                onChoose={(value) => set("window", value)}
              >
                {window} days
              </Choice>{" "}
              before, told as{" "}
              <Choice
                label="Told as"
                value={isValue ? "value" : "count"}
                options={[
                  { value: "count", label: "number" },
                  { value: "value", label: "value" },
                ]}
                onChoose={(value) => set("count", value === "value" ? value : null)}
              >
                {isValue ? "value" : "number"}
              </Choice>
              {data.stages.length > 0 && (
                <>
                  , contacts at{" "}
                  <Choice
                    label="Stage of contacts"
                    value={stage}
                    options={[{ value: "", label: "any stage" }, ...data.stages.map((s) => ({ value: s, label: s }))]}
                    onChoose={(value) => set("stage", value || null)}
                  >
                    {stage || "any stage"}
                  </Choice>
                </>
              )}
            </p>
            {by === "channel" && data.direct_alone > 0 && (
              <p className="label">
                Before {figure(data.direct_alone)} of them nothing but direct visits is known: people who did not agree
                to be remembered are told apart for a day.
              </p>
            )}
            <Models data={data} by={by} isValue={isValue} params={asked} />
            <ul className="label mt-2 grid grid-cols-2 gap-x-6">
              {MODELS.map((m) => (
                <li key={m.key}>
                  <b className="text-ink">{m.name}</b> {m.means}
                </li>
              ))}
            </ul>
          </section>
          <Latest window={window} goal={goal} />
        </div>
      )}
    </AreaFrame>
  );
}

type ModelsProps = { data: Attribution; by: string; isValue: boolean; params: Of["params"] };

function Models({ data, by, isValue, params }: ModelsProps) {
  const { brand, networks } = useBrand();
  const { search } = useLocation();
  const shown = (row: Attribution["rows"][number], model: string) =>
    isValue ? (row.cents[model] ?? 0) / 100 : (row.counts[model] ?? 0);
  const max = Math.max(1, ...data.rows.flatMap((row) => MODELS.map((m) => shown(row, m.key))));
  // The most first, by what is told: the server's order is that of conversions.
  const rows = isValue ? data.rows.toSorted((a, b) => shown(b, "linear") - shown(a, "linear")) : data.rows;
  const nothing = by === "channel" ? "direct" : by === "campaign" ? "no campaign" : "no post";
  const nameOf = (row: Attribution["rows"][number]) =>
    row.key === "" || row.key === "direct" ? nothing : by === "channel" ? channelName(networks, row.key) : row.name;
  return (
    <div className="scrolls overflow-x-auto">
      <table className="mt-3 w-full min-w-[740px] table-fixed">
        <thead className="label text-right">
          <tr className="h-7 border-b border-rule-strong">
            <th className="text-left font-normal capitalize">{by}</th>
            <th className="w-[130px] text-left font-normal">Lowest to highest</th>
            {MODELS.map((m) => (
              <th key={m.key} className="w-[60px] font-normal" title={m.means}>
                {m.name}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.map((row) => {
            const values = MODELS.map((m) => shown(row, m.key));
            const low = Math.min(...values);
            const high = Math.max(...values);
            return (
              <tr key={row.key} className="rowline h-7 text-right">
                <td className="truncate pr-3 text-left" title={nameOf(row)}>
                  {by === "post" && row.key ? (
                    <Link
                      to={`/${brand.slug}/results/posts/${row.key}${carriedAll(search)}`}
                      className="leading-6 hover:text-berry"
                    >
                      <Cut>{row.name}</Cut>
                    </Link>
                  ) : (
                    nameOf(row)
                  )}
                </td>
                <td>
                  <svg
                    width="118"
                    height="14"
                    className="block"
                    role="img"
                    aria-label={`${figure(low, "per_week")} to ${figure(high, "per_week")}`}
                  >
                    <path d="M0 7H118" stroke="var(--rule)" />
                    <rect
                      x={(116 * low) / max}
                      y="4"
                      width={Math.max(2, (116 * (high - low)) / max)}
                      height="6"
                      fill="var(--wash)"
                      stroke="var(--berry)"
                    />
                    <path d={`M${(116 * (values[3] ?? 0)) / max} 1v12`} stroke="var(--berry)" strokeWidth="2" />
                  </svg>
                </td>
                {values.map((value, i) => (
                  <td key={MODELS[i]?.key} className={value === high && high > low ? "font-semibold" : ""}>
                    <FigureValue
                      kind="site.attribution"
                      cell={`${row.key}.${MODELS[i]?.key}`}
                      params={params}
                      label={`${MODELS[i]?.name}, ${nameOf(row)}`}
                    >
                      {isValue ? figure(value) : figure(value, "per_week")}
                    </FigureValue>
                  </td>
                ))}
              </tr>
            );
          })}
          <tr className="h-7 text-right text-muted">
            <td className="text-left" colSpan={2}>
              together (a mark: evenly)
            </td>
            {MODELS.map((m) => (
              <td key={m.key}>{isValue ? figure(data.cents / 100) : figure(data.conversions)}</td>
            ))}
          </tr>
        </tbody>
      </table>
    </div>
  );
}

function Latest({ window, goal }: { window: number; goal: number }) {
  const { brand, networks } = useBrand();
  const { study } = useStudy();
  const [open, setOpen] = useState<number | null>(null);
  const list = useConversions(brand.slug, { first: study.first, last: study.last, goal });
  return (
    <section className="min-w-0 overflow-y-auto px-5 py-3" aria-labelledby="latest-title">
      <h2 id="latest-title" className="text-[16px]">
        The latest, one by one
      </h2>
      <ul>
        {list.data?.conversions.map((c) => (
          <li key={c.id}>
            <button
              type="button"
              onClick={() => setOpen(c.id)}
              className="rowline grid w-full grid-cols-[1fr_auto] gap-2 py-1 text-left hover:bg-panel"
            >
              <span className="truncate">
                {c.goal} <span className="label">{channelName(networks, c.channel ?? "")}</span>
              </span>
              <span className="label">{moment(c.at, brand.time_zone)}</span>
            </button>
          </li>
        ))}
      </ul>
      <Sheet isOpen={open !== null} onClose={() => setOpen(null)} title="How it came about">
        {open !== null && <Way id={open} window={window} />}
      </Sheet>
    </section>
  );
}

function Way({ id, window }: { id: number; window: number }) {
  const { brand, networks, can } = useBrand();
  const canChange = can("site.conversions");
  const { search } = useLocation();
  const way = useWay(brand.slug, id, window);
  const change = useChangeStage(brand.slug);
  const say = useToast();
  const [stage, setStage] = useState<string | null>(null);
  if (way.error) return <Failed error={way.error} onRetry={() => way.refetch()} />;
  if (!way.data) return <Loading what="Loading its visits" lines={4} />;
  const { conversion, steps, weights } = way.data;
  return (
    <>
      <p>
        <b>{conversion.goal}</b> on {moment(conversion.at, brand.time_zone)}
        {conversion.cents !== 0 && `, worth ${money(conversion.cents, conversion.currency)}`}
        {conversion.contact && `, about ${conversion.contact}`}
      </p>
      {steps.length === 0 ? (
        <p className="mt-2">No visit before it is known: it counts as direct.</p>
      ) : (
        <table className="mt-3 w-full">
          <thead className="label text-left">
            <tr className="border-b border-rule-strong">
              <th className="font-normal">Visit</th>
              <th className="font-normal">From</th>
              <th className="text-right font-normal">Even</th>
              <th className="text-right font-normal">Decay</th>
            </tr>
          </thead>
          <tbody>
            {steps.map((step, i) => (
              <tr key={step.at} className="rowline align-top">
                <td className="py-1">
                  {moment(step.at, brand.time_zone)}
                  <span className="label block truncate">{step.landing}</span>
                </td>
                <td className="py-1">
                  {channelName(networks, step.channel)}
                  {step.post_id && (
                    <Link
                      to={`/${brand.slug}/results/posts/${step.post_id}${carriedAll(search)}`}
                      className="label under block hover:text-berry"
                    >
                      the post
                    </Link>
                  )}
                </td>
                <td className="py-1 text-right">{figure(weights.linear?.[i] ?? null, "rate")}</td>
                <td className="py-1 text-right">{figure(weights.decay?.[i] ?? null, "rate")}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {canChange && (
        <form
          className="mt-4 flex items-end gap-3"
          onSubmit={(event) => {
            event.preventDefault();
            change.mutate(
              { id, stage: stage ?? conversion.stage },
              { onSuccess: () => say("The stage is kept."), onError: (error) => say(error.message, "wrong") },
            );
          }}
        >
          <label className="flex flex-1 flex-col gap-1 text-[13px] font-semibold">
            Stage of this contact
            <input
              value={stage ?? conversion.stage}
              placeholder="lead, offer, customer"
              onChange={(e) => setStage(e.target.value)}
              className="h-8 border border-rule-strong bg-panel px-2 font-normal"
            />
          </label>
          <button type="submit" className="under h-8 hover:text-berry">
            Keep
          </button>
        </form>
      )}
    </>
  );
}
