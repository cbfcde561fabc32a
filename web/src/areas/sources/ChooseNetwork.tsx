import { useBrand } from "../../study/brand";
import { NetworkMark } from "../../ui/Marks";
import { Empty } from "../../ui/States";
import { DIMENSION_NAMES } from "./rules";

/** The networks that can be connected, each with what it gives for one's own profiles. */
export function ChooseNetwork({ isBusy, onChoose }: { isBusy: boolean; onChoose: (network: string) => void }) {
  const { networks } = useBrand();
  const open = networks.filter((n) => n.is_connectable);
  if (open.length === 0)
    return (
      <Empty title="No network can be connected here yet">
        Bring in a file that a network gave you, follow a public profile or a feed, or let whoever runs this
        installation add a connector (docs/connectors.md).
      </Empty>
    );
  return (
    <>
      <p className="mb-2 text-muted">
        You are led to the network's own page, where whoever runs the profile says yes. Passwords are never given here.
      </p>
      <ul>
        {open.map((n) => {
          const gives = [
            n.offer.has_presence && "when the audience is online",
            n.offer.audience.length > 0 &&
              `who it is (${n.offer.audience.map((d) => (DIMENSION_NAMES[d] ?? d).toLowerCase()).join(", ")})`,
            n.offer.has_comments && "comments",
            n.offer.has_publishing && "publishing",
          ].filter(Boolean);
          return (
            <li key={n.key} className="rowline">
              <button
                type="button"
                disabled={isBusy}
                onClick={() => onChoose(n.key)}
                aria-label={`Connect on ${n.name}`}
                className="flex w-full items-start gap-3 px-1 py-2 text-left hover:bg-wash disabled:opacity-50"
              >
                <span className="pt-0.5">
                  <NetworkMark network={n} />
                </span>
                <span>
                  <span className="font-semibold">{n.name}</span> <span className="text-muted">{n.kind}</span>
                  <span className="label block">Posts with their figures; {gives.join("; ")}</span>
                </span>
              </button>
            </li>
          );
        })}
      </ul>
    </>
  );
}
