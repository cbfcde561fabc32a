import { FigureValue } from "../../figures/FigureValue";
import { figure } from "../../lib/format";
import type { Week } from "./queries";
import { hourName, ranked } from "./rules";

type Props = { week: Week; of: { kind: string; params: Record<string, string> }; onHour?: (hour: number) => void };
const BAR = 220;

/** The same week as a list: hours by the lower end of their interval, so that little evidence does not rank high. */
export function Ranked({ week, of, onHour }: Props) {
  const order = ranked(week);
  const most = Math.max(1.2, ...order.map((h) => week.hours[h]?.high80 ?? 1));
  const least = Math.min(0.9, ...order.map((h) => week.hours[h]?.low80 ?? 1));
  const x = (value: number) => ((Math.log(value) - Math.log(least)) / (Math.log(most) - Math.log(least))) * BAR;
  return (
    <table className="mt-2 w-full">
      <thead className="label text-right">
        <tr className="rowline h-7">
          <th className="text-left font-normal">Hour, by the lower end</th>
          <th className="font-normal">Index</th>
          <th className="pl-4 text-left font-normal">80 %</th>
          <th className="font-normal">How sure</th>
          <th className="font-normal">Posts nearby</th>
          <th className="font-normal">Audience online</th>
          <th />
        </tr>
      </thead>
      <tbody>
        {order.map((hour) => {
          const one = week.hours[hour];
          if (!one) return null;
          return (
            <tr key={hour} className="rowline h-7 text-right">
              <td className="text-left font-semibold">{hourName(hour)}</td>
              <td>
                <FigureValue {...of} cell={String(hour)} label={`index, ${hourName(hour)}`}>
                  {figure(one.index, "index")}
                </FigureValue>
              </td>
              <td className="pl-4">
                <svg width={BAR} height="11" aria-hidden="true" className="block">
                  <line x1={x(1)} x2={x(1)} y1="0" y2="11" stroke="var(--ink)" strokeDasharray="1 2" />
                  <rect
                    x={x(one.low80)}
                    width={Math.max(1, x(one.high80) - x(one.low80))}
                    y="2"
                    height="7"
                    fill="var(--q2)"
                  />
                  <rect x={x(one.index) - 1.25} width="2.5" height="11" fill="var(--q5)" />
                </svg>
                <span className="sr-only">{`${figure(one.low80, "index")} to ${figure(one.high80, "index")}`}</span>
              </td>
              <td>{one.certainty}</td>
              <td>{one.nearby}</td>
              <td>{week.presence ? `${Math.round((week.presence[hour] ?? 0) * 100)} %` : figure(null)}</td>
              <td>
                {onHour && (
                  <button
                    type="button"
                    className="under h-6 hover:text-berry"
                    onClick={() => onHour(hour)}
                    aria-label={`Draft for ${hourName(hour)}`}
                  >
                    draft
                  </button>
                )}
              </td>
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}
