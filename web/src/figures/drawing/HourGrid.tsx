import type { DrawingProps } from "./FigureDrawing";
import { cellAt, columnsOf, rowsOf } from "./set";

/** Hours of the week: seven rows of twenty-four, darker where there is more. Its table tells the numbers. */
export function HourGrid({ set, numbers, width, height }: DrawingProps) {
  const [rows, columns] = [rowsOf(set), columnsOf(set)];
  const known = set.cells.map((cell) => cell.now.value).filter((value): value is number => value !== null);
  const [low, high] = [Math.min(...known), Math.max(...known)];
  const label = 84;
  const [w, h] = [(width - label) / Math.max(1, columns.length), (height - 20) / Math.max(1, rows.length)];
  const unit = set.cells[0]?.unit ?? "count";
  const top = set.cells.reduce(
    (best, cell) => ((cell.now.value ?? -Infinity) > (best.now.value ?? -Infinity) ? cell : best),
    set.cells[0] as (typeof set.cells)[number],
  );
  return (
    <svg
      role="img"
      aria-label={`${set.title}: ${top.name} ${numbers.figure(top.now.value, unit)}`}
      width={width}
      height={height}
    >
      {rows.map((row, r) => (
        <g key={row}>
          <text x="0" y={r * h + h / 2 + 4} fontSize="12" fill="var(--sheet-ink)">
            {row}
          </text>
          {columns.map((column, c) => {
            const value = cellAt(set, row, column)?.now.value ?? null;
            const share = value === null || high === low ? 0 : (value - low) / (high - low);
            return (
              <rect
                key={column}
                x={label + c * w}
                y={r * h + 1}
                width={Math.max(1, w - 1)}
                height={Math.max(1, h - 2)}
                fill={value === null ? "none" : "var(--sheet-accent)"}
                stroke={value === null ? "var(--sheet-rule)" : "none"}
                opacity={0.06 + 0.94 * share ** 1.4}
              />
            );
          })}
        </g>
      ))}
      {columns.map((column, c) =>
        c % 3 === 0 ? (
          <text key={column} x={label + c * w} y={height - 5} fontSize="11" fill="var(--sheet-muted)">
            {column}
          </text>
        ) : null,
      )}
    </svg>
  );
}
