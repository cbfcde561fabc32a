/** The table's state: what is marked, what is picked, and the keys that move it. */

import { useCallback, useState } from "react";
import { span } from "../rules";

type Row = { id: number };

export function usePostsTable(rows: Row[], open: (row: Row) => void, onTag: () => void) {
  const [at, setAt] = useState(0);
  const [picked, setPicked] = useState<ReadonlySet<number>>(new Set());
  const [from, setFrom] = useState<number | null>(null);
  const toggle = useCallback(
    (place: number, isRange = false) => {
      const places = isRange && from !== null ? span(from, place) : [place];
      setPicked((old) => {
        const next = new Set(old);
        const isOn = isRange || !next.has(rows[place]?.id ?? -1);
        for (const p of places) {
          const id = rows[p]?.id;
          if (id === undefined) continue;
          if (isOn) next.add(id);
          else next.delete(id);
        }
        return next;
      });
      setFrom(place);
    },
    [from, rows],
  );
  const onKey = (event: { key: string; shiftKey: boolean; preventDefault: () => void }): number | null => {
    const steps: Record<string, number> = { j: 1, k: -1, ArrowDown: 1, ArrowUp: -1, PageDown: 20, PageUp: -20 };
    const by = steps[event.key] ?? steps[event.key.toLowerCase()];
    if (by !== undefined) {
      event.preventDefault();
      const next = Math.max(0, Math.min(rows.length - 1, at + by));
      if (event.shiftKey) {
        if (from === null) setFrom(at);
        const first = from ?? at;
        setPicked((old) => new Set([...old, ...span(first, next).map((p) => rows[p]?.id ?? -1)]));
      }
      setAt(next);
      return next;
    }
    if (event.key === "Enter") {
      const row = rows[at];
      if (row) open(row);
    }
    if (event.key === "x" || event.key === "X") toggle(at, event.shiftKey);
    if (event.key === "t" && rows[at]) {
      event.preventDefault();
      if (picked.size === 0) toggle(at);
      onTag();
    }
    if (event.key === "Escape" && picked.size > 0) {
      event.preventDefault();
      setPicked(new Set());
    }
    return null;
  };
  return { at, setAt, picked, toggle, clear: () => setPicked(new Set()), onKey };
}
