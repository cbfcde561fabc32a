import { FigureValue } from "../../../figures/FigureValue";
import { figure, formatNames, plural } from "../../../lib/format";
import { languageName, useAge } from "../../../study/study";
import { Failed, Loading } from "../../../ui/States";
import type { Metric, useTotals } from "../queries";
import { shortName } from "./PostsTable";

type Props = {
  totals: ReturnType<typeof useTotals>;
  columns: Metric[];
  by: string;
  text: string;
  onGroup: (name: string, value: string) => void;
};
/** Groups whose posts the table can show. */
const NARROWS = ["format", "network", "profile", "campaign", "language", "tag"];

/** The posts in groups, each column by its own rule: sums are added, rates are rates of sums. */
export function TotalsTable({ totals, columns, by, text, onGroup }: Props) {
  const at = useAge().words;
  if (totals.error) return <Failed error={totals.error} onRetry={() => totals.refetch()} />;
  if (!totals.data) return <Loading what="Adding up" />;
  const { whole, groups } = totals.data;
  const nameOf = (group: (typeof groups)[number]) =>
    by === "format"
      ? (formatNames[group.key] ?? group.name)
      : by === "language" && group.key
        ? languageName(group.key)
        : group.name;
  return (
    <div className="min-h-0 flex-1 overflow-y-auto px-5" tabIndex={0} role="region" aria-label="Groups of posts">
      <table className="w-full">
        <thead className="label sticky top-0 bg-paper text-right">
          <tr className="h-8">
            <th className="text-left font-normal">Group</th>
            <th className="font-normal">Posts</th>
            {columns.map((metric) => (
              <th key={metric.key} className="font-normal" title={metric.name}>
                {shortName(metric)}
              </th>
            ))}
          </tr>
        </thead>
        <tbody className="text-right">
          {groups.map((group) => (
            <tr key={group.key} className="rowline h-8 hover:bg-panel">
              <td className="text-left">
                {NARROWS.includes(by) && group.key ? (
                  <button
                    type="button"
                    className="under font-semibold hover:text-berry"
                    onClick={() => onGroup(by, group.key)}
                  >
                    {nameOf(group)}
                  </button>
                ) : (
                  nameOf(group)
                )}
              </td>
              <td>{figure(group.posts)}</td>
              {columns.map((metric) => (
                <td key={metric.key} title={`over ${plural(group.n[metric.key] ?? 0, "post")}`}>
                  {figure(group.values[metric.key], metric.unit)}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
        <tfoot className="border-t border-rule-strong text-right font-semibold">
          <tr className="h-8">
            <td className="text-left">All of them, {at}</td>
            <td>{figure(whole.posts)}</td>
            {columns.map((metric) => (
              <td key={metric.key}>
                <FigureValue
                  kind="results.posts"
                  cell={metric.key}
                  params={{ text, columns: columns.map((one) => one.key).join(",") }}
                  label={`${metric.name}, all of them`}
                >
                  {figure(whole.values[metric.key], metric.unit)}
                </FigureValue>
              </td>
            ))}
          </tr>
        </tfoot>
      </table>
      {by === "tag" && <p className="label mt-2">A post with two tags stands in two groups.</p>}
    </div>
  );
}
