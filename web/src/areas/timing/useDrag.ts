import { type PointerEvent as Pointer, type RefObject, useEffect, useRef, useState } from "react";
import { placeOn } from "./DayDrawing";
import type { PlannedTick } from "./queries";

type Held = { planned: PlannedTick; startX: number; startY: number; hasMoved: boolean };
const STILL = 4;

/** Dragging a planned post over the strips: which hour of the week it is over, and what happens when it is let go. */
export function useDrag(
  box: RefObject<HTMLElement | null>,
  width: number,
  height: number,
  onDrop: (planned: PlannedTick, hour: number) => void,
) {
  const held = useRef<Held | null>(null);
  const drop = useRef(onDrop);
  drop.current = onDrop;
  const [dragged, setDragged] = useState<{ id: number; hour: number } | null>(null);
  useEffect(() => {
    const hourAt = (event: PointerEvent): number | null => {
      for (const strip of box.current?.querySelectorAll<HTMLElement>("[data-day]") ?? []) {
        const at = strip.getBoundingClientRect();
        if (event.clientY < at.top || event.clientY >= at.bottom) continue;
        const { x, inner } = placeOn(width, height);
        const hour = Math.round(((event.clientX - at.left - x(0)) / inner) * 24 * 4) / 4;
        return hour < 0 || hour >= 24 ? null : Number(strip.dataset.day) * 24 + hour;
      }
      return null;
    };
    const move = (event: PointerEvent) => {
      const one = held.current;
      if (!one) return;
      one.hasMoved ||= Math.abs(event.clientX - one.startX) + Math.abs(event.clientY - one.startY) > STILL;
      const hour = one.hasMoved ? hourAt(event) : null;
      if (hour !== null) setDragged({ id: one.planned.id, hour });
    };
    const up = (event: PointerEvent) => {
      const one = held.current;
      held.current = null;
      setDragged(null);
      const hour = one?.hasMoved ? hourAt(event) : null;
      if (one && hour !== null) drop.current(one.planned, hour);
    };
    const leave = (event: KeyboardEvent) => {
      if (event.key !== "Escape") return;
      held.current = null;
      setDragged(null);
    };
    window.addEventListener("pointermove", move);
    window.addEventListener("pointerup", up);
    window.addEventListener("keydown", leave);
    return () => {
      window.removeEventListener("pointermove", move);
      window.removeEventListener("pointerup", up);
      window.removeEventListener("keydown", leave);
    };
  }, [box, width, height]);
  const grab = (planned: PlannedTick, event: Pointer) => {
    event.preventDefault();
    event.stopPropagation();
    held.current = { planned, startX: event.clientX, startY: event.clientY, hasMoved: false };
  };
  return { dragged, grab };
}
