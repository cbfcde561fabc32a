import type { DrawingProps } from "./FigureDrawing";
import { cellAt, columnsOf, leadingColumn, ranked, relative, rowsOf, totalsOf } from "./set";
import { Moved } from "./Tiles";

const [HEAD, ROW, LEAST_COLUMN] = [30, 23, 62];

/** The figures as a table: rows in the order of their leading column, as many rows and columns as there is room for. */
export function FigureTable({ set, numbers, words, rows, width, height, shown }: DrawingProps) {
  const totals = totalsOf(set);
  const room = Math.max(1, Math.floor((height - HEAD) / ROW));
  if (rowsOf(set).length === 0)
    return (
      <table className="w-full text-[13px]">
        <tbody>
          {totals.slice(0, Math.max(1, Math.floor(height / ROW))).map((cell) => (
            <tr key={cell.key} style={{ height: ROW, borderBottom: "1px solid var(--sheet-rule)" }}>
              <th scope="row" className="text-left font-normal">
                {cell.name}
              </th>
              <td className="text-right font-semibold">{shown(cell, numbers.figure(cell.now.value, cell.unit))}</td>
              <td className="pl-2 text-right" style={{ color: "var(--sheet-muted)" }}>
                {cell.before && `${words.before} ${numbers.figure(cell.before.value, cell.unit)}`}
              </td>
              <td className="pl-2 text-right">
                <Moved cell={cell} text={numbers.figure(relative(cell), "change")} />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    );
  const first = Math.min(220, width * 0.3);
  const columns = columnsOf(set).slice(0, Math.max(1, Math.floor((width - first) / LEAST_COLUMN)));
  const order = [...new Set(ranked(set, leadingColumn(set), 10_000).map((cell) => cell.row))];
  const every = [...order, ...rowsOf(set).filter((row) => !order.includes(row))];
  const named = every.slice(0, Math.min(rows, room));
  return (
    <table className="w-full table-fixed text-[13px]">
      <thead>
        <tr style={{ height: HEAD, borderBottom: "1.5px solid var(--sheet-ink)" }}>
          <th style={{ width: first }} className="text-left align-bottom text-[11px] font-normal">
            <span style={{ color: "var(--sheet-muted)" }}>
              {every.length > named.length ? `${named.length}/${every.length}` : ""}
            </span>
          </th>
          {columns.map((column) => (
            <th
              key={column}
              scope="col"
              className="text-right align-bottom text-[11px] font-normal leading-tight"
              style={{ color: "var(--sheet-muted)" }}
            >
              {column}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {named.map((row) => (
          <tr key={row} style={{ height: ROW, borderBottom: "1px solid var(--sheet-rule)" }}>
            <th scope="row" className="truncate text-left font-normal" title={row}>
              {row}
            </th>
            {columns.map((column) => {
              const cell = cellAt(set, row, column);
              return (
                <td key={column} className="truncate text-right">
                  {cell ? shown(cell, numbers.figure(cell.now.value, cell.unit)) : ""}
                </td>
              );
            })}
          </tr>
        ))}
      </tbody>
    </table>
  );
}
