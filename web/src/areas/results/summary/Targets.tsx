import { shortDay } from "../../../lib/days";
import { figure, plural, type Unit } from "../../../lib/format";
import { useBrand } from "../../../study/brand";
import { StateWord } from "../../../ui/Marks";
import { useToast } from "../../../ui/Toast";
import { type Target, useDropTarget, useTargets } from "../queries";

const BAR = 96;

/** What is aimed at, and how far it has come: nothing where nothing is. */
export function Targets() {
  const { brand } = useBrand();
  const targets = useTargets(brand.slug).data ?? [];
  if (targets.length === 0) return null;
  return (
    <section className="mb-4" aria-labelledby="targets-title">
      <h2 id="targets-title" className="text-[18px] leading-6">
        {targets.length === 1 ? "What we aim at" : `${plural(targets.length, "target")}`}
      </h2>
      <p className="label">Of the last 28 whole days; the mark on the bar is how much of the time has gone.</p>
      <ul>
        {targets.map((target) => (
          <TargetRow key={target.id} target={target} />
        ))}
      </ul>
    </section>
  );
}

function TargetRow({ target }: { target: Target }) {
  const { brand, can } = useBrand();
  const drop = useDropTarget(brand.slug);
  const say = useToast();
  const unit = target.unit as Unit;
  const way = Math.max(0, Math.min(1, target.way ?? 0));
  return (
    <li className="rowline flex flex-wrap items-center gap-x-3 py-1" title={target.why || undefined}>
      <span className="min-w-[220px] flex-1 truncate">
        {target.name} <span className="font-semibold">{figure(target.now.value, unit)}</span>{" "}
        <span className="text-muted">
          of {figure(target.value, unit)} by {shortDay(target.by)}
        </span>
      </span>
      <svg
        width={BAR}
        height="12"
        role="img"
        aria-label={
          target.way === null
            ? "not known how far it has come"
            : `${Math.round(100 * target.way)} % of the way, ${Math.round(100 * target.time)} % of the time`
        }
      >
        <rect y="2" width={BAR} height="8" fill="var(--rule)" />
        <rect y="2" width={BAR * way} height="8" fill="var(--berry)" />
        <path d={`M${1 + (BAR - 2) * target.time} 0v12`} stroke="var(--ink)" strokeWidth="1.5" />
      </svg>
      <span className="w-[92px]">
        {target.is_reached ? (
          <StateWord tone="good">reached</StateWord>
        ) : target.days_left < 0 ? (
          <StateWord tone="wrong">not reached</StateWord>
        ) : (
          <span className="label">{plural(target.days_left, "day")} left</span>
        )}
      </span>
      {can("results.targets") && (
        <button
          type="button"
          className="label under h-6 hover:text-berry"
          aria-label={`Drop the target for ${target.name}`}
          onClick={() => drop.mutate(target.id, { onError: (error) => say(error.message, "wrong") })}
        >
          drop
        </button>
      )}
    </li>
  );
}
