import { shortDay } from "../../../lib/days";
import { plural } from "../../../lib/format";
import { useSize } from "../../../lib/useSize";
import type { Counts } from "./queries";

const HEIGHT = 96;
const BASE = HEIGHT - 18;
type Props = { weeks: Counts["weeks"]; withoutTime: number };

/** Posts of a campaign week by week: those that are out filled, those to come hollow, on one scale. */
export function Weeks({ weeks, withoutTime }: Props) {
  const [measure, { width }] = useSize<HTMLDivElement>();
  const most = Math.max(1, ...weeks.map((one) => one.planned + one.published));
  const step = weeks.length ? width / weeks.length : width;
  const bar = Math.min(34, Math.max(3, step - 3));
  const tall = (n: number) => (n / most) * (BASE - 14);
  const every = Math.max(1, Math.ceil(52 / Math.max(1, step)));
  const out = weeks.reduce((sum, one) => sum + one.published, 0);
  const planned = weeks.reduce((sum, one) => sum + one.planned, 0);
  return (
    <div>
      <h2 className="text-[16px]">
        {plural(out, "post is", "posts are")} out, {planned} to come
      </h2>
      <p className="label">
        Weeks from Monday; each profile's post is one. Filled are out, hollow to come.
        {withoutTime > 0 && ` ${plural(withoutTime, "more has", "more have")} no time yet.`}
      </p>
      <div ref={measure} style={{ height: HEIGHT }} className="mt-1">
        {width > 0 && weeks.length > 0 && (
          <svg width={width} height={HEIGHT} role="img" aria-label={`Posts by week, at most ${most} in one`}>
            <line x1="0" x2={width} y1={BASE} y2={BASE} stroke="var(--rule-strong)" />
            {weeks.map((one, i) => {
              const x = i * step + (step - bar) / 2;
              const up = tall(one.published);
              return (
                <g key={one.monday}>
                  <title>{`Week of ${shortDay(one.monday)}: ${one.published} out, ${one.planned} to come`}</title>
                  <rect x={x} y={BASE - up} width={bar} height={up} fill="var(--berry)" />
                  {one.planned > 0 && (
                    <rect
                      x={x + 0.5}
                      y={BASE - up - tall(one.planned)}
                      width={bar - 1}
                      height={tall(one.planned)}
                      fill="none"
                      stroke="var(--berry)"
                    />
                  )}
                  {one.published + one.planned > 0 && step > 16 && (
                    <text
                      x={x + bar / 2}
                      y={BASE - up - tall(one.planned) - 3}
                      textAnchor="middle"
                      fontSize="11"
                      fill="var(--ink)"
                    >
                      {one.published + one.planned}
                    </text>
                  )}
                  {i % every === 0 && (
                    <text x={x} y={HEIGHT - 4} fontSize="11" fill="var(--muted)">
                      {shortDay(one.monday)}
                    </text>
                  )}
                </g>
              );
            })}
          </svg>
        )}
      </div>
    </div>
  );
}
