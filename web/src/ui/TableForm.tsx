import type { ReactNode } from "react";

type Props = { caption: string; head: string[]; rows: ReactNode[][] };

/** The table form of a chart: the same values, for reading, copying and screen readers. */
export function TableForm({ caption, head, rows }: Props) {
  return (
    <div className="max-h-[420px] overflow-y-auto" tabIndex={0} role="region" aria-label={caption}>
      <table className="w-full">
        <caption className="sr-only">{caption}</caption>
        <thead className="label sticky top-0 bg-paper text-right">
          <tr className="h-7">
            {head.map((name, i) => (
              <th key={name} scope="col" className={`font-normal ${i === 0 ? "text-left" : ""}`}>
                {name}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.map((cells) => (
            <tr key={String(cells[0])} className="rowline h-7 text-right">
              {cells.map((cell, i) => (
                <td key={head[i]} className={i === 0 ? "text-left" : ""}>
                  {cell}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

/** The quiet switch between a chart and its table. */
export function FormSwitch({ isTable, onChange }: { isTable: boolean; onChange: (isTable: boolean) => void }) {
  return (
    <button
      type="button"
      aria-pressed={isTable}
      onClick={() => onChange(!isTable)}
      className="label under h-6 shrink-0 hover:text-berry"
    >
      {isTable ? "as a chart" : "as a table"}
    </button>
  );
}
