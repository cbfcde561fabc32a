import { useState } from "react";
import { useSearchParams } from "react-router";
import { WEEKDAYS } from "../../lib/days";
import { figure, plural } from "../../lib/format";
import { useBrand, useNetwork } from "../../study/brand";
import { Button } from "../../ui/Button";
import { Check } from "../../ui/Check";
import { Field } from "../../ui/Field";
import { NetworkMark } from "../../ui/Marks";
import { Failed, Loading, Notice } from "../../ui/States";
import { TimeField } from "../../ui/TimeField";
import { useToast } from "../../ui/Toast";
import { type Proposal, type Rhythm, type Rules, useFillSlots, useKeepRhythm, usePropose, useRhythms } from "./queries";
import { clockName, gainWords, minuteName, STANDS_IN } from "./rules";
import { NoOwnProfile, TimingFrame } from "./TimingFrame";

type AllRules = Required<Rules>;
const USUAL: AllRules = {
  min_distance_hours: 6,
  most_per_day: 2,
  quiet_from: 23,
  quiet_to: 7,
  days_off: [],
  own_quarters: true,
  learning: 0.1,
};
const MOST = 50;

/** So many times a week, for several profiles at once: proposed with reasons, kept when somebody says so. */
export function RhythmPage() {
  const { brand } = useBrand();
  const rhythms = useRhythms(brand.slug);
  return (
    <TimingFrame>
      {rhythms.error ? (
        <Failed error={rhythms.error} onRetry={() => rhythms.refetch()} />
      ) : !rhythms.data ? (
        <Loading what="Loading the rhythms" />
      ) : rhythms.data.length === 0 ? (
        <NoOwnProfile>Then times can be proposed, and kept as standing slots.</NoOwnProfile>
      ) : (
        <Rhythms rhythms={rhythms.data} />
      )}
    </TimingFrame>
  );
}

function Rhythms({ rhythms }: { rhythms: Rhythm[] }) {
  const { brand, can } = useBrand();
  const [params] = useSearchParams();
  const asked = Number(params.get("profile")) || null;
  const [wanted, setWanted] = useState<Record<number, number>>(() =>
    Object.fromEntries(
      rhythms.map((r) => [r.profile, asked && r.profile !== asked ? 0 : r.slots.length || Math.round(r.used)]),
    ),
  );
  const [rules, setRules] = useState<AllRules>(() => ({ ...USUAL, ...rhythms.find((r) => r.rules)?.rules }));
  const propose = usePropose(brand.slug);
  const wishes = rhythms
    .filter((r) => (wanted[r.profile] ?? 0) > 0)
    .map((r) => ({ profile: r.profile, times: wanted[r.profile] ?? 0 }));
  return (
    <div className="grid min-h-0 flex-1 grid-cols-[minmax(280px,2fr)_minmax(0,5fr)]">
      <section className="min-w-0 overflow-y-auto border-r border-rule px-5 py-3" aria-labelledby="wish-title">
        <h1 id="wish-title" className="text-[18px] leading-6">
          How often a week
        </h1>
        <p className="label">Posts a week of the last eight weeks stand beside each.</p>
        <ul className="mt-1">
          {rhythms.map((r) => (
            <Wish
              key={r.profile}
              rhythm={r}
              times={wanted[r.profile] ?? 0}
              onTimes={(times) => setWanted({ ...wanted, [r.profile]: times })}
            />
          ))}
        </ul>
        <RulesForm rules={rules} onChange={(part) => setRules({ ...rules, ...part })} />
        <Button
          kind="main"
          className="mt-4"
          disabled={wishes.length === 0}
          isBusy={propose.isPending}
          onClick={() => propose.mutate({ wishes, rules })}
        >
          {wishes.length === 0 ? "Say how often first" : `Propose times for ${plural(wishes.length, "profile")}`}
        </Button>
        {propose.error && (
          <div className="mt-3">
            <Notice kind="wrong">{propose.error.message}</Notice>
          </div>
        )}
      </section>
      <section className="min-w-0 overflow-y-auto px-5 py-3" aria-labelledby="kept-title">
        {propose.data && <Total proposal={propose.data} />}
        <h2 id="kept-title" className={propose.data ? "sr-only" : "text-[18px] leading-6"}>
          {propose.data ? "By profile" : "Rhythms that are kept"}
        </h2>
        {!propose.data && (
          <p className="label">
            The weekly times of each profile, by the clock of {brand.time_zone}. Plan offers them as standing slots;
            nothing changes by itself.
          </p>
        )}
        {rhythms.map((r) => {
          const proposed = propose.data?.profiles.find((p) => p.profile === r.profile);
          if (propose.data && !proposed) return null;
          // What is proposed or kept anew is begun with anew.
          const begun = (proposed?.slots ?? r.slots).map((slot) => slot.minute).join();
          return (
            <OneRhythm
              key={`${r.profile} ${r.edition} ${begun}`}
              rhythm={r}
              proposed={proposed}
              rules={rules}
              canChange={can("timing.rhythm")}
            />
          );
        })}
      </section>
    </div>
  );
}

