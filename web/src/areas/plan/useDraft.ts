import { useCallback, useEffect, useState } from "react";
import { type Day, dayOf, timeOf } from "../../lib/days";
import { forget, type Kept, keep, newTabName, othersAt, read, slotOf, tabName } from "./drafts";
import type { Planned } from "./queries";
import type { Draft } from "./rules";

type Beginning = {
  /** The draft as the server or the address has it. */
  begin: () => Draft;
  /** What the address says: it wins over what was kept. */
  given?: Partial<Draft>;
};

/** What is being written. It is kept in the browser at every change, so that a reload or an error loses nothing. */
export function useDraft(place: string, { begin, given = {} }: Beginning) {
  const [slot, setSlot] = useState(() => slotOf(place, tabName()));
  const [{ draft, isTouched }, set] = useState(() => {
    const kept = read(slot);
    return { draft: kept ? { ...begin(), ...kept.draft, ...given } : begin(), isTouched: kept !== null };
  });
  const [others, setOthers] = useState(() => othersAt(place, slot));
  const [isKept, setIsKept] = useState(true);
  useEffect(() => {
    if (isTouched) setIsKept(keep(slot, draft));
  }, [draft, isTouched, slot]);
  useEffect(() => {
    const listen = (event: StorageEvent) => {
      // Only another tab's writing is told: one that has our slot is our double.
      if (event.key === slot && event.newValue !== null) setSlot(slotOf(place, newTabName()));
      else setOthers(othersAt(place, slot));
    };
    window.addEventListener("storage", listen);
    return () => window.removeEventListener("storage", listen);
  }, [place, slot]);
  const change = useCallback((patch: Partial<Draft>) => {
    set((old) => ({ draft: { ...old.draft, ...patch }, isTouched: true }));
  }, []);
  const settle = useCallback(
    (next?: Draft) => {
      forget(slot);
      set((old) => ({ draft: next ?? old.draft, isTouched: false }));
    },
    [slot],
  );
  const takeUp = useCallback(
    (kept: Kept) => {
      forget(kept.slot);
      setOthers(othersAt(place, slot));
      set({ draft: kept.draft, isTouched: true });
    },
    [place, slot],
  );
  const throwAway = useCallback(
    (kept: Kept) => {
      forget(kept.slot);
      setOthers(othersAt(place, slot));
    },
    [place, slot],
  );
  return { draft, change, settle, isTouched, isKept, others, takeUp, throwAway };
}

/** A planned post as it is edited: what is common and what is own, of one edition. */
export function draftOf(planned: Planned, zone: string, today: Day): Draft {
  const own = Object.fromEntries(
    planned.versions.map((v) => {
      const has = (part: (typeof v.own)[number]) => v.own.includes(part);
      return [
        v.profile_id,
        {
          ...(has("text") && { text: v.text }),
          ...(has("headline") && { headline: v.headline }),
          ...(has("first_comment") && { comment: v.first_comment }),
          ...(has("media") && { media: v.media }),
          ...(has("time") && v.due_at && { when: { day: dayOf(v.due_at, zone), time: timeOf(v.due_at, zone) } }),
        },
      ];
    }),
  );
  return {
    title: planned.title,
    text: planned.text,
    headline: planned.headline,
    comment: planned.first_comment,
    media: planned.media,
    own,
    options: Object.fromEntries(planned.versions.map((v) => [v.profile_id, v.options])),
    profiles: planned.versions.map((v) => v.profile_id),
    campaign: planned.campaign_id ?? undefined,
    tags: planned.tags,
    feed: planned.in_own_feed,
    push: planned.as_push,
    links: Object.fromEntries(planned.versions.flatMap((v) => (v.link ? [[v.profile_id, v.link]] : []))),
    day: planned.scheduled_at ? dayOf(planned.scheduled_at, zone) : today,
    time: planned.scheduled_at ? timeOf(planned.scheduled_at, zone) : "",
    edition: planned.edition,
  };
}
