import { Sparkline } from "../../../charts/Sparkline";
import { absolute, figure, type Unit } from "../../../lib/format";
import { Delta } from "../../../ui/Marks";
import type { Measured } from "../queries";
import { stripName } from "../rules";

type Props = {
  metrics: Measured[];
  /** Whether any day of the period is over: before that nothing is compared. */
  isOver?: boolean;
  chosen: string;
  onChoose: (key: string) => void;
  onBasis: (key: string) => void;
};

/** Where there is no room for all digits none is cut off: 62.9k, and the whole on pointing at it. */
function brief(value: number, unit: Unit, from = 10_000): string {
  if (value < from || unit !== "count") return figure(value, unit);
  return value >= 1e6 ? `${(value / 1e6).toFixed(2)}M` : `${(value / 1e3).toFixed(value < 1e5 ? 1 : 0)}k`;
}

/** Letters of the figure and of today's beside it that a cell has room for. */
const MOST_LETTERS = 12;
const hasRoom = (value: number | null, today: number, unit: Unit) =>
  figure(value, unit).length + brief(today, unit, 1000).length <= MOST_LETTERS;

/** The strip of figures: a click chooses what the chart shows; each opens its basis. */
export function Strip({ metrics, isOver = true, chosen, onChoose, onBasis }: Props) {
  return (
    <div className="scrolls flex h-[66px] shrink-0 border-b border-rule narrow:overflow-x-auto">
      {metrics.map((m) => {
        const isOn = m.key === chosen;
        const difference = m.change.difference;
        return (
          <div
            key={m.key}
            className={`stays relative min-w-0 flex-1 border-r narrow:min-w-[172px] border-rule last:border-r-0 ${isOn ? "bg-panel shadow-[inset_0_3px_0_var(--berry)]" : ""}`}
          >
            <button
              type="button"
              aria-pressed={isOn}
              onClick={() => onChoose(m.key)}
              title={difference === null ? undefined : `${absolute(difference, m.unit)} against the comparison`}
              className="h-full w-full px-3.5 text-left hover:bg-panel"
            >
              <span
                className="block truncate pr-9 text-[12.5px] text-muted"
                title={[m.name, m.counted].filter(Boolean).join(" ")}
              >
                {stripName(m.name)}
                {m.counted && <span className="sr-only"> {m.counted}</span>}
              </span>
              <span className="flex items-baseline justify-between gap-2">
                <span className="text-[20px] leading-[22px] font-semibold">{figure(m.now.value, m.unit)}</span>
                {m.today !== null && hasRoom(m.now.value, m.today, m.unit) ? (
                  <span
                    className="whitespace-nowrap text-[11.5px] text-muted"
                    title={`${figure(m.today, m.unit)} today so far: not over, so not compared`}
                  >
                    today {brief(m.today, m.unit, 1000)}
                  </span>
                ) : null}
                {isOn && m.today === null && m.days.some((v) => v !== null) && (
                  <Sparkline values={m.days} width={54} height={16} />
                )}
              </span>
              <span className="block truncate text-[12.5px]">
                <Delta
                  change={m.change}
                  unit={m.unit}
                  more={m.more_is_better}
                  none={m.now.value === null ? "" : isOver ? "nothing collected then" : "no day is over yet"}
                />{" "}
                {m.before.value !== null && (
                  <span className="text-muted" title={figure(m.before.value, m.unit)}>
                    from {brief(m.before.value, m.unit)}
                  </span>
                )}
              </span>
            </button>
            <button
              type="button"
              onClick={() => onBasis(m.key)}
              aria-label={`Basis of ${m.name}`}
              className="absolute right-2 top-0.5 h-6 px-1 text-[11.5px] text-muted under hover:text-berry"
            >
              basis
            </button>
          </div>
        );
      })}
    </div>
  );
}