function Total({ proposal }: { proposal: Proposal }) {
  const many = proposal.profiles.reduce((sum, p) => sum + p.slots.length, 0);
  const without = proposal.gain ? proposal.profiles.filter((p) => p.gain === null && p.slots.length > 0).length : 0;
  const learning = proposal.profiles.flatMap((p) => p.slots).filter((s) => s.is_learning).length;
  return (
    <>
      <h1 className="text-[18px] leading-6">
        {proposal.gain
          ? `Against today's hours: ${gainWords(proposal.gain)}`
          : `${plural(many, "time")} a week proposed; there is no rhythm of today to hold them against`}
      </h1>
      <p className="label">
        {plural(many, "time")} a week, best in sum under the rules, solved exactly
        {learning > 0 && `; ${learning} of them for hours worth learning about`}. Each shows its index and why.
        {without > 0 && ` ${plural(without, "profile has", "profiles have")} no hours of today to be held against.`}
      </p>
    </>
  );
}

function Wish({ rhythm, times, onTimes }: { rhythm: Rhythm; times: number; onTimes: (times: number) => void }) {
  const network = useNetwork(rhythm.network);
  return (
    <li className="rowline flex items-center gap-2 py-1">
      <NetworkMark network={network} />
      <span className="min-w-0 flex-1 truncate">
        {rhythm.name} <span className="label">{network.name}</span>
      </span>
      <span className="label" title="Posts a week of the last eight weeks">
        {figure(rhythm.used, "per_week")}
      </span>
      <input
        type="number"
        min={0}
        max={MOST}
        value={times}
        aria-label={`Times a week for ${rhythm.name} on ${network.name}`}
        className="h-7 w-14 rounded-[2px] border border-rule-strong bg-panel px-1 text-right"
        onChange={(e) => onTimes(Math.max(0, Math.min(MOST, Math.round(Number(e.target.value)) || 0)))}
      />
    </li>
  );
}

