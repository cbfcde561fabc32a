import { useEffect, useState } from "react";
import type { ProblemError } from "../../../api/client";
import { addDays, at, dayOf, timeOf } from "../../../lib/days";
import { networkNamed, useBrand } from "../../../study/brand";
import { useProfiles } from "../../../study/queries";
import { Button } from "../../../ui/Button";
import { Check } from "../../../ui/Check";
import { DateField } from "../../../ui/DateField";
import { Field, inputLook } from "../../../ui/Field";
import { TimeField } from "../../../ui/TimeField";
import { useReviewRules } from "../review/queries";
import type { Batch, Choices, useBatchActs } from "./queries";
import { FIELDS, ORDERS, withColumn } from "./rules";

type Props = {
  batch: Batch;
  isEditable: boolean;
  acts: ReturnType<typeof useBatchActs>;
  /** Whether something is chosen that the rows were not read by yet. */
  onOther: (isOther: boolean) => void;
};
const TIMES: Record<Choices["times"], string> = {
  given: "as the table says",
  spaced: "one after the other, so many minutes apart",
  slots: "into the free standing slots of their profiles",
};

/** Which column holds what, when the posts go out, and what becomes of them. */
export function Columns({ batch, isEditable, acts, onOther }: Props) {
  const { brand, networks, today, can } = useBrand();
  const own = (useProfiles(brand.slug).data?.profiles ?? []).filter((p) => p.kind === "own");
  const asks = (useReviewRules(brand.slug).data?.steps.length ?? 0) > 0;
  const [columns, setColumns] = useState(batch.columns);
  const [choices, setChoices] = useState<Choices>(batch.choices);
  const zone = brand.time_zone;
  const first = choices.first ?? null;
  const [day, setDay] = useState(first ? dayOf(first, zone) : addDays(today, 1));
  const [time, setTime] = useState(first ? timeOf(first, zone) : "10:00");
  const put = (patch: Partial<Choices>) => setChoices({ ...choices, ...patch });
  const error = acts.set.error as ProblemError | null;
  const isOther =
    JSON.stringify([columns, choices]) !== JSON.stringify([batch.columns, batch.choices]) ||
    (choices.times === "spaced" && first !== at(day, time, zone));
  useEffect(() => onOther(isOther), [isOther, onOther]);
  const fieldOf = (column: number) => Object.entries(columns).find(([, one]) => one === column)?.[0] ?? "";
  return (
    <form
      className="mt-2 flex flex-col gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        acts.set.mutate({
          columns,
          choices: { ...choices, first: choices.times === "spaced" ? at(day, time, zone) : null },
        });
      }}
    >
      <fieldset disabled={!isEditable}>
        <legend className="text-[13px] font-semibold">Which column holds what</legend>
        <ul>
          {batch.header.map((name, column) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: two columns may bear one name
            <li key={column} className="stays mt-1 grid grid-cols-[minmax(0,1fr)_150px] items-center gap-2">
              <span className="truncate" title={name}>
                {name || `column ${column + 1}`}
              </span>
              <select
                aria-label={`What ${name || `column ${column + 1}`} holds`}
                className={inputLook}
                value={fieldOf(column)}
                onChange={(event) => setColumns(withColumn(columns, column, event.target.value))}
              >
                <option value="">nothing of use</option>
                {Object.entries(FIELDS).map(([key, said]) => (
                  <option key={key} value={key}>
                    {said}
                  </option>
                ))}
              </select>
            </li>
          ))}
        </ul>
      </fieldset>
      <fieldset disabled={!isEditable} className="flex flex-col gap-2">
        <Field label="They go out">
          {(props) => (
            <select
              {...props}
              value={choices.times}
              onChange={(event) => put({ times: event.target.value as Choices["times"] })}
            >
              {(Object.keys(TIMES) as Choices["times"][]).map((one) => (
                <option key={one} value={one}>
                  {TIMES[one]}
                </option>
              ))}
            </select>
          )}
        </Field>
        {choices.times === "given" && columns.at !== undefined && (
          <Field
            label="Dates are written"
            error={choices.order ? undefined : "They can be read in more than one order: say which."}
          >
            {(props) => (
              <select
                {...props}
                value={choices.order}
                onChange={(event) => put({ order: event.target.value as Choices["order"] })}
              >
                {!choices.order && <option value="">choose one</option>}
                {Object.entries(ORDERS).map(([key, said]) => (
                  <option key={key} value={key}>
                    {said}
                  </option>
                ))}
              </select>
            )}
          </Field>
        )}
        {choices.times === "spaced" && (
          <div className="grid grid-cols-2 gap-2">
            <Field label="The first">
              {(props) => <DateField {...props} today={today} value={day} onChange={setDay} />}
            </Field>
            <Field label="at">{(props) => <TimeField {...props} value={time} onChange={setTime} />}</Field>
            <Field label="Minutes apart">
              {(props) => (
                <input
                  {...props}
                  inputMode="numeric"
                  maxLength={5}
                  value={choices.minutes}
                  onChange={(event) => put({ minutes: Number(event.target.value.replace(/\D/g, "")) || 1 })}
                />
              )}
            </Field>
          </div>
        )}
        <fieldset>
          <legend className="text-[13px] font-semibold">Where a row names no profile</legend>
          {own.map((p) => (
            <Check
              key={p.id}
              isOn={choices.profiles.includes(p.id)}
              onChange={(on) =>
                put({ profiles: on ? [...choices.profiles, p.id] : choices.profiles.filter((id) => id !== p.id) })
              }
            >
              {networkNamed(networks, p.network).name}
            </Check>
          ))}
        </fieldset>
        <Check isOn={choices.links} onChange={(links) => put({ links })} help="One for each version.">
          Links are tracked
        </Check>
        {(can("plan.publish") || asks) && (
          <Check
            isOn={choices.becomes === "scheduled"}
            onChange={(on) => put({ becomes: on ? "scheduled" : "draft" })}
            help={asks ? "Else they are drafts." : "Else they are drafts with a time."}
          >
            {asks ? "Ask for a yes for each" : "Schedule them at once"}
          </Check>
        )}
      </fieldset>
      {error && (
        <p role="alert" className="text-down">
          {Object.values(error.fields)[0] ?? error.message}
        </p>
      )}
      {isEditable && (
        <div>
          <Button type="submit" kind={isOther ? "main" : "plain"} disabled={!isOther} isBusy={acts.set.isPending}>
            Read it so
          </Button>
        </div>
      )}
    </form>
  );
}
