import { useState } from "react";
import { useBrand } from "../../study/brand";
import { Button } from "../../ui/Button";
import { inputLook } from "../../ui/Field";
import { Sheet } from "../../ui/Sheet";
import { Failed, Loading } from "../../ui/States";
import { type Metric, useCatalogue } from "./queries";
import { matches } from "./rules";

type Props = {
  isOpen: boolean;
  onClose: () => void;
  title: string;
  chosen: string[];
  most: number;
  onChoose: (keys: string[]) => void;
  isOffered?: (metric: Metric) => boolean;
};

/** Choose which metrics a view shows, and in which order: as they are ticked. Kept for the person. */
export function MetricPicker({ isOpen, onClose, title, chosen, most, onChoose, isOffered = () => true }: Props) {
  const { brand } = useBrand();
  const catalogue = useCatalogue(brand.slug);
  const [text, setText] = useState("");
  const offered = (catalogue.data?.metrics ?? []).filter(isOffered);
  const known = chosen.filter((key) => offered.some((m) => m.key === key));
  const isFull = known.length >= most;
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
            {known.length} of at most {most} shown{isFull ? "; take one off to add another" : ""}. Kept for you alone.
          </p>
          <ul className="flex-1 overflow-y-auto" aria-label="Metrics">
            {offered
              .filter((m) => matches(m, text))
              .map((m) => {
                const isOn = known.includes(m.key);
                return (
                  <li key={m.key} className="rowline">
                    <label className="flex cursor-pointer items-start gap-2.5 py-1.5">
                      <input
                        type="checkbox"
                        checked={isOn}
                        disabled={!isOn && isFull}
                        onChange={() => onChoose(isOn ? known.filter((k) => k !== m.key) : [...known, m.key])}
                        className="mt-1 h-4 w-4 shrink-0 accent-(--berry)"
                      />
                      <span>
                        <span className="font-semibold">{m.name}</span>
                        {m.is_team && <span className="label"> · the team's own</span>}
                        <span className="label block">{m.definition}</span>
                      </span>
                    </label>
                  </li>
                );
              })}
          </ul>
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