function RulesForm({ rules, onChange }: { rules: AllRules; onChange: (part: Partial<AllRules>) => void }) {
  const number = (name: "min_distance_hours" | "most_per_day", label: string, most: number) => (
    <Field label={label}>
      {(props) => (
        <input
          {...props}
          type="number"
          min={1}
          max={most}
          value={rules[name]}
          onChange={(e) => onChange({ [name]: Math.max(1, Math.min(most, Math.round(Number(e.target.value)) || 1)) })}
        />
      )}
    </Field>
  );
  const hour = (name: "quiet_from" | "quiet_to", label: string) => (
    <Field label={label}>
      {(props) => (
        <TimeField
          {...props}
          value={clockName(rules[name])}
          onChange={(time) => time && onChange({ [name]: Number(time.slice(0, 2)) })}
        />
      )}
    </Field>
  );
  return (
    <fieldset className="mt-4">
      <legend className="text-[16px]">Rules</legend>
      <div className="mt-1 grid grid-cols-2 gap-3">
        {number("min_distance_hours", "Hours apart, at least", 72)}
        {number("most_per_day", "Times a day, at most", 12)}
        {hour("quiet_from", "Quiet from")}
        {hour("quiet_to", "Quiet until")}
      </div>
      <div className="mt-2">
        <span className="text-[13px] font-semibold">Days off</span>
        <div className="mt-1 flex flex-wrap gap-1">
          {WEEKDAYS.map((name, day) => (
            <button
              key={name}
              type="button"
              aria-pressed={rules.days_off.includes(day)}
              onClick={() =>
                onChange({
                  days_off: rules.days_off.includes(day)
                    ? rules.days_off.filter((d) => d !== day)
                    : [...rules.days_off, day],
                })
              }
              className={`h-7 border px-2 ${rules.days_off.includes(day) ? "border-berry bg-wash font-semibold" : "border-rule-strong"}`}
            >
              {name}
            </button>
          ))}
        </div>
      </div>
      <div className="mt-3 flex flex-col gap-2">
        <Check isOn={rules.own_quarters} onChange={(own_quarters) => onChange({ own_quarters })}>
          No two profiles in the same quarter of an hour
        </Check>
        <Check
          isOn={rules.learning > 0}
          onChange={(on) => onChange({ learning: on ? 0.1 : 0 })}
          help="They are chosen by how much one post there would narrow the estimate of the hours that may be best."
        >
          A tenth of the times for hours worth learning about
        </Check>
      </div>
    </fieldset>
  );
}

type Slot = { minute: number; is_learning: boolean; index?: number; low?: number; high?: number; narrows?: number };
type OneProps = {
  rhythm: Rhythm;
  proposed?: Proposal["profiles"][number];
  rules: Rules;
  canChange: boolean;
};

