import { Link } from "react-router";
import { dayOf, moment, shortDay } from "../../../lib/days";
import { figure } from "../../../lib/format";
import { networkNamed, useBrand } from "../../../study/brand";
import { Button } from "../../../ui/Button";
import { NetworkMark } from "../../../ui/Marks";
import { useToast } from "../../../ui/Toast";
import { type Boost, useBoostActs } from "./queries";
import { costWords, isOpen, money, STATES, spentPart } from "./rules";

const HEADS = ["Spent of its budget", "Shown, paid and by itself", "Clicks", "A click cost", "Conversions", "One cost"];

/** Boosts, each with what it spent and brought beside what its post got by itself, and costs with their intervals. */
export function BoostTable({ boosts, marked }: { boosts: readonly Boost[]; marked?: number }) {
  return (
    <div className="scrolls overflow-x-auto">
      <table className="w-full min-w-[980px] table-fixed">
        <caption className="label text-left">
          Clicks are people’s on the boost’s own link. Costs with the interval that chance leaves, 95 %.
        </caption>
        <thead className="label">
          <tr className="rowline">
            <th className="w-[26%] text-left font-normal">Post</th>
            {HEADS.map((name, i) => (
              <th key={name} className={`px-2 font-normal ${i === 0 ? "w-[150px] text-left" : "text-right"}`}>
                {name}
              </th>
            ))}
            <th className="w-[92px]">
              <span className="sr-only">Stop it</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {boosts.map((boost) => (
            <Row key={boost.id} boost={boost} isMarked={boost.id === marked} />
          ))}
        </tbody>
      </table>
    </div>
  );
}

function Row({ boost, isMarked }: { boost: Boost; isMarked: boolean }) {
  const { brand, networks, can } = useBrand();
  const say = useToast();
  const { stop } = useBoostActs(brand.slug);
  const { currency } = boost;
  const zone = brand.time_zone;
  const whom = [...boost.countries, ...boost.ages].join(", ");
  return (
    <tr className={`rowline align-top ${isMarked ? "bg-wash" : ""}`}>
      <td className="py-1.5 pr-2">
        <span className="flex min-w-0 items-baseline gap-2">
          <NetworkMark network={networkNamed(networks, boost.network)} />
          {boost.post === null ? (
            <span className="text-muted">Its post is not here any more</span>
          ) : (
            <Link
              to={`/${brand.slug}/results/posts/${boost.post}`}
              className="under min-w-0 truncate hover:text-berry"
              title={boost.text}
            >
              {boost.text || "A post without words"}
            </Link>
          )}
        </span>
        <span className="label block">
          {shortDay(dayOf(boost.starts_at, zone))} to {shortDay(dayOf(boost.ends_at, zone))}
          {whom && `, ${whom}`}
          {boost.campaign && `, ${boost.campaign}`}
        </span>
        {boost.error && <span className="block text-down">{boost.error}</span>}
      </td>
      <td className="px-2 py-1.5">
        <span className="block">
          <strong className="font-semibold">{money(boost.spent, currency)}</strong> of{" "}
          {figure(boost.cents / 100, "money")}
        </span>
        <span className="mt-0.5 block h-[5px] border border-rule-strong" aria-hidden="true">
          <span
            className={`block h-full ${boost.spent > boost.cents ? "bg-down" : "bg-(--tag-2)"}`}
            style={{ width: `${spentPart(boost) * 100}%` }}
          />
        </span>
        <span className="label block">
          {STATES[boost.state]}
          {boost.seen_at && isOpen(boost) && `, as of ${moment(boost.seen_at, zone)}`}
        </span>
      </td>
      <td className="px-2 py-1.5 text-right">
        <span className="block font-semibold">{figure(boost.impressions)}</span>
        <span className="label block">{figure(boost.organic?.impressions)} by itself</span>
        <span className="label block">{money(boost.per_thousand, currency)} a thousand</span>
      </td>
      <td className="px-2 py-1.5 text-right">
        <span className="block">{figure(boost.clicks)}</span>
        <span className="label block">{figure(boost.link_clicks)} by the network</span>
      </td>
      <Cost cents={boost.per_click} interval={boost.per_click_interval} currency={currency} />
      <td className="px-2 py-1.5 text-right">
        <span className="block">{figure(boost.conversions)}</span>
        {boost.value !== null && boost.value > 0 && <span className="label block">{money(boost.value, currency)}</span>}
      </td>
      <Cost cents={boost.per_conversion} interval={boost.per_conversion_interval} currency={currency} />
      <td className="py-1.5 text-right">
        {isOpen(boost) && boost.state !== "stopping" && can("plan.boost") && (
          <Button
            isBusy={stop.isPending}
            onClick={() =>
              stop.mutate(boost.id, {
                onSuccess: () => say("Its network is told to stop. What is spent is spent."),
                onError: (error) => say(error.message, "wrong"),
              })
            }
          >
            Stop it
          </Button>
        )}
      </td>
    </tr>
  );
}

type CostProps = { cents: number | null; interval?: { low: number; high: number } | null; currency: string };

function Cost({ cents, interval, currency }: CostProps) {
  const [value, within] = costWords(cents, interval, currency).split(/, (.*)/);
  return (
    <td className="px-2 py-1.5 text-right">
      <span className="block font-semibold">{value}</span>
      {within && <span className="label block whitespace-nowrap">{within}</span>}
    </td>
  );
}
