import { useState } from "react";
import { Link } from "react-router";
import type { ProblemError } from "../../../api/client";
import { addDays, dayOf, moment, timeOf } from "../../../lib/days";
import { plural } from "../../../lib/format";
import { useSettled } from "../../../lib/useSettled";
import { useBrand } from "../../../study/brand";
import { Button } from "../../../ui/Button";
import { DateField } from "../../../ui/DateField";
import { Field, inputLook } from "../../../ui/Field";
import { Sheet } from "../../../ui/Sheet";
import { Loading } from "../../../ui/States";
import { useToast } from "../../../ui/Toast";
import type { Planned } from "../queries";
import { useRepeat, useRepetitionPreview } from "./queries";
import { nthWords, type Rhythm, ruleOf, UNITS, type Unit, WEEKDAYS, wearWords } from "./rules";

type Props = { planned: Planned; canPublish: boolean; needsYes: boolean; isOpen: boolean; onClose: () => void };

/** What is told beside its field; whatever else is wrong is told above the times. */
const SHOWN = ["rule", "first", "last", "at", "texts"];

/** A post that comes again between two days, its texts in turn; looked at before anything is made. */
export function RepeatSheet({ planned, isOpen, ...rest }: Props) {
  return (
    <Sheet isOpen={isOpen} onClose={rest.onClose} title="Come again">
      {isOpen && <Repeating planned={planned} {...rest} />}
    </Sheet>
  );
}