/** One profile's times: as kept, or as proposed and being edited, day by day. */
function OneRhythm({ rhythm, proposed, rules, canChange }: OneProps) {
  const { brand } = useBrand();
  const network = useNetwork(rhythm.network);
  const say = useToast();
  const keep = useKeepRhythm(brand.slug);
  const fill = useFillSlots(brand.slug);
  const [slots, setSlots] = useState<Slot[]>(proposed?.slots ?? rhythm.slots);
  const [day, setDay] = useState(0);
  const [time, setTime] = useState("");
  const isSame =
    slots.length === rhythm.slots.length && slots.every((s) => rhythm.slots.some((k) => k.minute === s.minute));
  const add = () => {
    const minute = day * 1440 + Number(time.slice(0, 2)) * 60 + Number(time.slice(3));
    if (!slots.some((s) => s.minute === minute)) setSlots([...slots, { minute, is_learning: false }]);
    setTime("");
  };
  const save = () =>
    keep.mutate(
      {
        profile: rhythm.profile,
        edition: rhythm.edition,
        rules,
        slots: slots.map(({ minute, is_learning }) => ({ minute, is_learning })),
      },
      { onSuccess: () => say(`The rhythm of ${rhythm.name} on ${network.name} is kept.`) },
    );
  return (
    <article className="mt-3 border-t border-rule pt-2" aria-label={`${rhythm.name} on ${network.name}`}>
      <div className="flex flex-wrap items-baseline gap-x-3">
        <span className="inline-flex items-center gap-2">
          <NetworkMark network={network} />
          <h3 className="text-[15px] font-semibold">{rhythm.name}</h3>
        </span>
        <span className="label">
          {proposed?.gain
            ? gainWords(proposed.gain)
            : slots.length === 0
              ? "no rhythm"
              : `${plural(slots.length, "time")} a week`}
          {proposed && proposed.short > 0 && `; the rules leave no room for ${proposed.short} more`}
          {proposed && STANDS_IN[proposed.stands_by] && `; ${STANDS_IN[proposed.stands_by]?.toLowerCase()}`}
        </span>
      </div>
      {keep.error && <Notice kind="wrong">{keep.error.message}</Notice>}
      <div className="stays mt-1 grid grid-cols-7 gap-1 narrow:grid-cols-2">
        {WEEKDAYS.map((name, d) => (
          <div key={name} className="min-w-0">
            <span className="label">{name}</span>
            {slots
              .filter((s) => Math.floor(s.minute / 1440) === d)
              .sort((a, b) => a.minute - b.minute)
              .map((slot) => (
                <SlotMark
                  key={slot.minute}
                  slot={slot}
                  onRemove={canChange ? () => setSlots(slots.filter((s) => s.minute !== slot.minute)) : undefined}
                />
              ))}
          </div>
        ))}
      </div>
      {canChange && (
        <div className="mt-2 flex flex-wrap items-center gap-2">
          <select
            aria-label="Day of a further time"
            className="h-7 rounded-[2px] border border-rule-strong bg-panel px-1"
            value={day}
            onChange={(e) => setDay(Number(e.target.value))}
          >
            {WEEKDAYS.map((name, d) => (
              <option key={name} value={d}>
                {name}
              </option>
            ))}
          </select>
          <TimeField
            aria-label="A further time"
            className="h-7 w-20 rounded-[2px] border border-rule-strong bg-panel px-2"
            value={time}
            onChange={setTime}
          />
          <Button kind="quiet" disabled={!time} onClick={add}>
            Add it
          </Button>
          <span className="flex-1" />
          {!isSame && (
            <Button kind={proposed ? "main" : "plain"} isBusy={keep.isPending} onClick={save}>
              {slots.length === 0 ? "End the rhythm" : proposed ? "Keep these times" : "Keep the change"}
            </Button>
          )}
          {isSame && rhythm.slots.length > 0 && (
            <Button
              kind="quiet"
              isBusy={fill.isPending}
              onClick={() =>
                fill.mutate(
                  { profiles: [rhythm.profile], days: 14 },
                  {
                    onSuccess: ({ drafts }) =>
                      say(
                        drafts ? `${plural(drafts, "draft")} stand in the plan.` : "Every slot of two weeks is taken.",
                      ),
                    onError: (error) => say(error.message, "wrong"),
                  },
                )
              }
            >
              Put drafts at its free slots of two weeks
            </Button>
          )}
        </div>
      )}
    </article>
  );
}

/** A time with its reason: the index with its interval, or what would be learnt there. */
function SlotMark({ slot, onRemove }: { slot: Slot; onRemove?: () => void }) {
  const why = slot.is_learning
    ? `Little is known of it${slot.narrows ? `: one post narrows the hours that may be best by ${figure(slot.narrows * 100, "number")} %` : ""}`
    : slot.index !== undefined
      ? `Index ${figure(slot.index, "index")} (${figure(slot.low, "index")} to ${figure(slot.high, "index")}, 80 %)`
      : "";
  return (
    <div
      className={`mb-1 flex items-baseline justify-between gap-1 border-l-[3px] bg-panel px-1.5 ${slot.is_learning ? "border-against" : "border-berry"}`}
      title={why}
    >
      <span>
        <span className="font-semibold">{clockName(slot.minute / 60)}</span>{" "}
        <span className="label">
          {slot.is_learning ? "to learn" : slot.index !== undefined ? figure(slot.index, "index") : ""}
        </span>
        <span className="sr-only">{why}</span>
      </span>
      {onRemove && (
        <button
          type="button"
          className="h-6 w-6 text-muted hover:text-berry"
          aria-label={`Take ${minuteName(slot.minute)} out`}
          onClick={onRemove}
        >
          ×
        </button>
      )}
    </div>
  );
}
