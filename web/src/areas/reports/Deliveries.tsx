import { useState } from "react";
import { Link } from "react-router";
import { moment } from "../../lib/days";
import { plural } from "../../lib/format";
import { useTypedForm } from "../../lib/useTyped";
import { useBrand } from "../../study/brand";
import { usePeople } from "../../study/queries";
import { Button } from "../../ui/Button";
import { CheckEntry, ChecksEntry, Entry, Form } from "../../ui/Form";
import { Failed, Loading } from "../../ui/States";
import { TimeField } from "../../ui/TimeField";
import { useToast } from "../../ui/Toast";
import { type Delivery, useDeliveries, useDeliveryActs, useRuns } from "./queries";

const EVERY: [Delivery["every"], string][] = [
  ["day", "every day"],
  ["week", "every week"],
  ["two_weeks", "every two weeks"],
  ["month", "every month"],
  ["rule", "by a rule (RFC 5545)"],
];
const WEEKDAYS = ["Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday"];

/** When a report goes out by mail and to whom, and what was sent. */
export function Deliveries({ report }: { report: number }) {
  const { brand } = useBrand();
  const found = useDeliveries(brand.slug, report);
  const [opened, setOpened] = useState<number | "new" | null>(null);
  if (found.error) return <Failed error={found.error} onRetry={() => found.refetch()} />;
  if (!found.data) return <Loading />;
  const open = found.data.find((one) => one.id === opened);
  if (opened === "new" || open)
    return <DeliveryForm key={open?.edition ?? 0} report={report} delivery={open} onDone={() => setOpened(null)} />;
  return (
    <>
      {found.data.length === 0 && (
        <p>It goes to nobody by mail yet. A letter has its main figures and words, with the pages attached as PDF.</p>
      )}
      <ul>
        {found.data.map((one) => (
          <Row key={one.id} delivery={one} report={report} onOpen={() => setOpened(one.id)} />
        ))}
      </ul>
      <Button className="mt-2" kind={found.data.length === 0 ? "main" : "plain"} onClick={() => setOpened("new")}>
        Send it regularly
      </Button>
      <Runs report={report} />
    </>
  );
}

const clock = (one: Pick<Delivery, "hour" | "minute">) =>
  `${String(one.hour).padStart(2, "0")}:${String(one.minute).padStart(2, "0")}`;

function when(one: Delivery): string {
  if (one.every === "day") return `every day at ${clock(one)}`;
  if (one.every === "week") return `every ${WEEKDAYS[one.weekday]} at ${clock(one)}`;
  if (one.every === "two_weeks") return `every second ${WEEKDAYS[one.weekday]} at ${clock(one)}`;
  if (one.every === "month") return `on day ${one.day} of every month at ${clock(one)}`;
  return `by ${one.rule} at ${clock(one)}`;
}

function Row({ delivery, report, onOpen }: { delivery: Delivery; report: number; onOpen: () => void }) {
  const { brand } = useBrand();
  const say = useToast();
  const { send } = useDeliveryActs(brand.slug, report);
  const stopped = delivery.readers.filter((one) => one.stopped_at !== null);
  const now = (to_myself: boolean) =>
    send.mutateAsync({ id: delivery.id, to_myself }).then(
      () => say(to_myself ? "It comes to you in a moment." : "It goes out in a moment."),
      (error: Error) => say(error.message, "wrong"),
    );
  return (
    <li className="rowline py-1.5">
      <button type="button" className="under font-semibold hover:text-berry" onClick={onOpen}>
        {when(delivery)}
      </button>
      <span className="label block">
        to{" "}
        {delivery.readers
          .filter((one) => one.stopped_at === null)
          .map((one) => one.address)
          .join(", ") || "nobody"}
        {stopped.length > 0 && `; ${stopped.map((one) => one.address).join(", ")} wanted it no more`}
      </span>
      <span className="label block">
        {!delivery.is_on
          ? "Switched off"
          : delivery.next_at
            ? `The next ${moment(delivery.next_at, brand.time_zone)}`
            : "It does not come again"}
      </span>
      <span className="mt-1 flex gap-2">
        <Button isBusy={send.isPending} onClick={() => now(true)}>
          Try it to myself
        </Button>
        <Button isBusy={send.isPending} onClick={() => now(false)}>
          Send it to all now
        </Button>
      </span>
    </li>
  );
}

