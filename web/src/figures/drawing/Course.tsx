import { labelEvery, linePath, valueScale } from "../../charts/ticks";
import type { DrawingProps } from "./FigureDrawing";
import { pairsOf } from "./set";

const [LEFT, RIGHT, TOP, BOTTOM] = [46, 10, 8, 22];
/** Each course by its dash as well as its colour; the comparison is a thin dotted line. */
const DASHES = ["", "7 3", "2 3", "10 3 2 3"];
const MOST = 4;

/** Courses over the same places (days, weeks, hours); those of one unit share the scale, others are left to tables. */
export function Course({ set, numbers, words, width, height }: DrawingProps) {
  const pairs = pairsOf(set);
  const unit = pairs[0]?.now.unit ?? "count";
  const drawn = pairs.filter((pair) => pair.now.unit === unit).slice(0, MOST);
  const places = drawn[0]?.now.places ?? [];
  const hasKey = drawn.length > 1 || drawn[0]?.before !== undefined;
  const keys = hasKey ? 20 : 0;
  const [wide, tall] = [Math.max(40, width - LEFT - RIGHT), Math.max(40, height - TOP - BOTTOM - keys)];
  const all = drawn.flatMap((pair) => [...pair.now.values, ...(pair.before?.values ?? [])]);
  const known = all.filter((value): value is number => value !== null);
  // From zero, but for what moves little at a height (followers, an index): a line tells of moving, not of size.
  const y = valueScale(all, tall, Math.min(...known) < 0.6 * Math.max(...known));
  const x = (i: number) => LEFT + (places.length > 1 ? (i * wide) / (places.length - 1) : wide / 2);
  const Y = (value: number) => TOP + y(value);
  const every = labelEvery(places.length, wide, 74);
  return (
    <div className="flex h-full flex-col">
      {hasKey && (
        <ul className="flex h-5 flex-wrap gap-x-4 overflow-hidden text-[12px]">
          {drawn.map((pair, i) => (
            <li key={pair.now.key} className="flex items-center gap-1.5">
              <Dash i={i} />
              {pair.now.name}
            </li>
          ))}
          {drawn.some((pair) => pair.before) && (
            <li className="flex items-center gap-1.5" style={{ color: "var(--sheet-muted)" }}>
              <svg width="22" height="6" aria-hidden="true">
                <path d="M0 3H22" stroke="currentColor" strokeWidth="1.3" strokeDasharray="1.5 3" />
              </svg>
              {words.before}
            </li>
          )}
        </ul>
      )}
      <svg
        role="img"
        aria-label={`${set.title}: ${drawn.map((pair) => said(pair.now, numbers)).join("; ")}`}
        width={width}
        height={height - keys}
      >
        {y.ticks(tall > 120 ? 4 : 2).map((tick) => (
          <g key={tick}>
            <path d={`M${LEFT} ${Y(tick)}H${LEFT + wide}`} stroke="var(--sheet-rule)" />
            <text x={LEFT - 6} y={Y(tick) + 4} textAnchor="end" fontSize="11" fill="var(--sheet-muted)">
              {numbers.short(tick, unit)}
            </text>
          </g>
        ))}
        {places.map((place, i) =>
          i % every === 0 ? (
            <text
              key={place}
              x={x(i)}
              y={TOP + tall + 16}
              textAnchor={i === 0 ? "start" : i + every > places.length - 1 && i > places.length - 2 ? "end" : "middle"}
              fontSize="11"
              fill="var(--sheet-muted)"
            >
              {numbers.day(place)}
            </text>
          ) : null,
        )}
        {drawn.map((pair, i) => (
          <g key={pair.now.key} fill="none">
            {pair.before && (
              <path
                d={linePath(pair.before.values.slice(0, places.length), x, Y)}
                stroke="var(--sheet-muted)"
                strokeWidth="1.3"
                strokeDasharray="1.5 3"
              />
            )}
            <path
              d={linePath(pair.now.values, x, Y)}
              stroke={colourOf(i)}
              strokeWidth={i === 0 ? 2.2 : 1.6}
              strokeDasharray={DASHES[i]}
            />
          </g>
        ))}
      </svg>
    </div>
  );
}

const colourOf = (i: number) => (i === 0 ? "var(--sheet-accent)" : "var(--sheet-ink)");

function Dash({ i }: { i: number }) {
  return (
    <svg width="22" height="6" aria-hidden="true">
      <path d="M0 3H22" stroke={colourOf(i)} strokeWidth="2" strokeDasharray={DASHES[i]} />
    </svg>
  );
}

/** A course in words: its first, highest and last value, for who does not see it. */
function said(
  one: { name: string; values: (number | null)[]; places: string[]; unit: never | string },
  numbers: DrawingProps["numbers"],
) {
  const known = one.values
    .map((value, i) => ({ value, i }))
    .filter((at): at is { value: number; i: number } => at.value !== null);
  const [first, last] = [known[0], known.at(-1)];
  if (!first || !last) return one.name;
  const top = known.reduce((best, at) => (at.value > best.value ? at : best), first);
  const text = (at: { value: number; i: number }) =>
    `${numbers.figure(at.value, one.unit as never)} (${numbers.day(one.places[at.i] ?? "")})`;
  return `${one.name} ${text(first)}, ${text(top)}, ${text(last)}`;
}
