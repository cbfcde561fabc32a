/** What a person chose to see, kept for them alone. */

import { useCallback, useEffect, useRef, useState } from "react";
import { useBrand } from "./brand";
import { useKeepPreference, usePreferences } from "./queries";

/** A list of keys that the person chose, as kept, else as it is at first. */
export function useChosen(name: string, atFirst: string[]): [string[], (keys: string[]) => void] {
  const { brand } = useBrand();
  const kept = usePreferences(brand.slug).data?.values[name];
  const keep = useKeepPreference(brand.slug);
  // What somebody just chose counts at once, before what was kept has even come.
  const [asked, setAsked] = useState<string[]>();
  const keys =
    asked ?? (Array.isArray(kept) && kept.every((k) => typeof k === "string") ? (kept as string[]) : atFirst);
  const choose = (next: string[]) => {
    setAsked(next);
    keep.mutate({ name, value: next }, { onError: () => setAsked(undefined) });
  };
  return [keys.length ? keys : atFirst, choose];
}

const DRAWN_MS = 300;

/** Widths of columns in pixels by key, as the person drew them; kept once the edge rests. */
export function useWidths(name: string): [Record<string, number>, (key: string, width: number) => void] {
  const { brand } = useBrand();
  const kept = usePreferences(brand.slug).data?.values[name];
  const keep = useKeepPreference(brand.slug);
  const [asked, setAsked] = useState<Record<string, number>>();
  const widths = asked ?? (isWidths(kept) ? kept : {});
  const waiting = useRef<{ timer: number; value: Record<string, number> } | null>(null);
  const { mutate } = keep;
  const rest = useCallback(() => {
    if (!waiting.current) return;
    window.clearTimeout(waiting.current.timer);
    mutate({ name, value: waiting.current.value });
    waiting.current = null;
  }, [mutate, name]);
  // Whoever leaves while an edge is still drawn leaves it as it is.
  useEffect(() => rest, [rest]);
  const choose = (key: string, width: number) => {
    const value = { ...widths, [key]: Math.round(width) };
    setAsked(value);
    if (waiting.current) window.clearTimeout(waiting.current.timer);
    waiting.current = { timer: window.setTimeout(rest, DRAWN_MS), value };
  };
  return [widths, choose];
}

function isWidths(value: unknown): value is Record<string, number> {
  return (
    typeof value === "object" && value !== null && Object.values(value).every((w) => typeof w === "number" && w > 0)
  );
}
