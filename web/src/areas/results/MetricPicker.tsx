import { useState } from "react";
import { plural } from "../../lib/format";
import { useBrand } from "../../study/brand";
import { Button } from "../../ui/Button";
import { inputLook } from "../../ui/Field";
import { Sheet } from "../../ui/Sheet";
import { Failed, Loading } from "../../ui/States";
import { bySubject, found, MOST_FOUND, type OfMeasure, toldBy } from "./catalogue";
import { type Metric, useCatalogue } from "./queries";

type Props = {
  isOpen: boolean;
  onClose: () => void;
  title: string;
  chosen: string[];
  /** How many can be chosen; of one alone the next takes the place. */
  most: number;
  onChoose: (keys: string[]) => void;
  isOffered?: (metric: Metric) => boolean;
};

/** Choose metrics by what is counted and how, or by their words; in the order in which they are ticked. */
export function MetricPicker({ isOpen, onClose, title, chosen, most, onChoose, isOffered = () => true }: Props) {
  const { brand } = useBrand();
  const catalogue = useCatalogue(brand.slug);
  const [text, setText] = useState("");
  // What is taken off stays in its place while the sheet is open: a slip of the hand is put right there.
  const [off, setOff] = useState<string[]>([]);
  const offered = (catalogue.data?.metrics ?? []).filter(isOffered);
  const known = chosen.flatMap((key) => offered.find((m) => m.key === key) ?? []);
  const isFull = most > 1 && known.length >= most;
  const toggle = (metric: Metric) => {
    const keys = known.map((m) => m.key);
    if (most === 1) return onChoose([metric.key]);
    if (keys.includes(metric.key)) setOff([...off, metric.key]);
    onChoose(keys.includes(metric.key) ? keys.filter((key) => key !== metric.key) : [...keys, metric.key]);
  };
  const ticks = (metrics: Metric[], isBrief = false) =>
    metrics.map((m) => (
      <Tick
        key={m.key}
        metric={m}
        isBrief={isBrief}
        isOn={known.includes(m)}
        isOnly={most === 1}
        isDisabled={isFull && !known.includes(m)}
        onToggle={() => toggle(m)}
      />
    ));
  const hits = text.trim() ? found(offered, text) : [];
  const own = offered.filter((m) => m.is_team);
  return (
    <Sheet isOpen={isOpen} onClose={onClose} title={title}>
      {catalogue.error ? (
        <Failed error={catalogue.error} onRetry={() => catalogue.refetch()} />
      ) : !catalogue.data ? (
        <Loading />
      ) : (
        <>
          <input
            type="search"
            value={text}
            onChange={(e) => setText(e.target.value)}
            placeholder="Find a metric"
            aria-label="Find a metric"
            className={inputLook}
          />
          <p className="label my-2">
            {most === 1
              ? `${plural(offered.length, "metric")} to judge by.`
              : `${known.length} of at most ${most} shown${isFull ? "; take one off to add another" : ""}. Kept for you alone.`}
          </p>
          {text.trim() ? (
            <ul className="flex-1 overflow-y-auto" aria-label="Metrics">
              {ticks(hits.slice(0, MOST_FOUND))}
              {hits.length === 0 && <li className="label py-2">No metric has these words.</li>}
              {hits.length > MOST_FOUND && (
                <li className="label py-2">{hits.length - MOST_FOUND} more; write more of what it is called.</li>
              )}
            </ul>
          ) : (
            <ul className="flex-1 overflow-y-auto" aria-label="Metrics">
              {most > 1 && (
                <Heading
                  name="Shown now"
                  list={ticks([...known, ...offered.filter((m) => off.includes(m.key) && !known.includes(m))], true)}
                />
              )}
              {own.length > 0 && <Heading name="The team's own" list={ticks(own.filter((m) => !known.includes(m)))} />}
              {bySubject(catalogue.data, offered).map(({ name, measures }) => (
                <Heading
                  key={name}
                  name={name}
                  list={measures.map((measure) => (
                    <Measure key={measure.key} measure={measure} chosen={known} ticks={ticks} />
                  ))}
                />
              ))}
            </ul>
          )}
          <div className="mt-3 flex justify-end">
            <Button kind="main" onClick={onClose}>
              Done
            </Button>
          </div>
        </>
      )}
    </Sheet>
  );
}

function Heading({ name, list }: { name: string; list: React.ReactNode[] }) {
  if (list.length === 0) return null;
  return (
    <li>
      <h3 className="mt-3 text-[15px] leading-6">{name}</h3>
      <ul aria-label={name}>{list}</ul>
    </li>
  );
}

/** One thing that is counted; opened, the ways of counting it. */
function Measure({
  measure,
  chosen,
  ticks,
}: {
  measure: OfMeasure;
  chosen: Metric[];
  ticks: (metrics: Metric[]) => React.ReactNode[];
}) {
  const [isOpen, setOpen] = useState(false);
  const count = measure.metrics.filter((m) => chosen.includes(m)).length;
  return (
    <li className="rowline">
      <button
        type="button"
        aria-expanded={isOpen}
        onClick={() => setOpen(!isOpen)}
        className="flex w-full items-baseline justify-between gap-3 py-1.5 text-left hover:text-berry"
      >
        <span className={count ? "font-semibold" : ""}>{measure.name}</span>
        <span className="label shrink-0">
          {count ? `${count} of ` : ""}
          {plural(measure.metrics.length, "way")}
        </span>
      </button>
      {isOpen && (
        <ul aria-label={`Ways of counting ${measure.name}`} className="mb-1 border-l border-rule-strong pl-3">
          {ticks(measure.metrics)}
        </ul>
      )}
    </li>
  );
}

function Tick({
  metric: m,
  isBrief,
  isOn,
  isOnly,
  isDisabled,
  onToggle,
}: {
  metric: Metric;
  isBrief: boolean;
  isOn: boolean;
  isOnly: boolean;
  isDisabled: boolean;
  onToggle: () => void;
}) {
  const { networks } = useBrand();
  return (
    <li>
      <label title={isBrief ? m.definition : undefined} className="flex cursor-pointer items-start gap-2.5 py-1">
        <input
          type={isOnly ? "radio" : "checkbox"}
          checked={isOn}
          disabled={isDisabled}
          onChange={onToggle}
          className="mt-1 h-4 w-4 shrink-0 accent-(--berry)"
        />
        <span>
          <span className="font-semibold">{m.name}</span>
          {m.is_team && <span className="label"> · the team's own</span>}
          {!isBrief && (
            <span className="label block">
              {m.definition} <span className="italic">{toldBy(m, networks)}.</span>
            </span>
          )}
        </span>
      </label>
    </li>
  );
}
