import { useDeferredValue, useState } from "react";
import { useForm } from "react-hook-form";
import { Link } from "react-router";
import { SaveAs } from "../../figures/SaveAs";
import { addDays, mondayOf, shortDay, spanText, WEEKDAYS } from "../../lib/days";
import { plural } from "../../lib/format";
import { networkNamed, useBrand } from "../../study/brand";
import { Button } from "../../ui/Button";
import { Check } from "../../ui/Check";
import { Entry, Form } from "../../ui/Form";
import { NetworkMark, StateWord } from "../../ui/Marks";
import { Empty, Failed, Loading } from "../../ui/States";
import { TimeField } from "../../ui/TimeField";
import { useToast } from "../../ui/Toast";
import {
  type Rhythm,
  type Trial,
  useFillSlots,
  useProposed,
  useRhythms,
  useStartTrial,
  useStopTrial,
  useTrialLength,
  useTrials,
} from "./queries";
import { clockName, minuteName } from "./rules";
import { TimingFrame } from "./TimingFrame";
import { lengthWords, names, othersIn, outcomeWords, rhythmsOf, type TwoRhythms } from "./trials";

/** Two times, or two rhythms, held against one another in weeks drawn by chance, and what came of it. */
export function TrialsPage() {
  const { brand, can } = useBrand();
  const trials = useTrials(brand.slug);
  const rhythms = useRhythms(brand.slug);
  const error = trials.error ?? rhythms.error;
  return (
    <TimingFrame
      actions={trials.data?.trials.length ? <SaveAs name="trials" table={{ kind: "timing.trials" }} /> : undefined}
    >
      {error ? (
        <Failed error={error} onRetry={() => trials.refetch()} />
      ) : !trials.data || !rhythms.data ? (
        <Loading what="Loading the trials" />
      ) : (
        <div className="grid min-h-0 flex-1 grid-cols-[minmax(0,3fr)_minmax(320px,2fr)]">
          <section className="min-w-0 overflow-y-auto border-r border-rule px-5 py-3" aria-labelledby="trials-title">
            <h1 id="trials-title" className="text-[18px] leading-6">
              {trials.data.trials.length
                ? plural(trials.data.trials.length, "trial")
                : "Trials of two times or rhythms"}
            </h1>
            <p className="label">
              Weeks come in pairs; chance decides which of the two takes which time or rhythm. So a difference is one of
              these, and looking at it early does not spoil it.
            </p>
            {trials.data.trials.length === 0 && (
              <Empty title="None yet">
                Where an hour looks good and little is known of it, a trial settles it. Start one at the right.
              </Empty>
            )}
            {trials.data.trials.map((trial) => (
              <OneTrial key={trial.id} trial={trial} canChange={can("timing.trial")} />
            ))}
          </section>
          <section className="min-w-0 overflow-y-auto px-5 py-3" aria-labelledby="start-title">
            <h2 id="start-title" className="text-[18px] leading-6">
              A new trial
            </h2>
            {can("timing.trial") ? (
              <StartForm rhythms={rhythms.data} />
            ) : (
              <p className="label">You may look at trials but not start one.</p>
            )}
          </section>
        </div>
      )}
    </TimingFrame>
  );
}

const STATES = { running: "busy", stopped: "quiet", over: "good" } as const;

