import { type PointerEvent, useRef } from "react";

type Props = { name: string; width: number; usual: number; least?: number; onWidth: (width: number) => void };

const LEAST = 72;
const MOST = 480;
const STEP = 16;

/** The edge of a column's head: drawn, or moved by arrow keys, it makes the column wider or narrower; a double click or Home gives its usual width. */
export function ColumnEdge({ name, width, usual, least = LEAST, onWidth }: Props) {
  const bounded = (next: number) => Math.min(MOST, Math.max(least, next));
  const from = useRef<{ x: number; width: number } | null>(null);
  const onMove = (event: PointerEvent) => {
    if (from.current) onWidth(bounded(from.current.width + event.clientX - from.current.x));
  };
  return (
    <span
      role="separator"
      aria-orientation="vertical"
      aria-label={`Width of ${name}`}
      aria-valuenow={Math.round(width)}
      aria-valuemin={least}
      aria-valuemax={MOST}
      tabIndex={0}
      className="absolute top-0 -right-[14px] z-10 flex h-full w-6 cursor-col-resize touch-none justify-center after:w-px after:bg-transparent hover:after:bg-rule-strong focus-visible:after:bg-berry"
      onPointerDown={(event) => {
        from.current = { x: event.clientX, width };
        event.currentTarget.setPointerCapture(event.pointerId);
      }}
      onPointerMove={onMove}
      onPointerUp={() => {
        from.current = null;
      }}
      title="Draw it; a double click gives the usual width"
      onDoubleClick={() => onWidth(usual)}
      onKeyDown={(event) => {
        if (event.key === "Home") {
          event.preventDefault();
          onWidth(usual);
        }
        const by = event.key === "ArrowRight" ? STEP : event.key === "ArrowLeft" ? -STEP : 0;
        if (by) {
          event.preventDefault();
          onWidth(bounded(width + by));
        }
      }}
    />
  );
}
