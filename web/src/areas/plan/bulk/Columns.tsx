import { useEffect, useState } from "react";
import { useForm } from "react-hook-form";
import { addDays, at, dayOf, timeOf } from "../../../lib/days";
import { networkNamed, useBrand } from "../../../study/brand";
import { useProfiles } from "../../../study/queries";
import { Button } from "../../../ui/Button";
import { Check } from "../../../ui/Check";
import { DateField } from "../../../ui/DateField";
import { inputLook } from "../../../ui/Field";
import { CheckEntry, ChecksEntry, Entry, Form } from "../../../ui/Form";
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

type Typed = Choices & { day: string; time: string };

/** Which column holds what, when the posts go out, and what becomes of them. */
export function Columns({ batch, isEditable, acts, onOther }: Props) {
  const { brand, networks, today, can } = useBrand();
  const own = (useProfiles(brand.slug).data?.profiles ?? []).filter((p) => p.kind === "own");
  const asks = (useReviewRules(brand.slug).data?.steps.length ?? 0) > 0;
  const [columns, setColumns] = useState(batch.columns);
  const zone = brand.time_zone;
  const first = batch.choices.first ?? null;
  const form = useForm<Typed>({
    defaultValues: {
      ...batch.choices,
      day: first ? dayOf(first, zone) : addDays(today, 1),
      time: first ? timeOf(first, zone) : "10:00",
    },
  });
  const { day, time, ...choices } = form.watch();
  const isOther =
    JSON.stringify([columns, choices]) !== JSON.stringify([batch.columns, batch.choices]) ||
    (choices.times === "spaced" && first !== at(day, time, zone));
  useEffect(() => onOther(isOther), [isOther, onOther]);
  const fieldOf = (column: number) => Object.entries(columns).find(([, one]) => one === column)?.[0] ?? "";
  return (
    <Form
      form={form}
      error={acts.set.error}
      className="mt-2 flex flex-col gap-3"
      onSubmit={() => {
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
        <Entry form={form} name="times" label="They go out">
          {(field) => (
            <select {...field}>
              {(Object.keys(TIMES) as Choices["times"][]).map((one) => (
                <option key={one} value={one}>
                  {TIMES[one]}
                </option>
              ))}
            </select>
          )}
        </Entry>
        {choices.times === "given" && columns.at !== undefined && (
          <Entry
            form={form}
            name="order"
            label="Dates are written"
            error={choices.order ? undefined : "They can be read in more than one order: say which."}
          >
            {(field) => (
              <select {...field}>
                {!choices.order && <option value="">choose one</option>}
                {Object.entries(ORDERS).map(([key, said]) => (
                  <option key={key} value={key}>
                    {said}
                  </option>
                ))}
              </select>
            )}
          </Entry>
        )}
        {choices.times === "spaced" && (
          <div className="grid grid-cols-2 gap-2">
            <Entry form={form} name="day" label="The first">
              {(field) => <DateField {...field} today={today} />}
            </Entry>
            <Entry form={form} name="time" label="at">
              {(field) => <TimeField {...field} />}
            </Entry>
            <Entry form={form} name="minutes" label="Minutes apart">
              {(field) => (
                <input
                  {...field}
                  inputMode="numeric"
                  maxLength={5}
                  onChange={(event) => field.onChange(Number(event.target.value.replace(/\D/g, "")) || 1)}
                />
              )}
            </Entry>
          </div>
        )}
        <fieldset>
          <legend className="text-[13px] font-semibold">Where a row names no profile</legend>
          <ChecksEntry
            form={form}
            name="profiles"
            options={own.map((p) => ({ value: p.id, label: networkNamed(networks, p.network).name }))}
          />
        </fieldset>
        <CheckEntry form={form} name="links" help="One for each version.">
          Links are tracked
        </CheckEntry>
        {(can("plan.publish") || asks) && (
          <Check
            isOn={choices.becomes === "scheduled"}
            onChange={(on) => form.setValue("becomes", on ? "scheduled" : "draft")}
            help={asks ? "Else they are drafts." : "Else they are drafts with a time."}
          >
            {asks ? "Ask for a yes for each" : "Schedule them at once"}
          </Check>
        )}
      </fieldset>
      {isEditable && (
        <div>
          <Button type="submit" kind={isOther ? "main" : "plain"} disabled={!isOther} isBusy={acts.set.isPending}>
            Read it so
          </Button>
        </div>
      )}
    </Form>
  );
}
