import { FigureValue } from "../../../figures/FigureValue";
import { figure, percent } from "../../../lib/format";
import type { useSummary } from "../queries";
import { paidPart } from "./rules";

type Metric = NonNullable<ReturnType<typeof useSummary>["data"]>["metrics"][number];

const PAIRS = [
  ["impressions", "paid_impressions", "Impressions"],
  ["interactions", "paid_interactions", "Interactions"],
  ["clicks", "paid_link_clicks", "Link clicks, as networks tell"],
  ["tracked_clicks", "paid_clicks", "Clicks on tracked links"],
  ["visits", "paid_visits", "Visits"],
  ["conversions", "paid_conversions", "Conversions"],
] as const;

export const SPLIT_METRICS: string[] = PAIRS.flatMap((pair) => pair.slice(0, 2));

/** What came by itself and what was paid for, side by side; each number opens what it is made of. */
export function Split({ metrics }: { metrics: readonly Metric[] }) {
  const of = (key: string) => metrics.find((one) => one.key === key);
  return (
    <table className="w-full max-w-[760px]">
      <caption className="text-left text-[16px]">
        By itself and paid for <span className="label">the two are never added up</span>
      </caption>
      <thead className="label">
        <tr className="rowline text-right">
          <th className="text-left font-normal">
            <span className="sr-only">What</span>
          </th>
          <th className="w-[110px] font-normal">By itself</th>
          <th className="w-[110px] font-normal">Paid for</th>
          <th className="w-[38%] pl-4 text-left font-normal">Paid part</th>
        </tr>
      </thead>
      <tbody>
        {PAIRS.map(([organic, paid, name]) => {
          const [own, bought] = [of(organic)?.now.value, of(paid)?.now.value];
          const part = paidPart(own, bought);
          return (
            <tr key={organic} className="rowline h-8 text-right">
              <th scope="row" className="text-left font-normal">
                {name}
              </th>
              <td>
                <FigureValue
                  kind="results.course"
                  cell={organic}
                  params={{ metrics: organic }}
                  label={`${name}, by itself`}
                >
                  {figure(own)}
                </FigureValue>
              </td>
              <td className="font-semibold">
                <FigureValue kind="results.course" cell={paid} params={{ metrics: paid }} label={`${name}, paid for`}>
                  {figure(bought)}
                </FigureValue>
              </td>
              <td className="pl-4 text-left">
                {part === null ? (
                  <span className="text-muted">–</span>
                ) : (
                  <span className="flex items-center gap-2">
                    <span className="h-[7px] flex-1 border border-rule-strong narrow:hidden" aria-hidden="true">
                      <span className="block h-full bg-(--tag-2)" style={{ width: `${part * 100}%` }} />
                    </span>
                    <span className="w-[52px]">{percent(part)}</span>
                  </span>
                )}
              </td>
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}
