import { useState } from "react";
import { FigureValue } from "../../figures/FigureValue";
import type { Of } from "../../figures/queries";
import { figure } from "../../lib/format";
import { networkNamed, useBrand } from "../../study/brand";
import { languageName } from "../../study/study";
import { Choice } from "../../ui/Choice";
import type { Figures } from "./queries";
import { DIMENSIONS, type Dimension, REASONS } from "./rules";

const countries = new Intl.DisplayNames(["en-GB"], { type: "region" });
const DEVICES: Record<string, string> = { phone: "phone", tablet: "tablet", computer: "computer", other: "other" };

type Props = {
  figures: Figures;
  dimensions?: readonly Dimension[];
  /** Which links, as the figure is asked for. */
  params?: Of["params"];
  onChoose?: (by: Dimension, name: string, id: number | null) => void;
};

/** How the period's clicks spread over one thing at a time; a row that can be looked at alone is a button. */
export function Spread({ figures, dimensions, params, onChoose }: Props) {
  const { networks } = useBrand();
  const known = DIMENSIONS.filter((d) => !dimensions || dimensions.includes(d.key));
  const [by, setBy] = useState<Dimension>(known[0]?.key ?? "referrer");
  const rows = figures.spreads[by];
  const max = Math.max(1, ...rows.map((r) => Math.max(r.count, r.before)));
  const nameOf = (name: string) => {
    if (by === "reason") return REASONS[name] ?? name;
    if (name === "") return by === "referrer" ? "no referrer given" : by === "campaign" ? "no campaign" : "not known";
    if (by === "network") return networkNamed(networks, name).name;
    if (by === "country") return countries.of(name) ?? name;
    if (by === "language") return languageName(name);
    return by === "device" ? (DEVICES[name] ?? name) : by === "destination" ? name.replace(/^https?:\/\//, "") : name;
  };
  const canChoose = onChoose && (by === "network" || by === "campaign");
  return (
    <section aria-label="Clicks by what they came from">
      <h2 className="text-[16px]">
        Clicks by{" "}
        <Choice
          label="Spread over"
          value={by}
          options={known.map((d) => ({ value: d.key, label: d.name }))}
          onChoose={(value) => setBy(value as Dimension)}
        >
          {known.find((d) => d.key === by)?.name}
        </Choice>
      </h2>
      {rows.length === 0 && <p className="label">none in these days</p>}
      <ul>
        {rows.map((row) => (
          <li key={`${row.name} ${row.id}`} className="rowline grid h-7 grid-cols-[1fr_64px_90px] items-center gap-2">
            {canChoose && (row.name || row.id) ? (
              <button
                type="button"
                className="h-6 truncate text-left hover:text-berry"
                title={`Only ${nameOf(row.name)}`}
                onClick={() => onChoose(by, row.name, row.id)}
              >
                {nameOf(row.name)}
              </button>
            ) : (
              <span className="truncate" title={nameOf(row.name)}>
                {nameOf(row.name)}
              </span>
            )}
            <FigureValue
              kind="links.spread"
              cell={`${by === "campaign" ? (row.id ?? "") : row.name}.clicks`}
              params={{ ...params, dimension: by }}
              label={`clicks, ${nameOf(row.name)}`}
              className="text-right font-semibold"
            >
              {figure(row.count)}
            </FigureValue>
            <svg width="90" height="12" role="img" aria-label={`before ${figure(row.before)}`}>
              <rect
                y="1"
                width={(90 * row.count) / max}
                height="6"
                fill={by === "reason" ? "var(--tick)" : "var(--berry)"}
              />
              <rect y="8" width={(90 * row.before) / max} height="3" fill="var(--against)" />
            </svg>
          </li>
        ))}
      </ul>
      {rows.length > 0 && <p className="label mt-1">Below each bar, thin: the days compared with.</p>}
    </section>
  );
}