function OneTrial({ trial, canChange }: { trial: Trial; canChange: boolean }) {
  const { brand, networks, today } = useBrand();
  const say = useToast();
  const stop = useStopTrial(brand.slug);
  const fill = useFillSlots(brand.slug);
  const end = (keep: "" | "first" | "second", words: string) =>
    stop.mutate({ id: trial.id, keep }, { onSuccess: () => say(words), onError: (e) => say(e.message, "wrong") });
  const ofRhythms = trial.of_rhythms;
  const what = ofRhythms ? "rhythm" : "time";
  return (
    <article className="mt-3 border-t border-rule pt-2" aria-label={trial.name}>
      <div className="flex flex-wrap items-baseline gap-x-3">
        <h2 className="text-[16px]">{trial.name}</h2>
        <StateWord tone={STATES[trial.state]}>{trial.state}</StateWord>
        <span className="label">{spanText(trial.starts, trial.ends)}</span>
      </div>
      {ofRhythms ? (
        <ul>
          {trial.profiles.map((p) => (
            <li key={p.profile}>
              <NetworkMark network={networkNamed(networks, p.network)} /> <b>{names(p.first)}</b> against{" "}
              <b>{names(p.second)}</b>
            </li>
          ))}
        </ul>
      ) : (
        <p>
          <b>{names(trial.first)}</b> against <b>{names(trial.second)}</b>,{" "}
          {trial.profiles.map((p) => `${p.name} on ${networkNamed(networks, p.network).name}`).join("; ")}
        </p>
      )}
      <p className="mt-1 font-semibold">{outcomeWords(trial)}</p>
      <Weeks trial={trial} today={today} />
      {canChange && (
        <div className="mt-1 flex flex-wrap gap-2">
          {trial.state === "running" && (
            <>
              <Button
                kind="quiet"
                onClick={() =>
                  fill.mutate(
                    { profiles: trial.profiles.map((p) => p.profile), days: 28 },
                    {
                      onSuccess: ({ drafts }) =>
                        say(drafts ? `${plural(drafts, "draft")} stand in the plan.` : "Every slot is taken already."),
                      onError: (error) => say(error.message, "wrong"),
                    },
                  )
                }
              >
                Put drafts at its times of four weeks
              </Button>
              <Button kind="quiet" onClick={() => end("", "The trial has ended; what it said stays.")}>
                Stop it
              </Button>
            </>
          )}
          {!trial.was_kept && (
            <>
              <Button kind="quiet" onClick={() => end("first", `The first ${what} is the rhythm now.`)}>
                Keep {ofRhythms ? "the first" : names(trial.first)} as the rhythm
              </Button>
              <Button kind="quiet" onClick={() => end("second", `The second ${what} is the rhythm now.`)}>
                Keep {ofRhythms ? "the second" : names(trial.second)}
              </Button>
            </>
          )}
          {trial.was_kept && <span className="label">Its outcome is the rhythm.</span>}
        </div>
      )}
    </article>
  );
}

/** Which week takes which of the two, profile by profile; the weeks of the past are filled. */
function Weeks({ trial, today }: { trial: Trial; today: string }) {
  const { networks } = useBrand();
  return (
    <table className="my-1">
      <caption className="sr-only">Which week takes which time</caption>
      <tbody>
        {trial.profiles.map((profile) => (
          <tr key={profile.profile}>
            <th scope="row" className="pr-2 text-left font-normal">
              <NetworkMark network={networkNamed(networks, profile.network)} />
            </th>
            {profile.weeks.map((week) => (
              <td
                key={week.monday}
                title={`${shortDay(week.monday)}: the ${week.is_second ? "second" : "first"} time`}
                className={`h-5 w-5 border border-paper text-center text-[11.5px] leading-5 ${addDays(week.monday, 7) <= today ? "bg-q3 text-ink" : "bg-panel text-muted"}`}
              >
                {week.is_second ? "2" : "1"}
              </td>
            ))}
          </tr>
        ))}
      </tbody>
    </table>
  );
}

type When = { day: number; time: string };
const minuteOf = (when: When) => when.day * 1440 + Number(when.time.slice(0, 2)) * 60 + Number(when.time.slice(3));

const whenOf = (minute: number): When => ({ day: Math.floor(minute / 1440), time: clockName((minute / 60) % 24) });

