import { type Day, shortDay, WEEKDAYS, weekday } from "../../../lib/days";
import { figure } from "../../../lib/format";
import type { Measured } from "../queries";

/** The chart's figures as a table. */
export function CourseTable({ metric, days }: { metric: Measured; days: Day[] }) {
  return (
    <div className="max-h-[262px] overflow-y-auto">
      <table className="w-full">
        <thead className="label sticky top-0 bg-paper text-left">
          <tr>
            <th className="font-normal">Day</th>
            <th className="text-right font-normal">{metric.name}</th>
            <th className="text-right font-normal">Same place in the comparison</th>
          </tr>
        </thead>
        <tbody>
          {days.map((day, i) => (
            <tr key={day} className="rowline">
              <td>
                {WEEKDAYS[weekday(day) - 1]} {shortDay(day)}
              </td>
              <td className="text-right">{figure(metric.days[i], metric.unit)}</td>
              <td className="text-right text-muted">{figure(metric.days_before[i], metric.unit)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
