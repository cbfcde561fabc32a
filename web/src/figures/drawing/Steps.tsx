import { wrapped } from "../../charts/save";
import { valueScale } from "../../charts/ticks";
import type { DrawingProps } from "./FigureDrawing";
import { nameOf, stepsOf } from "./set";

const [LEFT, RIGHT, TOP, LABEL] = [52, 8, 18, 34];
const MOST = 12;

/** What adds up to a change, each part beginning where the one before ended, and the whole at the end. */
export function Steps({ set, numbers, width, height, shown }: DrawingProps) {
  const found = stepsOf(set);
  if (!found) return null;
  const { whole } = found;
  const steps = found.steps.slice(0, MOST);
  let at = 0;
  const bars = steps.map((cell) => {
    const from = at;
    at += cell.now.value ?? 0;
    return { cell, from, to: at };
  });
  const rest = (whole.now.value ?? 0) - at;
  const all = [...bars, { cell: whole, from: 0, to: whole.now.value ?? 0 }];
  const [wide, tall] = [Math.max(40, width - LEFT - RIGHT), Math.max(30, height - TOP - LABEL)];
  const y = valueScale([0, ...all.flatMap((bar) => [bar.from, bar.to])], tall);
  const Y = (value: number) => TOP + y(value);
  const each = wide / all.length;
  return (
    <div className="relative" style={{ width, height }}>
      <svg
        role="img"
        aria-label={`${set.title}: ${all.map((bar) => `${nameOf(bar.cell)} ${numbers.figure(bar.cell.now.value, bar.cell.unit)}`).join("; ")}`}
        width={width}
        height={height}
      >
        {y.ticks(tall > 120 ? 4 : 2).map((tick) => (
          <g key={tick}>
            <path d={`M${LEFT} ${Y(tick)}H${LEFT + wide}`} stroke="var(--sheet-rule)" />
            <text x={LEFT - 6} y={Y(tick) + 4} textAnchor="end" fontSize="11" fill="var(--sheet-muted)">
              {numbers.short(tick, whole.unit)}
            </text>
          </g>
        ))}
        <path d={`M${LEFT} ${Y(0)}H${LEFT + wide}`} stroke="var(--sheet-muted)" />
        {all.map((bar, i) => {
          const isWhole = bar.cell === whole;
          const x = LEFT + i * each + each * 0.16;
          const w = each * 0.68;
          const size = Math.max(1, Math.abs(Y(bar.to) - Y(bar.from)));
          const falls = bar.to < bar.from;
          return (
            <g key={bar.cell.key}>
              {i > 0 && !isWhole && (
                <path d={`M${x - each * 0.32} ${Y(bar.from)}H${x}`} stroke="var(--sheet-muted)" strokeDasharray="2 2" />
              )}
              {/* A part that takes away is hatched by its outline alone, so that its way does not hang on colour. */}
              <rect
                x={x}
                y={Math.min(Y(bar.to), Y(bar.from))}
                width={w}
                height={size}
                fill={isWhole ? "var(--sheet-ink)" : falls ? "none" : "var(--sheet-accent)"}
                stroke={falls && !isWhole ? "var(--sheet-accent)" : "none"}
                strokeWidth="1.6"
              />
              <text textAnchor="middle" fontSize="11" fill={isWhole ? "var(--sheet-ink)" : "var(--sheet-muted)"}>
                {fitted(nameOf(bar.cell), each).map((line, at) => (
                  <tspan key={line} x={x + w / 2} y={TOP + tall + 14 + at * 12}>
                    {line}
                  </tspan>
                ))}
              </text>
            </g>
          );
        })}
      </svg>
      {all.map((bar, i) => (
        <span
          key={bar.cell.key}
          className="absolute text-center text-[12px] font-semibold"
          style={{ left: LEFT + i * each, width: each, top: Math.max(0, Math.min(Y(bar.to), Y(bar.from)) - 18) }}
        >
          {shown(bar.cell, signed(numbers.figure(bar.cell.now.value, bar.cell.unit), bar.cell.now.value))}
        </span>
      ))}
      {Math.abs(rest) > 1e-9 * Math.abs(whole.now.value ?? 1) && found.steps.length > MOST && (
        <span className="absolute right-2 bottom-0 text-[11px]" style={{ color: "var(--sheet-muted)" }}>
          {MOST}/{found.steps.length}
        </span>
      )}
    </div>
  );
}

const signed = (text: string, value: number | null) => ((value ?? 0) > 0 ? `+${text}` : text);
/** A name in two lines at most, cut to what has room under its bar. */
const fitted = (name: string, width: number) => {
  const most = Math.max(4, Math.floor((width - 4) / 5.6));
  const [first = "", ...rest] = wrapped(name, most);
  return [first, rest.join(" ")]
    .filter(Boolean)
    .map((line) => (line.length > most ? `${line.slice(0, most - 1).trimEnd()}…` : line));
};
