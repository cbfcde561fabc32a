import { Plus } from "lucide-react";
import { useState } from "react";
import { Link } from "react-router";
import type { Schemas } from "../../api/client";
import { at, shortDay, timeOf, WEEKDAYS, weekday } from "../../lib/days";
import { figure } from "../../lib/format";
import { useBrand, useNetwork } from "../../study/brand";
import { NetworkMark } from "../../ui/Marks";
import { Empty, Failed, Loading } from "../../ui/States";
import { TimeField } from "../../ui/TimeField";
import { useToast } from "../../ui/Toast";
import { type Hour, type Rhythm, useBestHours, useKeepRhythm, useRhythms } from "../timing";
import { type Standing, standingIn, takenBy } from "./rules";

type Slot = Rhythm["slots"][number];
type Props = { days: string[]; plan: Schemas["Plan"]; profiles: Schemas["Profile"][] };
const DAY = 1440;

/** The standing slots of a week by profile and weekday: how good each hour is, what takes it, which ones are free. */
export function SlotsView({ days, plan, profiles }: Props) {
  const { brand } = useBrand();
  const rhythms = useRhythms(brand.slug);
  if (rhythms.error) return <Failed error={rhythms.error} onRetry={() => rhythms.refetch()} />;
  if (!rhythms.data) return <Loading what="Loading the standing slots" />;
  if (rhythms.data.length === 0)
    return <Empty title="There is no profile of our own yet">Connect one under Sources: then it can have slots.</Empty>;
  const standing = standingIn(plan);
  const shown = rhythms.data.filter((r) => profiles.some((p) => p.id === r.profile));
  return (
    <section className="scrolls min-w-0 overflow-auto px-4 py-2" aria-label="Standing slots" tabIndex={0}>
      <p className="label">
        Times of {brand.time_zone} that come back every week; beside each how many times the usual the hour brings, and
        between what (80 %). Changed here, a rhythm is changed for every week.{" "}
        <Link to={`/${brand.slug}/timing/rhythm`} className="under hover:text-berry">
          Have times proposed
        </Link>
      </p>
      <table className="mt-1 w-full min-w-[760px] table-fixed border-collapse">
        <thead>
          <tr className="border-b border-rule-strong text-left align-bottom">
            <th scope="col" className="w-[150px] font-normal">
              Profile
            </th>
            {days.map((day) => (
              <th key={day} scope="col" className="px-1 font-normal">
                {WEEKDAYS[weekday(day) - 1]} {shortDay(day)}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {shown.map((rhythm) => (
            <Row key={rhythm.profile} rhythm={rhythm} days={days} standing={standing} />
          ))}
        </tbody>
      </table>
    </section>
  );
}

function Row({ rhythm, days, standing }: { rhythm: Rhythm; days: string[]; standing: Standing[] }) {
  const { brand, can } = useBrand();
  const network = useNetwork(rhythm.network);
  const say = useToast();
  const keep = useKeepRhythm(brand.slug);
  const hours = useBestHours(brand.slug, rhythm.slots.length ? rhythm.profile : undefined).data?.hours;
  const canChange = can("timing.rhythm");
  const put = (slots: Slot[], said: string) =>
    keep.mutate(
      {
        profile: rhythm.profile,
        edition: rhythm.edition,
        ...(rhythm.rules && { rules: rhythm.rules }),
        slots: slots.map(({ minute, is_learning }) => ({ minute, is_learning })),
      },
      { onSuccess: () => say(said), onError: (error) => say(error.message, "wrong") },
    );
  const free = days.reduce(
    (sum, day) =>
      sum + slotsOn(rhythm, day).filter((s) => !takenBy(standing, rhythm.profile, instantOf(s, day, rhythm))).length,
    0,
  );
  return (
    <tr className="rowline align-top">
      <th scope="row" className="py-1.5 pr-2 text-left font-normal">
        <span className="flex items-center gap-2">
          <NetworkMark network={network} />
          <span className="min-w-0 truncate font-semibold">{network.name}</span>
        </span>
        <span className="label">
          {rhythm.name !== brand.name && `${rhythm.name}: `}
          {rhythm.slots.length === 0
            ? "no standing slots"
            : `${rhythm.slots.length} a week, ${free === 0 ? "none free" : `${free} free`}`}
        </span>
      </th>
      {days.map((day) => (
        <td key={day} className="px-1 py-1.5">
          {slotsOn(rhythm, day).map((slot) => (
            <SlotCell
              key={slot.minute}
              slot={slot}
              instant={instantOf(slot, day, rhythm)}
              hour={hours?.[Math.floor(slot.minute / 60)]}
              rhythm={rhythm}
              standing={standing}
              onRemove={
                canChange
                  ? () =>
                      put(
                        rhythm.slots.filter((s) => s.minute !== slot.minute),
                        "The slot is taken out of every week.",
                      )
                  : undefined
              }
            />
          ))}
          {canChange && (
            <AddTime
              label={`Another slot of ${rhythm.name} on ${network.name}, ${WEEKDAYS[weekday(day) - 1]}`}
              onTime={(time) => {
                const minute = (weekday(day) - 1) * DAY + Number(time.slice(0, 2)) * 60 + Number(time.slice(3));
                if (rhythm.slots.some((s) => s.minute === minute)) return say("This slot is there already.", "wrong");
                put([...rhythm.slots, { minute, is_learning: false } as Slot], `Every week at ${time} now.`);
              }}
            />
          )}
        </td>
      ))}
    </tr>
  );
}

const slotsOn = (rhythm: Rhythm, day: string) =>
  rhythm.slots.filter((s) => Math.floor(s.minute / DAY) === weekday(day) - 1).sort((a, b) => a.minute - b.minute);

function instantOf(slot: Slot, day: string, rhythm: Rhythm): string {
  const minutes = slot.minute % DAY;
  const clock = `${String(Math.floor(minutes / 60)).padStart(2, "0")}:${String(minutes % 60).padStart(2, "0")}`;
  return at(day, clock, rhythm.zone);
}

type CellProps = {
  slot: Slot;
  hour?: Hour;
  instant: string;
  rhythm: Rhythm;
  standing: Standing[];
  onRemove?: () => void;
};

function SlotCell({ slot, hour, instant, rhythm, standing, onRemove }: CellProps) {
  const { brand, now, can } = useBrand();
  const by = takenBy(standing, rhythm.profile, instant);
  const isPast = Date.parse(instant) < now.getTime();
  const clock = timeOf(instant, brand.time_zone);
  return (
    <div
      className={`mb-1 border-l-[3px] px-1.5 text-[12.5px] ${by ? "border-berry bg-panel" : "border-dashed border-rule-strong"}`}
    >
      <div className="flex items-baseline gap-1">
        <span className="font-semibold">{clock}</span>
        <span className="flex-1" />
        {onRemove && (
          <button
            type="button"
            className="h-6 w-6 shrink-0 text-muted hover:text-down"
            aria-label={`Take the slot at ${clock} out of every week`}
            onClick={onRemove}
          >
            ×
          </button>
        )}
      </div>
      <div className="label whitespace-nowrap">
        {slot.is_learning
          ? "to learn"
          : hour
            ? `${figure(hour.index, "index")} (${figure(hour.low80, "index")}–${figure(hour.high80, "index")})`
            : "not known"}
      </div>
      {by ? (
        <Link
          to={by.isOut ? `/${brand.slug}/results/posts/${by.id}` : `/${brand.slug}/plan/${by.id}`}
          className="block min-h-6 truncate hover:text-berry"
          title={by.title}
        >
          {by.title || "Untitled"}
        </Link>
      ) : isPast || !can("plan.write") ? (
        <span className="label block min-h-6">{isPast ? "went by empty" : "free"}</span>
      ) : (
        <Link
          to={`/${brand.slug}/plan/new?at=${encodeURIComponent(instant)}&profile=${rhythm.profile}`}
          className="under inline-block min-h-6 hover:text-berry"
        >
          free: write for it
        </Link>
      )}
    </div>
  );
}

function AddTime({ label, onTime }: { label: string; onTime: (time: string) => void }) {
  const [isOpen, setOpen] = useState(false);
  const [time, setTime] = useState("");
  if (!isOpen)
    return (
      <button
        type="button"
        aria-label={label}
        onClick={() => setOpen(true)}
        className="flex h-6 w-6 items-center justify-center text-muted hover:text-berry"
      >
        <Plus size={14} />
      </button>
    );
  return (
    <form
      className="flex items-center gap-1"
      onSubmit={(event) => {
        event.preventDefault();
        if (time) onTime(time);
        setTime("");
        setOpen(false);
      }}
    >
      <TimeField
        aria-label={label}
        className="h-6 w-14 border border-rule-strong bg-panel px-1"
        value={time}
        onChange={setTime}
      />
      <button type="submit" className="under h-6 hover:text-berry">
        {time ? "add" : "leave"}
      </button>
    </form>
  );
}
