import { useState } from "react";
import { useForm } from "react-hook-form";
import { addDays, shortDay } from "../../../lib/days";
import { figure, plural } from "../../../lib/format";
import { useBrand } from "../../../study/brand";
import { Button } from "../../../ui/Button";
import { DateField } from "../../../ui/DateField";
import { Entry, Form } from "../../../ui/Form";
import { Sheet } from "../../../ui/Sheet";
import { Failed, Loading } from "../../../ui/States";
import { useToast } from "../../../ui/Toast";
import { type SeasonReturn, useLeaveSeason, useSeason, useSetSeason } from "../queries";

/** Letting a post come back every year: a draft of it waits some days before. */
export function ComesBack({ id }: { id: number }) {
  const { brand } = useBrand();
  const [isOpen, setOpen] = useState(false);
  const season = useSeason(brand.slug, id, isOpen);
  return (
    <>
      <button type="button" className="under h-6 hover:text-berry" onClick={() => setOpen(true)}>
        Back with its season
      </button>
      <Sheet isOpen={isOpen} onClose={() => setOpen(false)} title="Back with its season" form="dialog">
        {season.error ? (
          <Failed error={season.error} onRetry={() => season.refetch()} />
        ) : season.data ? (
          <Setting id={id} season={season.data} onDone={() => setOpen(false)} />
        ) : (
          <Loading what="Looking at its link’s year" />
        )}
      </Sheet>
    </>
  );
}

function Setting({ id, season, onDone }: { id: number; season: SeasonReturn; onDone: () => void }) {
  const { brand, today } = useBrand();
  const set = useSetSeason(brand.slug, id);
  const leave = useLeaveSeason(brand.slug, id);
  const say = useToast();
  const busiest = season.busiest;
  const next = (told: string) => {
    const here = `${today.slice(0, 4)}${told.slice(4)}`;
    return here >= today ? here : `${Number(today.slice(0, 4)) + 1}${told.slice(4)}`;
  };
  const form = useForm({
    defaultValues: {
      day: season.day ?? (busiest ? next(busiest.first) : addDays(today, 30)),
      days_before: season.days_before,
    },
  });
  return (
    <Form
      form={form}
      error={set.error ?? leave.error}
      className="flex flex-col gap-3"
      onSubmit={(given) =>
        set.mutate(given, {
          onSuccess: () => {
            say(`A draft waits ${plural(given.days_before, "day")} before ${shortDay(given.day)}, every year.`);
            onDone();
          },
        })
      }
    >
      {season.day && <p className="font-semibold">It comes back on {shortDay(season.day)}.</p>}
      <p>
        {busiest
          ? `Last year’s busiest weeks of its link: ${shortDay(busiest.first)} to ${shortDay(busiest.last)}, ${figure(busiest.clicks)} clicks, ${figure(busiest.times, "index")} times as many a day as else. One year alone does not say that it is so every year.`
          : "Its link has no weeks that stand out, or is not known for a year: say yourself when its season begins."}
      </p>
      <div className="grid grid-cols-2 gap-3">
        <Entry form={form} name="day" label="Every year from">
          {(field) => <DateField {...field} today={today} />}
        </Entry>
        <Entry form={form} name="days_before" label="A draft waits so many days before">
          {(field) => (
            <input
              {...field}
              type="number"
              min={0}
              max={90}
              onChange={(event) => field.onChange(Math.max(0, Math.floor(Number(event.target.value))))}
            />
          )}
        </Entry>
      </div>
      <div className="flex gap-2">
        <Button type="submit" kind="main" isBusy={set.isPending}>
          Let it come back
        </Button>
        {season.day && (
          <Button
            isBusy={leave.isPending}
            onClick={() =>
              leave.mutate(undefined, {
                onSuccess: () => {
                  say("It comes back no more. Drafts that were made stay.");
                  onDone();
                },
              })
            }
          >
            No longer
          </Button>
        )}
      </div>
    </Form>
  );
}
