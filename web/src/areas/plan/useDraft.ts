import { useCallback, useEffect, useState } from "react";
import { type Day, dayOf, timeOf } from "../../lib/days";
import type { Planned } from "./queries";
import type { Draft } from "./rules";

/** What is being written. It is kept in the browser at every change, so that a reload or an error loses nothing. */
export function useDraft(key: string, begin: () => Draft) {
  const place = `dakika.draft.${key}`;
  const [draft, setDraft] = useState<Draft>(() => {
    try {
      const kept = sessionStorage.getItem(place);
      if (kept) return { ...begin(), ...(JSON.parse(kept) as Draft) };
    } catch {
      // What cannot be read was not ours; begin anew.
    }
    return begin();
  });
  const [isTouched, setTouched] = useState(() => sessionStorage.getItem(place) !== null);
  useEffect(() => {
    if (isTouched) sessionStorage.setItem(place, JSON.stringify(draft));
  }, [draft, isTouched, place]);
  const change = useCallback((patch: Partial<Draft>) => {
    setTouched(true);
    setDraft((old) => ({ ...old, ...patch }));
  }, []);
  const settle = useCallback(
    (next?: Draft) => {
      sessionStorage.removeItem(place);
      setTouched(false);
      if (next) setDraft(next);
    },
    [place],
  );
  return { draft, change, settle, isTouched };
}

export function draftOf(planned: Planned, zone: string, today: Day): Draft {
  const own = Object.fromEntries(planned.versions.map((v) => [v.profile_id, v.text]));
  return {
    title: planned.title,
    shared: planned.versions[0]?.text ?? "",
    own,
    profiles: planned.versions.map((v) => v.profile_id),
    campaign: planned.campaign_id ?? undefined,
    links: Object.fromEntries(planned.versions.flatMap((v) => (v.link_id ? [[v.profile_id, v.link_id]] : []))),
    day: planned.scheduled_at ? dayOf(planned.scheduled_at, zone) : today,
    time: planned.scheduled_at ? timeOf(planned.scheduled_at, zone) : "",
  };
}
