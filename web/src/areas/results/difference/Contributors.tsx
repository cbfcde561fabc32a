import { FigureValue } from "../../../figures/FigureValue";
import { figure, formatNames, share } from "../../../lib/format";
import { networkNamed, useBrand } from "../../../study/brand";
import { useStudy } from "../../../study/study";
import { NetworkMark } from "../../../ui/Marks";
import type { Decomposition } from "../queries";
import { ContributionBar } from "./ContributionBar";
import { largest } from "./rules";

type Props = { made: Decomposition; by: "network" | "format"; rows: Decomposition["networks"] };

/** Networks or formats by what each adds to the change; choosing one studies it alone. */
export function Contributors({ made, by, rows }: Props) {
  const { networks } = useBrand();
  const { change } = useStudy();
  const most = largest(rows);
  const weigh = (value: number) => (made.weight === "share" ? share(value) : figure(value));
  return (
    <table className="mt-4 w-full">
      <caption className="text-left font-title text-[15px]">By {by}</caption>
      <thead className="label text-left">
        <tr>
          <th className="font-normal">
            <span className="sr-only">{by}</span>
          </th>
          <th className="text-right font-normal">
            {made.weight === "share" ? "Share" : made.weight === "posts" ? "Posts" : ""}
          </th>
          <th className="text-right font-normal">Now</th>
          <th className="text-right font-normal">Before</th>
          <th className="w-[190px] pl-4 font-normal">Adds to the change</th>
        </tr>
      </thead>
      <tbody>
        {rows.map((row) => {
          const network = networkNamed(networks, row.key);
          const name = by === "format" ? (formatNames[row.key] ?? row.key) : row.key ? network.name : "no network";
          return (
            <tr key={row.key} className="rowline h-7">
              <td className="pr-2">
                <span className="inline-flex items-center gap-2">
                  {by === "network" && row.key && <NetworkMark network={network} />}
                  {row.key ? (
                    <button
                      type="button"
                      className="under h-6 hover:text-berry"
                      title={`Study ${name} alone`}
                      onClick={() => change({ [by]: row.key })}
                    >
                      {name}
                    </button>
                  ) : (
                    name
                  )}
                </span>
              </td>
              <td className="text-right whitespace-nowrap text-muted">
                {made.weight && `${weigh(row.weight_now)}, was ${weigh(row.weight_before)}`}
              </td>
              <td className="w-24 text-right">{figure(row.now, made.unit)}</td>
              <td className="w-24 text-right text-against-ink">{figure(row.before, made.unit)}</td>
              <td className="pl-4">
                <FigureValue
                  kind="results.difference"
                  cell={`${by}.${row.key}`}
                  params={{ metric: made.key }}
                  label={`what ${name} adds`}
                >
                  <ContributionBar value={row.contribution} most={most} unit={made.unit} more={made.more_is_better} />
                </FigureValue>
              </td>
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}
