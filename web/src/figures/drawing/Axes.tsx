import { valueScale } from "../../charts/ticks";
import type { DrawingProps } from "./FigureDrawing";
import { cellAt, columnsOf, rowsOf } from "./set";

const [LEFT, RIGHT, TOP, BOTTOM] = [52, 14, 10, 34];

/** Rows as points of two columns; names that would touch another are left out and stand in the table. */
export function Axes({ set, numbers, width, height }: DrawingProps) {
  const [across, up] = columnsOf(set) as [string, string];
  const points = rowsOf(set)
    .map((row) => ({ row, x: cellAt(set, row, across), y: cellAt(set, row, up) }))
    .filter((point) => point.x?.now.value != null && point.y?.now.value != null)
    .map((point) => ({ row: point.row, x: point.x?.now.value as number, y: point.y?.now.value as number }));
  const [wide, tall] = [Math.max(40, width - LEFT - RIGHT), Math.max(40, height - TOP - BOTTOM)];
  const [xs, ys] = [
    valueScale(
      points.map((p) => p.x),
      wide,
    ),
    valueScale(
      points.map((p) => p.y),
      tall,
    ),
  ];
  const X = (v: number) => LEFT + wide - xs(v);
  const Y = (v: number) => TOP + ys(v);
  const units = [across, up].map((column) => set.cells.find((cell) => cell.column === column)?.unit ?? "count");
  const taken: { x: number; y: number; w: number }[] = [];
  const named = points.map((point) => {
    const at = { x: X(point.x), y: Y(point.y), w: point.row.length * 6.3 + 12 };
    const isFree = taken.every((one) => Math.abs(one.y - at.y) > 13 || at.x > one.x + one.w || at.x + at.w < one.x);
    if (isFree) taken.push(at);
    return isFree;
  });
  const told = points.map(
    (p) => `${p.row} ${numbers.figure(p.x, units[0] ?? "count")}, ${numbers.figure(p.y, units[1] ?? "count")}`,
  );
  return (
    <svg role="img" aria-label={`${across}, ${up}: ${told.join("; ")}`} width={width} height={height}>
      {ys.ticks(4).map((tick) => (
        <g key={tick}>
          <path d={`M${LEFT} ${Y(tick)}H${LEFT + wide}`} stroke="var(--sheet-rule)" />
          <text x={LEFT - 6} y={Y(tick) + 4} textAnchor="end" fontSize="11" fill="var(--sheet-muted)">
            {numbers.short(tick, units[1] ?? "count")}
          </text>
        </g>
      ))}
      {xs.ticks(5).map((tick) => (
        <text key={tick} x={X(tick)} y={TOP + tall + 15} textAnchor="middle" fontSize="11" fill="var(--sheet-muted)">
          {numbers.short(tick, units[0] ?? "count")}
        </text>
      ))}
      <text x={LEFT + wide} y={height - 4} textAnchor="end" fontSize="11" fill="var(--sheet-ink)">
        {across}
      </text>
      <text x={LEFT + 4} y={TOP + 9} fontSize="11" fill="var(--sheet-ink)">
        {up}
      </text>
      {points.map((point, i) => {
        const isLeft = X(point.x) + point.row.length * 6.3 + 12 > width;
        return (
          <g key={point.row}>
            <circle cx={X(point.x)} cy={Y(point.y)} r="5" fill="var(--sheet-accent)" opacity=".85" />
            {named[i] && (
              <text
                x={X(point.x) + (isLeft ? -8 : 8)}
                y={Y(point.y) + 4}
                textAnchor={isLeft ? "end" : "start"}
                fontSize="12"
                fill="var(--sheet-ink)"
              >
                {point.row}
              </text>
            )}
          </g>
        );
      })}
    </svg>
  );
}
