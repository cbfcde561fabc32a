import type { ReactNode } from "react";
import type { Schemas } from "../api/client";
import { delta, type Unit } from "../lib/format";

export type Shape = Schemas["ShapeEnum"];
const SHAPES: Record<Shape, string> = {
  circle: "rounded-full",
  slant: "rounded-[2px] -skew-x-6",
  square: "",
  soft: "rounded-[5px]",
  corner: "rounded-tr-[9px]",
  arch: "rounded-t-full",
  bowl: "rounded-b-full",
  left: "rounded-l-full",
  right: "rounded-r-full",
  dashed: "border-dashed",
};

type Marked = { name: string; monogram: string; shape: Shape };

/** A network's two letters in the shape that its definition gives it; the name is said beside it or aloud. */
export function NetworkMark({ network }: { network: Marked }) {
  return (
    <span
      role="img"
      aria-label={network.name}
      title={network.name}
      className={`inline-flex h-[17px] w-[21px] shrink-0 items-center justify-center border border-rule-strong text-[10.5px] font-semibold text-muted ${SHAPES[network.shape]}`}
    >
      {network.monogram || network.name.slice(0, 2)}
    </span>
  );
}

/** A change in words and sign, with an arrow drawn, not typed. */
export function Delta({
  change,
  unit,
  more = true,
  none,
}: {
  /** What is said where nothing can be compared. */
  none?: string;
  change: { difference: number | null; relative: number | null };
  unit: Unit;
  more?: boolean;
}) {
  const value = change.difference ?? 0;
  const tone = value === 0 ? "text-muted" : value > 0 === more ? "text-up" : "text-down";
  return (
    <span className={`inline-flex items-center gap-1 font-semibold ${tone}`}>
      {value !== 0 && (
        <svg width="8" height="8" viewBox="0 0 8 8" aria-hidden="true">
          <path d={value > 0 ? "M1 6.5 4 1.5 7 6.5z" : "M1 1.5 4 6.5 7 1.5z"} fill="currentColor" />
        </svg>
      )}
      {change.difference === null && none !== undefined ? none : delta(change, unit)}
    </span>
  );
}

const TONE = { good: "text-up", wrong: "text-down", busy: "text-berry", quiet: "text-muted" };

/** A state in a word, with a mark whose shape differs too. */
export function StateWord({ tone, children }: { tone: keyof typeof TONE; children: ReactNode }) {
  const mark = { good: "M1 4.5 3.2 7 7 1.5", wrong: "M1.5 1.5l5 5m0-5-5 5", busy: "M4 1v3l2 1.5", quiet: "M1.5 4h5" }[
    tone
  ];
  return (
    <span className={`inline-flex items-center gap-1 ${TONE[tone]}`}>
      <svg width="8" height="8" viewBox="0 0 8 8" aria-hidden="true">
        <path d={mark} stroke="currentColor" strokeWidth="1.5" fill="none" />
      </svg>
      {children}
    </span>
  );
}

/** A length in a cell: the value beside it says how much. */
export function CellBar({ value, max, isOurs = true }: { value: number | null; max: number; isOurs?: boolean }) {
  const share = value === null || max <= 0 ? 0 : Math.max(0, Math.min(1, value / max));
  return (
    <svg width="64" height="9" aria-hidden="true" className="inline-block align-middle">
      <rect x="0" y="0" width={64 * share} height="9" fill={isOurs ? "var(--berry)" : "var(--tick)"} />
    </svg>
  );
}
