import { type KeyboardEvent, type PointerEvent, useRef, useState } from "react";
import { type Grip, moved, pixelsToDays, type Span, type View } from "./geometry";

type Props = { span: Span; view: View; width: number; onChange: (span: Span) => void };

/** The period as something to be dragged: live while it moves, told on when it is let go. Arrow keys do the same. */
export function useBrush({ span, view, width, onChange }: Props) {
  const [draft, setDraft] = useState<Span | null>(null);
  const begun = useRef<{ x: number; span: Span; grip: Grip } | null>(null);
  const shown = draft ?? { first: span.first, last: span.last };
  // A held key comes faster than the address changes: each step goes on from the last, and all are told on once.
  const kept = useRef<Span | null>(null);
  const tell = () => {
    if (kept.current && (kept.current.first !== span.first || kept.current.last !== span.last)) onChange(kept.current);
    kept.current = null;
    setDraft(null);
  };

  const grip = (which: Grip, label: string) => ({
    tabIndex: 0,
    role: "slider",
    "aria-label": label,
    "aria-valuenow": Number((which === "last" ? shown.last : shown.first).replaceAll("-", "")),
    "aria-valuetext": which === "last" ? shown.last : shown.first,
    onPointerDown: (event: PointerEvent<SVGElement>) => {
      event.currentTarget.setPointerCapture(event.pointerId);
      begun.current = { x: event.clientX, span: shown, grip: which };
      setDraft(shown);
    },
    onPointerMove: (event: PointerEvent<SVGElement>) => {
      const start = begun.current;
      if (start) setDraft(moved(start.span, start.grip, pixelsToDays(event.clientX - start.x, view, width)));
    },
    onPointerUp: () => {
      if (begun.current && draft && (draft.first !== span.first || draft.last !== span.last)) onChange(draft);
      begun.current = null;
      setDraft(null);
    },
    onKeyDown: (event: KeyboardEvent<SVGElement>) => {
      const step = { ArrowLeft: -1, ArrowRight: 1, PageUp: -7, PageDown: 7 }[event.key];
      if (step === undefined) return;
      event.preventDefault();
      kept.current = moved(kept.current ?? shown, event.shiftKey ? "last" : which, step);
      setDraft(kept.current);
    },
    onKeyUp: tell,
    onBlur: tell,
  });
  return { span: shown, grip, isDragging: draft !== null };
}