function StartForm({ rhythms }: { rhythms: Rhythm[] }) {
  const { brand, networks, today } = useBrand();
  const say = useToast();
  const start = useStartTrial(brand.slug);
  const form = useForm({ defaultValues: { name: "", worth: 1.25, error: 0.05 } });
  const { name, worth, error } = form.watch();
  const [profiles, setProfiles] = useState<number[]>([]);
  const [first, setFirst] = useState<When[]>([{ day: 1, time: "12:00" }]);
  const [second, setSecond] = useState<When[]>([{ day: 1, time: "20:00" }]);
  const [isOfRhythms, setOfRhythms] = useState(false);
  const [without, kept] = [rhythms.filter((r) => r.slots.length === 0), rhythms.filter((r) => r.slots.length > 0)];
  const tried = kept.filter((r) => profiles.includes(r.profile));
  const wishes = tried.map((r) => ({ profile: r.profile, times: r.slots.length }));
  const rules = tried.find((r) => r.rules)?.rules ?? undefined;
  const proposed = useProposed(brand.slug, isOfRhythms && wishes.length ? { wishes, rules } : null);
  const pairsOfRhythms = isOfRhythms && proposed.data ? rhythmsOf(tried, proposed.data.profiles) : [];
  const chosen = isOfRhythms ? pairsOfRhythms.map((two) => two.profile) : profiles;
  const slots = isOfRhythms ? Math.min(...pairsOfRhythms.map((two) => two.first.length)) : first.length;
  const asked = chosen.length ? { profiles: chosen, slots, worth, error: error as 0.05 } : null;
  const length = useTrialLength(brand.slug, useDeferredValue(asked));
  const pairs = length.data?.pairs ?? length.data?.most ?? null;
  const starts = addDays(mondayOf(today), 7);
  const keptOfFirst = rhythms.find((r) => r.profile === profiles[0])?.slots;
  const wrong = start.error as { message: string; fields?: Record<string, string> } | null;
  return (
    <Form
      form={form}
      error={start.error}
      saidElsewhere={["first", "second", "rhythms"]}
      className="mt-2 flex flex-col gap-3"
      onSubmit={() => {
        if (!pairs) return;
        start.mutate(
          {
            ...(isOfRhythms
              ? { name: name || "As kept or as proposed", rhythms: pairsOfRhythms }
              : {
                  name:
                    name || `${minuteName(minuteOf(first[0] as When))} or ${minuteName(minuteOf(second[0] as When))}`,
                  first: first.map(minuteOf),
                  second: second.map(minuteOf),
                }),
            profiles: chosen,
            starts,
            pairs,
            worth,
            error: error as 0.05,
          },
          { onSuccess: () => say("The trial is set; its weeks are drawn.") },
        );
      }}
    >
      <Entry
        form={form}
        name="name"
        label="Name"
        help={`For the list; without one, ${isOfRhythms ? "“As kept or as proposed”" : "the two times"}`}
      >
        {(field) => <input {...field} maxLength={120} />}
      </Entry>
      <fieldset>
        <legend className="text-[13px] font-semibold">What is held against what</legend>
        {[
          { of: false, words: "Two times, the same for all profiles" },
          { of: true, words: "Each profile's kept rhythm and what would be proposed now" },
        ].map(({ of, words }) => (
          <label key={words} className="flex min-h-7 items-center gap-2">
            <input
              type="radio"
              checked={isOfRhythms === of}
              onChange={() => setOfRhythms(of)}
              className="accent-(--berry)"
            />
            {words}
          </label>
        ))}
      </fieldset>
      <fieldset>
        <legend className="text-[13px] font-semibold">Profiles</legend>
        {isOfRhythms && without.length > 0 && (
          <p className="label">
            {kept.length === 0
              ? "No profile keeps a rhythm yet. "
              : `${plural(without.length, "profile")} without one ${without.length === 1 ? "is" : "are"} left out. `}
            <Link to={`/${brand.slug}/timing/rhythm`} className="under hover:text-berry">
              Keep a rhythm
            </Link>
          </p>
        )}
        {(isOfRhythms ? kept : rhythms).map((r) => (
          <div key={r.profile} className="flex min-h-7 items-center">
            <Check
              isOn={profiles.includes(r.profile)}
              onChange={(on) => setProfiles(on ? [...profiles, r.profile] : profiles.filter((p) => p !== r.profile))}
            >
              {r.name} <span className="label">{networkNamed(networks, r.network).name}</span>
            </Check>
          </div>
        ))}
        {wrong?.fields?.profiles && <span className="text-down">{wrong.fields.profiles}</span>}
      </fieldset>
      {isOfRhythms ? (
        <Against
          rhythms={tried}
          two={pairsOfRhythms}
          isWaiting={proposed.isFetching}
          error={proposed.error?.message ?? wrong?.fields?.rhythms}
        />
      ) : (
        <>
          <Times label="The first time" value={first} onChange={setFirst} error={wrong?.fields?.first} />
          {keptOfFirst && keptOfFirst.length > 0 && (
            <Button
              kind="quiet"
              className="self-start"
              onClick={() => setFirst(keptOfFirst.map((slot) => whenOf(slot.minute)))}
            >
              Take the kept rhythm as the first
            </Button>
          )}
          <Times label="The second time" value={second} onChange={setSecond} error={wrong?.fields?.second} />
        </>
      )}
      <div className="grid grid-cols-2 gap-3">
        <Entry form={form} name="worth" label="Smallest difference worth knowing">
          {(field) => (
            <select {...field} onChange={(e) => field.onChange(Number(e.target.value))}>
              {[1.1, 1.15, 1.2, 1.25, 1.3, 1.4, 1.5, 2].map((value) => (
                <option key={value} value={value}>
                  {Math.round((value - 1) * 100)} %
                </option>
              ))}
            </select>
          )}
        </Entry>
        <Entry form={form} name="error" label="Error allowed">
          {(field) => (
            <select {...field} onChange={(e) => field.onChange(Number(e.target.value))}>
              {[0.01, 0.05, 0.1].map((value) => (
                <option key={value} value={value}>
                  {Math.round(value * 100)} %
                </option>
              ))}
            </select>
          )}
        </Entry>
      </div>
      <p role="status">
        {asked === null
          ? isOfRhythms && proposed.data && tried.length > 0
            ? "Nothing else is proposed for those that are chosen: there is nothing to try."
            : "Choose profiles: then it is said how long it takes."
          : length.data
            ? lengthWords(length.data, worth)
            : length.error
              ? length.error.message
              : "Working out how long it takes"}
      </p>
      <Button kind="main" type="submit" disabled={!pairs || chosen.length === 0} isBusy={start.isPending}>
        {pairs ? `Start on ${shortDay(starts)}, ${plural(2 * pairs, "week")}` : "Start"}
      </Button>
    </Form>
  );
}

