import type { DrawingProps } from "./FigureDrawing";
import { type Cell, relative, totalsOf } from "./set";

/** Single figures side by side, each with how far it is from the one before. */
export function Tiles({ set, numbers, words, height, width, shown }: DrawingProps) {
  const cells = totalsOf(set);
  const most = Math.max(1, Math.floor(width / 118));
  const isLarge = height >= 90;
  return (
    <dl className="flex h-full" style={{ gap: 0 }}>
      {cells.slice(0, most).map((cell, i) => (
        <div
          key={cell.key}
          className={`flex min-w-0 flex-1 flex-col justify-center ${i > 0 ? "border-l pl-3" : ""} pr-2`}
          style={{ borderColor: "var(--sheet-rule)" }}
        >
          <dt className="truncate text-[12px]" style={{ color: "var(--sheet-muted)" }} title={cell.name}>
            {cell.name}
          </dt>
          <dd className={`font-semibold leading-tight ${isLarge ? "text-[27px]" : "text-[20px]"}`}>
            {shown(cell, numbers.figure(cell.now.value, cell.unit))}
          </dd>
          {cell.before && (
            <dd className="text-[12px] leading-tight">
              <Moved cell={cell} text={numbers.figure(relative(cell), "change")} />
              <span className="block truncate" style={{ color: "var(--sheet-muted)" }}>
                {words.before} {numbers.figure(cell.before.value, cell.unit)}
              </span>
            </dd>
          )}
          {!cell.before && cell.now.interval && (
            <dd className="text-[12px]" style={{ color: "var(--sheet-muted)" }}>
              {numbers.figure(cell.now.interval.low, cell.unit)}–{numbers.figure(cell.now.interval.high, cell.unit)}
            </dd>
          )}
        </div>
      ))}
    </dl>
  );
}

/** A change with a drawn triangle, so that its direction does not hang on colour. */
export function Moved({ cell, text }: { cell: Cell; text: string }) {
  const by = relative(cell);
  if (by === null || text === "–") return null;
  const isUp = by > 0;
  const isGood = isUp === cell.more_is_better;
  const colour = Math.abs(by) < 0.02 ? "var(--sheet-muted)" : isGood ? "var(--sheet-up)" : "var(--sheet-down)";
  return (
    <span className="inline-flex items-center gap-1 font-semibold" style={{ color: colour }}>
      {Math.abs(by) >= 0.02 && (
        <svg width="8" height="7" aria-hidden="true">
          <path d={isUp ? "M4 0L8 7H0Z" : "M0 0H8L4 7Z"} fill="currentColor" />
        </svg>
      )}
      {text}
    </span>
  );
}
