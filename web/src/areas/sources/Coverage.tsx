import { addDays, shortDay } from "../../lib/days";
import { coverageText, spans } from "./rules";

const LOOK: Record<string, { fill: string; word: string }> = {
  c: { fill: "var(--q4)", word: "complete" },
  p: { fill: "url(#partial-day)", word: "partial" },
  m: { fill: "url(#missing-day)", word: "missing" },
  b: { fill: "none", word: "before it was known" },
};

/** Days as a strip: complete days filled, partial ones half, missing ones hatched, those before it was known empty. */
export function Coverage({ first, days, width = 270 }: { first: string; days: string; width?: number }) {
  const step = width / Math.max(1, days.length);
  return (
    <svg width={width} height="16" role="img" aria-label={`Last ${days.length} days: ${coverageText(days)}`}>
      <CoveragePatterns />
      <rect x="0.5" y="1.5" width={width - 1} height="13" fill="none" stroke="var(--rule)" />
      {spans(days).map(([state, from, length]) => (
        <rect
          key={from}
          x={from * step}
          y={1}
          width={Math.max(1, length * step - (step > 4 ? 0.6 : 0))}
          height={14}
          fill={LOOK[state]?.fill ?? "none"}
          stroke={state === "m" ? "var(--down)" : "none"}
          strokeWidth="0.8"
        >
          <title>
            {`${shortDay(addDays(first, from))}${length > 1 ? ` to ${shortDay(addDays(first, from + length - 1))}` : ""}: ${LOOK[state]?.word}`}
          </title>
        </rect>
      ))}
    </svg>
  );
}

function CoveragePatterns() {
  return (
    <defs>
      <pattern id="missing-day" width="5" height="5" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
        <rect width="5" height="5" fill="var(--panel)" />
        <rect width="2" height="5" fill="var(--down)" />
      </pattern>
      <pattern id="partial-day" width="6" height="14" patternUnits="userSpaceOnUse">
        <rect width="6" height="7" fill="var(--panel)" />
        <rect y="7" width="6" height="7" fill="var(--q3)" />
      </pattern>
    </defs>
  );
}

/** What the strip's marks mean, said once. */
export function CoverageKey() {
  return (
    <p className="label flex flex-wrap items-center gap-x-4 gap-y-1">
      {["c", "p", "m"].map((state) => (
        <span key={state} className="inline-flex items-center gap-1.5">
          <svg width="22" height="14" aria-hidden="true">
            <CoveragePatterns />
            <rect
              x="0.5"
              y="0.5"
              width="21"
              height="13"
              fill={LOOK[state]?.fill}
              stroke={state === "m" ? "var(--down)" : "var(--rule)"}
            />
          </svg>
          {LOOK[state]?.word}
        </span>
      ))}
      <span>empty: before it was known</span>
    </p>
  );
}