type AgainstProps = { rhythms: Rhythm[]; two: TwoRhythms[]; isWaiting: boolean; error?: string };

/** What is kept of each chosen profile, and what would be proposed for it under the same rules. */
function Against({ rhythms, two, isWaiting, error }: AgainstProps) {
  const { networks } = useBrand();
  return (
    <div aria-busy={isWaiting || undefined}>
      {rhythms.map((r) => {
        const found = two.find((one) => one.profile === r.profile);
        return (
          <div key={r.profile} className="rowline py-1.5">
            <NetworkMark network={networkNamed(networks, r.network)} /> {r.name}
            <span className="label block">First, as kept: {names(r.slots.map((slot) => slot.minute))}</span>
            <span className="label block">
              {isWaiting
                ? "Working out what would be proposed"
                : found
                  ? `Second, as proposed: ${names(found.second)}; ${othersIn(found)} of ${found.second.length} differ`
                  : "What would be proposed is what is kept; it is left out."}
            </span>
          </div>
        );
      })}
      {error && <span className="block text-down">{error}</span>}
    </div>
  );
}

type TimesProps = { label: string; value: When[]; onChange: (value: When[]) => void; error?: string };

/** One or several times a week. */
function Times({ label, value, onChange, error }: TimesProps) {
  const put = (at: number, part: Partial<When>) => onChange(value.map((w, i) => (i === at ? { ...w, ...part } : w)));
  return (
    <fieldset>
      <legend className="text-[13px] font-semibold">{label}</legend>
      {value.map((when, i) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: rows are told apart by their place alone
        <div key={i} className="mt-1 flex items-center gap-2">
          <select
            aria-label={`${label}: day`}
            className="h-8 rounded-[2px] border border-rule-strong bg-panel px-1"
            value={when.day}
            onChange={(e) => put(i, { day: Number(e.target.value) })}
          >
            {WEEKDAYS.map((name, d) => (
              <option key={name} value={d}>
                {name}
              </option>
            ))}
          </select>
          <TimeField
            aria-label={label}
            className="h-8 w-20 rounded-[2px] border border-rule-strong bg-panel px-2"
            value={when.time}
            onChange={(time) => time && put(i, { time })}
          />
          {value.length > 1 && (
            <Button kind="quiet" onClick={() => onChange(value.filter((_, j) => j !== i))}>
              Take out
            </Button>
          )}
        </div>
      ))}
      <Button
        kind="quiet"
        disabled={value.length >= 14}
        onClick={() =>
          onChange([...value, { day: ((value.at(-1)?.day ?? 0) + 1) % 7, time: value.at(-1)?.time ?? "12:00" }])
        }
      >
        One more a week
      </Button>
      {error && <span className="block text-down">{error}</span>}
    </fieldset>
  );
}