function Repeating({ planned, canPublish, needsYes, onClose }: Omit<Props, "isOpen">) {
  const { brand, today } = useBrand();
  const zone = brand.time_zone;
  const say = useToast();
  const begin = planned.scheduled_at ? addDays(dayOf(planned.scheduled_at, zone), 7) : addDays(today, 1);
  const [first, setFirst] = useState(begin <= today ? addDays(today, 1) : begin);
  const [last, setLast] = useState(addDays(first, 56));
  const [time, setTime] = useState(planned.scheduled_at ? timeOf(planned.scheduled_at, zone) : "10:00");
  const [rhythm, setRhythm] = useState<Rhythm>({ every: 2, unit: "WEEKLY", days: [] });
  const [texts, setTexts] = useState<{ key: number; text: string }[]>([]);
  const repeat = useRepeat(brand.slug, planned.id);
  const typed = {
    rule: ruleOf(rhythm),
    first,
    last,
    at: time,
    texts: texts.map((one) => one.text).filter((one) => one.trim()),
  };
  const asked = useSettled(typed);
  // What is made is what was looked at.
  const isSettled = JSON.stringify(typed) === JSON.stringify(asked);
  const preview = useRepetitionPreview(
    brand.slug,
    planned.id,
    /^\d\d:\d\d$/.test(time) && rhythm.every > 0 ? asked : null,
  );
  const error = (repeat.error ?? preview.error) as ProblemError | null;
  const fields = error?.fields ?? {};
  const times = preview.error ? [] : (preview.data?.times ?? []);
  const good = times.filter((one) => one.problems.length === 0).length;
  const worn = wearWords(preview.data?.nth ?? []);
  const judged = (preview.data?.nth ?? []).filter((one) => one.posts > 0);
  const make = (becomes_scheduled: boolean) =>
    repeat.mutate(
      { ...asked, becomes_scheduled },
      {
        onSuccess: (made) => {
          const left = made.left_out > 0 ? ` ${plural(made.left_out, "time")} left out.` : "";
          say(`${plural(made.posts, "post")} made.${left}`);
          onClose();
        },
      },
    );
  return (
    <div className="flex flex-col gap-3">
      <div className="flex flex-wrap items-end gap-2">
        <Field label="Every" error={fields.rule}>
          {(props) => (
            <span className="flex gap-2">
              <input
                {...props}
                type="number"
                min={1}
                max={366}
                className={`${props.className} !w-[64px]`}
                value={rhythm.every || ""}
                onChange={(event) => setRhythm({ ...rhythm, every: Math.floor(Number(event.target.value)) })}
              />
              <select
                aria-label="Days, weeks or months"
                className={`${inputLook} !w-auto`}
                value={rhythm.unit}
                onChange={(event) => setRhythm({ ...rhythm, unit: event.target.value as Unit })}
              >
                {Object.entries(UNITS).map(([key, name]) => (
                  <option key={key} value={key}>
                    {name}
                    {rhythm.every === 1 ? "" : "s"}
                  </option>
                ))}
              </select>
            </span>
          )}
        </Field>
        {rhythm.unit === "WEEKLY" && (
          <fieldset className="flex">
            <legend className="sr-only">On which days</legend>
            {WEEKDAYS.map(([key, name]) => (
              <button
                key={key}
                type="button"
                aria-pressed={rhythm.days.includes(key)}
                className="h-8 min-w-8 border border-rule-strong px-1 aria-pressed:border-berry aria-pressed:font-semibold aria-pressed:text-berry"
                onClick={() =>
                  setRhythm({
                    ...rhythm,
                    days: rhythm.days.includes(key) ? rhythm.days.filter((one) => one !== key) : [...rhythm.days, key],
                  })
                }
              >
                {name}
              </button>
            ))}
          </fieldset>
        )}
      </div>
      <div className="flex flex-wrap gap-2 *:min-w-[136px] *:flex-1">
        <Field label="From" error={fields.first}>
          {(props) => (
            <DateField
              {...props}
              today={today}
              value={first}
              onChange={(day) => {
                setFirst(day);
                if (last < day) setLast(addDays(day, 28));
              }}
            />
          )}
        </Field>
        <Field label="To" error={fields.last}>
          {(props) => <DateField {...props} today={today} value={last} onChange={setLast} />}
        </Field>
        <Field label="At" error={fields.at}>
          {(props) => <input {...props} type="time" value={time} onChange={(event) => setTime(event.target.value)} />}
        </Field>
      </div>
      <div>
        <h3 className="text-[13px] font-semibold">Texts, in turn</h3>
        <p className="line-clamp-3 border-l-2 border-rule-strong pl-2 whitespace-pre-wrap">
          {planned.text || "No words"}
        </p>
        {texts.map(({ key, text }, i) => (
          <div key={key} className="mt-2 flex items-start gap-2">
            <textarea
              aria-label={`Text ${i + 2}`}
              rows={3}
              className={`${inputLook} h-auto py-1`}
              value={text}
              onChange={(event) =>
                setTexts(texts.map((one) => (one.key === key ? { key, text: event.target.value } : one)))
              }
            />
            <button
              type="button"
              aria-label={`Take text ${i + 2} out`}
              className="under h-6 hover:text-down"
              onClick={() => setTexts(texts.filter((one) => one.key !== key))}
            >
              out
            </button>
          </div>
        ))}
        {fields.texts && <p className="text-down">{fields.texts}</p>}
        {texts.length < 19 && (
          <button
            type="button"
            className="under mt-1 h-6 hover:text-berry"
            onClick={() => setTexts([...texts, { key: (texts.at(-1)?.key ?? 0) + 1, text: planned.text }])}
          >
            another text, so that it is not the same each time
          </button>
        )}
      </div>
      {worn && (
        <p role="status" className="text-down">
          {worn}
        </p>
      )}
      {!worn && judged.length > 0 && (
        <p className="label">
          Posts of yours that came again: {judged.map(nthWords).join("; ")}. No wear beyond chance.
        </p>
      )}
      {(preview.data?.said_before ?? 0) > 0 && (
        <p className="label">These words are out {plural(preview.data?.said_before ?? 0, "time")} already.</p>
      )}
      {error && !SHOWN.some((name) => fields[name]) && (
        <p role="alert" className="text-down">
          {Object.values(fields)[0] ?? error.message}
        </p>
      )}
      {preview.isPending && !error ? (
        <Loading what="Working out the times" />
      ) : (
        <ol aria-label="Times" className="max-h-[220px] overflow-y-auto" tabIndex={0}>
          {times.map((one) => (
            <li key={one.at} className="rowline py-1">
              <span className={one.problems.length > 0 ? "text-muted line-through" : "font-semibold"}>
                {moment(one.at, zone)}
              </span>
              {texts.length > 0 && <span className="label"> text {(one.number % (asked.texts.length + 1)) + 1}</span>}
              {one.problems.map((words) => (
                <span key={words} className="block text-[12.5px] text-down">
                  {words}
                </span>
              ))}
            </li>
          ))}
        </ol>
      )}
      <div className="flex flex-wrap gap-2">
        {(canPublish || needsYes) && (
          <Button kind="main" disabled={good === 0 || !isSettled} isBusy={repeat.isPending} onClick={() => make(true)}>
            {needsYes ? `Ask for a yes to ${plural(good, "post")}` : `Schedule ${plural(good, "post")}`}
          </Button>
        )}
        <Button disabled={good === 0 || !isSettled} isBusy={repeat.isPending} onClick={() => make(false)}>
          {`Make ${plural(good, "draft")}`}
        </Button>
      </div>
      <p className="label">
        What is saved comes again.{" "}
        <Link to={`/${brand.slug}/results/posts`} className="under hover:text-berry">
          How posts did
        </Link>
      </p>
    </div>
  );
}
