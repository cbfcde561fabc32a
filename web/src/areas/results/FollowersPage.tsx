import { useRef } from "react";
import { GainLossChart } from "../../charts/GainLossChart";
import { BasisSheet } from "../../figures/BasisSheet";
import { SaveAs } from "../../figures/SaveAs";
import { addDays, longDay } from "../../lib/days";
import { absolute, figure, plural } from "../../lib/format";
import { useBrand } from "../../study/brand";
import { useStudy } from "../../study/study";
import { useAddress, useAsTable } from "../../study/useAddress";
import { Empty, Failed, Loading } from "../../ui/States";
import { FormSwitch, TableForm } from "../../ui/TableForm";
import { BehindSheet } from "./BehindSheet";
import { useSpikes, useSummary } from "./queries";
import { ResultsFrame } from "./ResultsFrame";
import { courseOf } from "./rules";
import { ByNetwork } from "./summary/ByNetwork";
import { Strip } from "./summary/Strip";

const KEYS = ["followers", "net_followers", "gained_followers", "lost_followers", "follower_growth"];
const PARTS = [
  ["gained", "gained", "bars above the line"],
  ["lost", "lost", "hollow bars below it"],
  ["net", "net", "the line"],
] as const;

/** Followers gained and lost on one chart; losses that stand out lead to the posts of the days before. */
export function FollowersPage() {
  const { brand } = useBrand();
  const { study } = useStudy();
  const { params, set } = useAddress();
  const [isTable, setTable] = useAsTable();
  const box = useRef<HTMLElement>(null);
  const summary = useSummary(brand.slug, study, KEYS);
  const losses = useSpikes(brand.slug, study, "lost_followers");
  const gains = useSpikes(brand.slug, study, "gained_followers");
  const hidden = new Set((params.get("hide") ?? "").split(",").filter(Boolean));
  const metrics = summary.data?.metrics ?? [];
  const of = (key: string) => metrics.find((m) => m.key === key);
  const followers = of("followers");
  const [net, gained, lost] = [of("net_followers"), of("gained_followers"), of("lost_followers")];
  const lossDays = losses.data?.spikes.filter((s) => (s.z ?? 0) > 0) ?? [];
  const gainDays = gains.data?.spikes.filter((s) => (s.z ?? 0) > 0) ?? [];
  const worst = [...lossDays].sort((a, b) => b.value - a.value)[0];
  const title = worst
    ? `${plural(Math.round(worst.value), "follower")} left on ${longDay(worst.day)}, where ${figure(worst.level)} are usual`
    : "Followers gained and lost by day";
  const day = params.get("day");
  const has = (stand: { day: string }[]) => stand.some((s) => s.day === day);
  const about = has(lossDays) ? lost : has(gainDays) ? gained : net;
  const days = gained?.days.map((_, i) => addDays(study.first, i)) ?? [];
  return (
    <ResultsFrame
      actions={
        <SaveAs
          name="followers"
          table={{ kind: "results.course", params: { metrics: KEYS.join(",") } }}
          chart={{ box, title, definition: "Followers gained above the line, lost below it, net as a line, by day." }}
        />
      }
    >
      {summary.error ? (
        <Failed error={summary.error} onRetry={() => summary.refetch()} />
      ) : !summary.data ? (
        <Loading what="Loading the followers" lines={9} />
      ) : (
        <>
          <Strip
            metrics={metrics}
            chosen=""
            onChoose={(key) => set("basis", key)}
            onBasis={(key) => set("basis", key)}
          />
          {!gained || gained.now.value === null ? (
            <Empty title="No network tells who came and went">
              Gains and losses are told for one's own profiles, by the networks that count them. Choose other profiles,
              or other days.
            </Empty>
          ) : (
            <section ref={box} className="min-h-0 flex-1 overflow-y-auto px-5 py-3" aria-labelledby="followers-title">
              <div className="flex items-baseline justify-between gap-4">
                <h1 id="followers-title" className="text-[18px] leading-6">
                  {title}
                </h1>
                <FormSwitch isTable={isTable} onChange={setTable} />
              </div>
              <p className="label flex flex-wrap items-center gap-x-4">
                {PARTS.map(([key, name, mark]) => (
                  <label key={key} className="inline-flex h-6 items-center gap-1.5">
                    <input
                      type="checkbox"
                      checked={!hidden.has(key)}
                      className="h-4 w-4 shrink-0 accent-(--berry)"
                      onChange={() => {
                        const next = new Set(hidden);
                        if (!next.delete(key)) next.add(key);
                        set("hide", [...next].join(","));
                      }}
                    />
                    {name}: {mark}
                  </label>
                ))}
                <span>A day opens its posts; triangles mark days that stand out.</span>
              </p>
              {isTable ? (
                <TableForm
                  caption="Followers gained and lost by day"
                  head={["Day", "Gained", "Lost", "Net"]}
                  rows={days.map((day, i) => [
                    day,
                    figure(gained.days[i]),
                    figure(lost?.days[i]),
                    net?.days[i] == null ? figure(null) : absolute(net.days[i] as number, "count"),
                  ])}
                />
              ) : (
                <GainLossChart
                  days={days}
                  gained={hidden.has("gained") ? null : gained.days}
                  lost={hidden.has("lost") ? null : (lost?.days ?? null)}
                  net={hidden.has("net") ? null : (net?.days ?? null)}
                  losses={hidden.has("lost") ? [] : lossDays.map((s) => s.day)}
                  gains={hidden.has("gained") ? [] : gainDays.map((s) => s.day)}
                  onDay={(day) => set("day", day)}
                />
              )}
              <div className="grid grid-cols-2 gap-8">
                <div>{followers && <ByNetwork metric={followers} />}</div>
                <Standing
                  title="Days that stand out"
                  losses={lossDays}
                  gains={gainDays}
                  onDay={(day) => set("day", day)}
                />
              </div>
            </section>
          )}
          <BasisSheet of={courseOf(params.get("basis"))} onClose={() => set("basis", null)} />
          <BehindSheet
            metric={about?.key ?? "net_followers"}
            name={about?.name ?? "Net followers"}
            day={day}
            onClose={() => set("day", null)}
          />
        </>
      )}
    </ResultsFrame>
  );
}

type Day = { day: string; value: number; level: number | null };

function Standing(props: { title: string; losses: Day[]; gains: Day[]; onDay: (day: string) => void }) {
  const rows = [
    ...props.losses.map((s) => ({ ...s, word: "left" })),
    ...props.gains.map((s) => ({ ...s, word: "came" })),
  ].sort((a, b) => b.value - (b.level ?? 0) - (a.value - (a.level ?? 0)));
  return (
    <div className="mt-3">
      <h3 className="text-[15px]">{props.title}</h3>
      {rows.length === 0 && <p className="label">None: every day lies within what is usual.</p>}
      <ul>
        {rows.slice(0, 8).map((s) => (
          <li key={s.day + s.word} className="rowline flex h-8 items-center justify-between">
            <button type="button" className="under hover:text-berry" onClick={() => props.onDay(s.day)}>
              {longDay(s.day)}
            </button>
            <span>
              {figure(s.value)} {s.word}, usually {figure(s.level)}
            </span>
          </li>
        ))}
      </ul>
    </div>
  );
}
