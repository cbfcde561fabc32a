import type { ReactNode } from "react";

type Props = {
  name: string;
  sort: string;
  onSort: (sort: string) => void;
  children: ReactNode;
  align?: "left" | "right";
  first?: "up" | "down";
  /** What stands at its edge: within the head, as a table's row holds nothing but heads and cells. */
  edge?: ReactNode;
};

/** A column's head that sorts: first click the useful way round, second the other. */
export function SortHead({ name, sort, onSort, children, align = "right", first = "down", edge }: Props) {
  const isOn = sort.replace(/^-/, "") === name;
  const isDown = sort.startsWith("-");
  const next = isOn ? (isDown ? name : `-${name}`) : first === "down" ? `-${name}` : name;
  const arrow = isOn && (
    <svg width="9" height="9" viewBox="0 0 8 8" aria-hidden="true" className="mx-1 inline">
      <path d={isDown ? "M1 2 4 6.5 7 2z" : "M1 6 4 1.5 7 6z"} fill="currentColor" />
    </svg>
  );
  return (
    <div
      role="columnheader"
      aria-sort={isOn ? (isDown ? "descending" : "ascending") : "none"}
      className={`${align === "right" ? "text-right" : "text-left"} ${edge ? "relative min-w-0" : ""}`}
    >
      <button
        type="button"
        onClick={() => onSort(next)}
        className={`h-7 whitespace-nowrap hover:text-berry ${isOn ? "font-semibold text-ink" : "text-muted"}`}
      >
        {align === "right" && arrow}
        {children}
        {align === "left" && arrow}
      </button>
      {edge}
    </div>
  );
}
