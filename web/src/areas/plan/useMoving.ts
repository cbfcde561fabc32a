import { useMemo, useRef } from "react";
import { addDays, at, dayOf, daysBetween, moment, timeOf } from "../../lib/days";
import { useBrand } from "../../study/brand";
import { useToast } from "../../ui/Toast";
import { type Entry, useMove } from "./queries";
import { isMovable, shifted } from "./rules";

export type Dragged = { entry: Entry } | { day: string };
export type Moving = ReturnType<typeof useMoving>;

/** Putting planned posts elsewhere: by dragging one, or a whole day, or by Alt and the arrow keys. */
export function useMoving() {
  const { brand, can } = useBrand();
  const move = useMove(brand.slug);
  const say = useToast();
  const zone = brand.time_zone;
  const dragged = useRef<Dragged | null>(null);
  return useMemo(() => {
    const to = async (entry: Entry, day: string, time?: string) => {
      // What has no time yet goes to the hour it is dropped on, or to noon.
      const clock = time ?? (entry.at ? timeOf(entry.at, zone) : "12:00");
      const when = at(day, clock, zone);
      if (when === entry.at) return;
      try {
        await move.mutateAsync({ id: entry.id, at: when, edition: entry.edition });
        say(`Moved to ${moment(when, zone)}.`);
      } catch (error) {
        say(`${entry.title || "The post"}: ${(error as Error).message}`, "wrong");
      }
    };
    const canMove = (entry: Entry) =>
      isMovable(entry.state) &&
      can("plan.write") &&
      (entry.state === "draft" || entry.state === "in_review" || can("plan.publish"));
    return {
      canMove,
      to,
      /** By days, and minutes within them; what passes midnight goes to the next day. */
      by: (entry: Entry, days: number, minutes = 0) => {
        if (!entry.at || !canMove(entry)) return;
        const [h, m] = timeOf(entry.at, zone).split(":").map(Number) as [number, number];
        const next = shifted(addDays(dayOf(entry.at, zone), days), h * 60 + m + minutes);
        void to(entry, next.day, next.time);
      },
      /** Everything of a day that can be moved, to another day at the same hours. */
      day: async (entries: Entry[], from: string, day: string) => {
        const by = daysBetween(from, day);
        for (const entry of entries) {
          if (entry.at && dayOf(entry.at, zone) === from && canMove(entry)) await to(entry, addDays(from, by));
        }
      },
      grab: (what: Dragged) => {
        dragged.current = what;
      },
      let: () => {
        const what = dragged.current;
        dragged.current = null;
        return what;
      },
      held: () => dragged.current,
    };
  }, [move.mutateAsync, say, zone, can]);
}
