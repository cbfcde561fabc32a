import { figure } from "../../../lib/format";
import { useNetwork } from "../../../study/brand";
import { Delta, NetworkMark } from "../../../ui/Marks";
import type { Measured } from "../queries";
import { addsUp, shares } from "../rules";

/** A metric network by network, each with its change and, where parts make a whole, its share. */
export function ByNetwork({ metric }: { metric: Measured }) {
  if (metric.networks.length === 0) return null;
  const parts = shares(metric.networks);
  return (
    <div className="mt-3">
      <h3 className="text-[15px]">{metric.name} by network</h3>
      <table className="mt-1 w-full">
        <thead className="sr-only">
          <tr>
            <th>Network</th>
            <th>Value</th>
            <th>Change</th>
            <th>Share</th>
          </tr>
        </thead>
        <tbody>
          {metric.networks.map((part, i) => (
            <NetworkRow
              key={part.network}
              metric={metric}
              part={part}
              share={addsUp(metric) ? (parts[i] ?? null) : null}
            />
          ))}
        </tbody>
      </table>
    </div>
  );
}

type Part = Measured["networks"][number];

function NetworkRow({ metric, part, share }: { metric: Measured; part: Part; share: number | null }) {
  const known = useNetwork(part.network);
  const { value, before } = part;
  const difference = value === null || before === null ? null : value - before;
  // A percentage of a percentage says nothing: what changes by is told in points.
  const isRelative = difference !== null && Boolean(before) && metric.unit !== "change";
  return (
    <tr className="rowline h-7">
      <td className="w-40">
        <span className="inline-flex items-center gap-2">
          <NetworkMark network={known} />
          {known.name}
        </span>
      </td>
      <td className="w-28 text-right font-semibold">
        {value === null ? <span className="font-normal text-muted">not reported</span> : figure(value, metric.unit)}
      </td>
      <td className="w-32 pl-4">
        {value !== null && (
          <Delta
            change={{ difference, relative: isRelative ? (difference ?? 0) / Math.abs(before ?? 1) : null }}
            unit={metric.unit}
            more={metric.more_is_better}
          />
        )}
      </td>
      <td>
        {share !== null && (
          <svg width="100%" height="10" aria-hidden="true">
            <rect width={`${share * 100}%`} height="10" fill="var(--berry)" />
          </svg>
        )}
      </td>
    </tr>
  );
}
