import type { DrawingProps } from "./FigureDrawing";
import { rowsOf } from "./set";

const [HEAD, LINE] = [18, 16];

/** Posts by day, a row a week from Monday on: when each goes out, where, and how it begins. */
export function Weeks({ set, numbers, width, height, shown }: DrawingProps) {
  const days = rowsOf(set);
  const weeks = Math.ceil(days.length / 7);
  const each = (height - HEAD) / Math.max(1, weeks);
  const lines = Math.max(0, Math.floor((each - 20) / LINE));
  const wide = width / 7;
  return (
    <table className="w-full table-fixed border-collapse text-[11px]" style={{ height }}>
      <thead>
        <tr style={{ height: HEAD }}>
          {days.slice(0, 7).map((day) => (
            <th
              key={day}
              scope="col"
              className="truncate px-1.5 text-left font-normal first:pl-0"
              style={{ color: "var(--sheet-muted)" }}
            >
              {numbers.weekday(day)}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {Array.from({ length: weeks }, (_, week) => (
          <tr key={days[week * 7]} style={{ height: each }}>
            {days.slice(week * 7, week * 7 + 7).map((day) => {
              const cell = set.cells.find((one) => one.row === day);
              const posts = (set.rows ?? []).filter((one) => one.at.startsWith(day));
              const told = posts.length > lines ? Math.max(0, lines - 1) : lines;
              return (
                <td
                  key={day}
                  className="border-t border-l px-1.5 align-top first:border-l-0 first:pl-0"
                  style={{ borderColor: "var(--sheet-rule)" }}
                >
                  <span className="flex justify-between leading-[18px]" style={{ color: "var(--sheet-muted)" }}>
                    {numbers.day(day)}
                    {cell && (cell.now.value ?? 0) > 0 && (
                      <b style={{ color: "var(--sheet-ink)" }}>
                        {shown(cell, numbers.figure(cell.now.value, cell.unit))}
                      </b>
                    )}
                  </span>
                  {posts.slice(0, told).map((one) => (
                    <span
                      key={one.row}
                      className="block truncate"
                      title={`${one.text} (${one.detail})`}
                      style={{ height: LINE }}
                    >
                      <b className="font-semibold">{one.at.slice(11)}</b> {wide > 96 ? one.text : one.detail}
                    </span>
                  ))}
                  {posts.length > told && (
                    <span className="block" style={{ height: LINE, color: "var(--sheet-muted)" }}>
                      +{posts.length - told}
                    </span>
                  )}
                </td>
              );
            })}
          </tr>
        ))}
      </tbody>
    </table>
  );
}
