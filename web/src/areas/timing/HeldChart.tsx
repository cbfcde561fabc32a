import { figure, interval } from "../../lib/format";
import type { Held } from "./queries";

const NAMES = ["said low", "middling", "said high"];
const ROW = 22;
const LEFT = 76;
const RIGHT = 92;

/** Posts of the newer weeks in thirds of what the older had said of their hours: said as a hollow mark, what came with its interval. */
export function HeldChart({ held }: { held: Held }) {
  const width = 340;
  const ends = held.thirds.flatMap((t) => [t.low, t.high, t.said]);
  const reach = Math.max(Math.log(1.2), ...ends.map((v) => Math.abs(Math.log(Math.max(v, 0.05)))));
  const x = (value: number) => LEFT + ((Math.log(Math.max(value, 0.05)) / reach + 1) / 2) * (width - LEFT - RIGHT);
  if (held.thirds.length === 0) return null;
  return (
    <svg
      viewBox={`0 0 ${width} ${held.thirds.length * ROW + 8}`}
      className="mt-1 w-full max-w-[340px]"
      role="img"
      aria-label={held.thirds
        .map(
          (t, i) =>
            `${NAMES[i]}: came ${figure(t.came, "index")}, ${interval(t.low, t.high, "index")}, ${t.posts} posts`,
        )
        .join("; ")}
    >
      <line x1={x(1)} x2={x(1)} y1="0" y2={held.thirds.length * ROW + 4} stroke="var(--ink)" strokeDasharray="1 3" />
      {held.thirds.map((third, i) => {
        const y = i * ROW + 12;
        return (
          <g key={NAMES[i]}>
            <text x="0" y={y + 4} fontSize="12" fill="var(--muted)">
              {NAMES[i]}
            </text>
            <line x1={x(third.low)} x2={x(third.high)} y1={y} y2={y} stroke="var(--wash)" strokeWidth="8" />
            <rect x={x(third.came) - 1.5} width="3" y={y - 6} height="12" fill="var(--berry)" />
            <circle cx={x(third.said)} cy={y} r="3.5" fill="var(--paper)" stroke="var(--q5)" strokeWidth="1.5" />
            <text x={width} y={y + 4} fontSize="12" textAnchor="end" fill="var(--ink)">
              {figure(third.came, "index")} <tspan fill="var(--muted)">· {third.posts} posts</tspan>
            </text>
          </g>
        );
      })}
    </svg>
  );
}