function DeliveryForm(props: { report: number; delivery?: Delivery; onDone: () => void }) {
  const { report, delivery, onDone } = props;
  const { brand } = useBrand();
  const say = useToast();
  const { keep, takeAway } = useDeliveryActs(brand.slug, report);
  const people = usePeople(brand.slug);
  const { form, begin } = useTypedForm(`dakika.delivery/${report}/${delivery?.id ?? "new"}/${delivery?.edition ?? 0}`, {
    every: delivery?.every ?? ("week" as Delivery["every"]),
    weekday: delivery?.weekday ?? 0,
    day: delivery?.day ?? 1,
    rule: delivery?.every === "rule" ? delivery.rule : "",
    time: delivery ? clock(delivery) : "08:00",
    message: delivery?.message ?? "",
    wait_hours: delivery?.wait_hours ?? 3,
    is_on: delivery?.is_on ?? true,
    to:
      delivery?.readers
        .filter((one) => one.stopped_at === null && one.person === null)
        .map((one) => one.address)
        .join("\n") ?? "",
    people: delivery?.readers.flatMap((one) => (one.stopped_at === null && one.person ? [one.person] : [])) ?? [],
  });
  const { every, to: others, people: chosen } = form.watch();
  return (
    <Form
      form={form}
      error={keep.error}
      className="flex flex-col gap-3"
      onSubmit={(typed) => {
        const { time, to, ...rest } = typed;
        const [hour, minute] = time.split(":").map(Number);
        keep
          .mutateAsync({
            id: delivery?.id,
            body: {
              ...rest,
              hour: hour ?? 8,
              minute: minute ?? 0,
              to: to.split(/[\s,;]+/).filter(Boolean),
              begins: null,
              edition: delivery?.edition ?? 0,
            },
          })
          .then(
            (kept) => {
              begin(typed);
              say(kept.next_at ? `It goes out ${moment(kept.next_at, brand.time_zone)}.` : "Kept.");
              onDone();
            },
            () => undefined,
          );
      }}
    >
      <Entry form={form} name="every" label="How often">
        {(field) => (
          <select {...field}>
            {EVERY.map(([value, name]) => (
              <option key={value} value={value}>
                {name}
              </option>
            ))}
          </select>
        )}
      </Entry>
      {(every === "week" || every === "two_weeks") && (
        <Entry form={form} name="weekday" label="On">
          {(field) => (
            <select {...field} onChange={(e) => field.onChange(Number(e.target.value))}>
              {WEEKDAYS.map((name, i) => (
                <option key={name} value={i}>
                  {name}
                </option>
              ))}
            </select>
          )}
        </Entry>
      )}
      {every === "month" && (
        <Entry form={form} name="day" label="Day of the month" help="In a shorter month its last day">
          {(field) => (
            <input {...field} type="number" min={1} max={31} onChange={(e) => field.onChange(Number(e.target.value))} />
          )}
        </Entry>
      )}
      {every === "rule" && (
        <Entry form={form} name="rule" label="Rule" help="Such as FREQ=MONTHLY;BYDAY=1MO">
          {(field) => <input {...field} maxLength={200} />}
        </Entry>
      )}
      <Entry form={form} name="time" label="At" help={`Hours of ${brand.time_zone}`}>
        {(field) => <TimeField {...field} />}
      </Entry>
      <fieldset className="flex flex-col gap-1">
        <legend className="mb-1 text-[13px] font-semibold">To people of the team</legend>
        <ChecksEntry
          form={form}
          name="people"
          options={(people.data ?? []).map((one) => ({ value: one.id, label: one.name }))}
        />
      </fieldset>
      <Entry
        form={form}
        name="to"
        label="To others"
        help="Addresses, a line each. Each can stop it from within the letter."
      >
        {(field) => <textarea {...field} className={`${field.className} h-20 py-1`} />}
      </Entry>
      <Entry form={form} name="message" label="A line of your own">
        {(field) => <textarea {...field} className={`${field.className} h-14 py-1`} maxLength={1000} />}
      </Entry>
      <Entry
        form={form}
        name="wait_hours"
        label="Hours to wait for data that are missing"
        help="Then it goes out and says so"
      >
        {(field) => (
          <input {...field} type="number" min={0} max={24} onChange={(e) => field.onChange(Number(e.target.value))} />
        )}
      </Entry>
      <CheckEntry form={form} name="is_on">
        It is sent
      </CheckEntry>
      <span className="flex flex-wrap gap-2">
        <Button type="submit" kind="main" isBusy={keep.isPending} disabled={!others.trim() && chosen.length === 0}>
          Keep it so
        </Button>
        <Button onClick={onDone}>Back</Button>
        {delivery && (
          <Button
            kind="danger"
            isBusy={takeAway.isPending}
            onClick={() => takeAway.mutateAsync(delivery.id).then(onDone, (e: Error) => say(e.message, "wrong"))}
          >
            Send it no more
          </Button>
        )}
      </span>
    </Form>
  );
}

function Runs({ report }: { report: number }) {
  const { brand } = useBrand();
  const runs = useRuns(brand.slug, report);
  if (!runs.data || runs.data.length === 0) return null;
  return (
    <>
      <h3 className="mt-4 text-[15px]">What was sent</h3>
      <ul>
        {runs.data.map((one) => (
          <li key={one.id} className="rowline py-1">
            {one.state === "sent" ? (
              <Link to={`/${brand.slug}/reports/${report}?run=${one.id}`} className="under hover:text-berry">
                {moment(one.due_at, brand.time_zone)}
              </Link>
            ) : (
              moment(one.due_at, brand.time_zone)
            )}
            <span className="label block">
              {one.state === "sent"
                ? `${plural(one.letters ?? 0, "letter")}${one.test_to ? `, tried to ${one.test_to}` : ""}`
                : one.state === "failed"
                  ? `did not go out: ${one.detail}`
                  : one.waits_until && one.missing
                    ? `waits until ${moment(one.waits_until, brand.time_zone)} for what was not collected yet`
                    : "on its way"}
              {one.missing && `; ${one.missing}`}
            </span>
          </li>
        ))}
      </ul>
    </>
  );
}
