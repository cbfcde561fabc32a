import { scaleLog } from "d3-scale";
import { useState } from "react";
import { FigureValue } from "../../figures/FigureValue";
import { figure, short } from "../../lib/format";
import { useSize } from "../../lib/useSize";
import { networkNamed, useBrand } from "../../study/brand";
import type { Benchmark } from "./queries";
import { placed } from "./rules";

const HEIGHT = 290;
const PAD = { left: 44, right: 14, top: 10, bottom: 34 };
type Props = { data: Benchmark; params: Record<string, string | number | undefined> };

const bounds = (values: number[]): [number, number] => {
  const [low, high] = [Math.min(...values), Math.max(...values)];
  return low === high ? [low / 2, high * 2] : [low / 1.4, high * 1.4];
};

/** Reaction per follower by audience: the others, the line through them, and us. */
export function SizeChart({ data, params }: Props) {
  const [measure, { width }] = useSize<HTMLDivElement>();
  const { networks } = useBrand();
  const nameOf = (d: Benchmark["dots"][number]) =>
    d.key.startsWith("p") ? `${d.name} ${networkNamed(networks, d.networks[0] ?? "").monogram}` : d.name;
  const [here, setHere] = useState<number | null>(null);
  const { dots, size, usual } = data;
  const inner = { width: Math.max(0, width - PAD.left - PAD.right), height: HEIGHT - PAD.top - PAD.bottom };
  const x = scaleLog(bounds(dots.map((d) => d.followers)), [0, inner.width]);
  const rates = dots.map((d) => d.rate);
  const y = scaleLog(bounds(size ? [...rates, size.expected] : rates), [inner.height, 0]);
  const order = [...dots].sort((a, b) => Number(b.is_own) - Number(a.is_own) || b.followers - a.followers);
  const labels = placed(
    order.map((d) => ({ x: x(d.followers), y: y(d.rate), width: nameOf(d).length * 6.4, r: d.is_own ? 5 : 4 })),
    inner,
  );
  const clamp = (v: number) => Math.min(inner.height, Math.max(0, v));
  const said = here === null ? null : dots[here];
  const onKey = (key: string) => {
    const step = key === "ArrowRight" ? 1 : key === "ArrowLeft" ? -1 : 0;
    const sorted = dots.map((_, i) => i).sort((a, b) => (dots[a]?.followers ?? 0) - (dots[b]?.followers ?? 0));
    const now = here === null ? (step > 0 ? -1 : sorted.length) : sorted.indexOf(here);
    const next = sorted[Math.min(sorted.length - 1, Math.max(0, now + step))];
    if (step && next !== undefined) setHere(next);
  };
  if (dots.length === 0) return <p className="label mt-4">Nobody here has both followers and reactions.</p>;
  return (
    <div ref={measure}>
      {width > 0 && (
        <svg
          width={width}
          height={HEIGHT}
          role="img"
          aria-label="Interactions for 1,000 followers by audience; arrow keys go from one to the next"
          tabIndex={0}
          onKeyDown={(event) => onKey(event.key)}
          onBlur={() => setHere(null)}
        >
          <g transform={`translate(${PAD.left} ${PAD.top})`}>
            {y
              .ticks(4)
              .filter((_, i, all) => all.length < 8 || i % 3 === 0)
              .map((tick) => (
                <g key={tick}>
                  <line x2={inner.width} y1={y(tick)} y2={y(tick)} stroke="var(--rule)" />
                  <text x="-6" y={y(tick) + 4} textAnchor="end" fontSize="11.5" fill="var(--muted)">
                    {short(tick)}
                  </text>
                </g>
              ))}
            {x
              .ticks()
              .filter((t) => /^[125]0*$/.test(String(Math.round(t))))
              .map((tick) => (
                <text
                  key={tick}
                  x={x(tick)}
                  y={inner.height + 16}
                  textAnchor="middle"
                  fontSize="11.5"
                  fill="var(--muted)"
                >
                  {short(tick)}
                </text>
              ))}
            <text x={inner.width} y={inner.height + 30} textAnchor="end" fontSize="11.5" fill="var(--muted)">
              followers
            </text>
            {usual.length > 1 && (
              <>
                <path
                  d={`M${usual.map((u) => `${x(u.followers)} ${clamp(y(u.high))}`).join("L")}L${[...usual]
                    .reverse()
                    .map((u) => `${x(u.followers)} ${clamp(y(u.low))}`)
                    .join("L")}Z`}
                  fill="var(--tick)"
                  opacity="0.16"
                />
                <path
                  d={`M${usual.map((u) => `${x(u.followers)} ${clamp(y(u.expected))}`).join("L")}`}
                  fill="none"
                  stroke="var(--against-ink)"
                  strokeWidth="1.5"
                  strokeDasharray="5 3"
                />
              </>
            )}
            {order.map((d, i) => (
              <g key={d.key} className="mark">
                <circle
                  cx={x(d.followers)}
                  cy={y(d.rate)}
                  r={said === d ? 6 : d.is_own ? 5 : 4}
                  fill={d.is_own ? "var(--berry)" : "var(--tick)"}
                  stroke="var(--paper)"
                  strokeWidth="1.5"
                />
                {labels[i] && (
                  <text
                    x={labels[i]?.x}
                    y={labels[i]?.y}
                    textAnchor={labels[i]?.anchor}
                    fontSize="12"
                    fill={d.is_own ? "var(--berry)" : "var(--muted)"}
                    fontWeight={d.is_own ? 600 : 400}
                  >
                    {nameOf(d)}
                  </text>
                )}
              </g>
            ))}
          </g>
        </svg>
      )}
      <p className="label min-h-5" aria-live="polite">
        {said
          ? `${nameOf(said)}: ${figure(said.followers)} followers, ${figure(said.rate, "per_1000")} interactions for 1,000`
          : size &&
            !data.has_several && (
              <>
                Usual for our audience: {figure(size.expected, "per_1000")}; we{" "}
                <FigureValue kind="competitors.band" cell="above" params={params} label="times the usual">
                  {figure(size.above, "index")} times that
                </FigureValue>
              </>
            )}
      </p>
    </div>
  );
}
