import type { DrawingProps } from "./FigureDrawing";
import { leadingColumn, ranked } from "./set";

const ROW = 24;

/** Rows of a table as bars of one column, largest first, with intervals where there are any. */
export function BarRows({ set, numbers, rows, width, height, shown }: DrawingProps) {
  const column = leadingColumn(set);
  const cells = ranked(set, column, Math.max(1, Math.min(rows, Math.floor((height - 18) / ROW))));
  const all = set.cells.filter((cell) => cell.row !== "" && cell.column === column).length;
  const values = cells.map((cell) => cell.now.value ?? 0);
  const [least, largest] = [Math.min(0, ...values), Math.max(...values, 1e-9)];
  // An interval that reaches far beyond all values is cut at the edge: it would leave no room for what is known.
  const ends = cells.flatMap((cell) => (cell.now.interval ? [cell.now.interval.low, cell.now.interval.high] : []));
  const low = Math.max(Math.min(least, ...ends), least - (largest - least) * 0.4);
  const high = Math.min(Math.max(largest, ...ends), largest + (largest - least) * 0.6);
  const label = Math.min(170, width * 0.34);
  const value = 68;
  const wide = Math.max(30, width - label - value - 12);
  const X = (v: number) => ((Math.min(high, Math.max(low, v)) - low) / (high - low)) * wide;
  const isIndex = cells[0]?.unit === "index";
  return (
    <div className="flex h-full flex-col">
      <p className="truncate text-[12px]" style={{ color: "var(--sheet-muted)" }}>
        {column}
        {all > cells.length ? ` (${cells.length}/${all})` : ""}
      </p>
      <ul>
        {cells.map((cell) => {
          const v = cell.now.value;
          const from = X(isIndex ? 1 : 0);
          return (
            <li key={cell.key} className="flex items-center gap-1.5 text-[13px]" style={{ height: ROW }}>
              <span className="truncate" style={{ width: label }} title={cell.row}>
                {cell.row}
              </span>
              <svg width={wide} height={ROW} aria-hidden="true">
                {v !== null && (
                  <rect
                    x={Math.min(from, X(v))}
                    y="6"
                    width={Math.max(1, Math.abs(X(v) - from))}
                    height={ROW - 12}
                    fill="var(--sheet-accent)"
                    opacity={cell.now.interval && spans(cell.now.interval, isIndex ? 1 : null) ? 0.45 : 0.9}
                  />
                )}
                {cell.now.interval && (
                  <path
                    d={`M${X(cell.now.interval.low)} ${ROW / 2}H${X(cell.now.interval.high)}`}
                    stroke="var(--sheet-ink)"
                    strokeWidth="1.4"
                  />
                )}
                <path d={`M${from} 0V${ROW}`} stroke="var(--sheet-muted)" strokeWidth="1" />
              </svg>
              <b className="text-right font-semibold" style={{ width: value }}>
                {shown(cell, numbers.figure(v, cell.unit))}
              </b>
            </li>
          );
        })}
      </ul>
    </div>
  );
}

/** Whether an interval holds the value that means no difference: then its bar is paler. */
const spans = (interval: { low: number; high: number }, none: number | null) =>
  none !== null && interval.low <= none && interval.high >= none;
