import { FigureValue } from "../../figures/FigureValue";
import type { Of } from "../../figures/queries";
import { WEEKDAYS } from "../../lib/days";
import { plural } from "../../lib/format";
import { busiest } from "./rules";

const WIDTH = 236;
const TALL = 20;

/** At which hours people click: seven strips, one a weekday, in the brand's time zone. */
export function HourStrips({ hours, zone, params }: { hours: number[][]; zone: string; params?: Of["params"] }) {
  const max = Math.max(1, ...hours.flat());
  const most = busiest(hours);
  return (
    <section aria-label="Clicks by hour of the week">
      <h2 className="text-[16px]">
        {most ? (
          <FigureValue
            kind="links.hours"
            cell={`${most.weekday}-${most.hour}`}
            params={params}
            label={`clicks on ${WEEKDAYS[most.weekday]} at ${most.hour}:00`}
          >
            Most clicks on {WEEKDAYS[most.weekday]} at {most.hour}:00
          </FigureValue>
        ) : (
          "Clicks by hour of the week"
        )}
      </h2>
      <p className="label">By hour in {zone}; bots left out.</p>
      <div className="mt-1">
        {hours.map((day, i) => (
          <div key={WEEKDAYS[i]} className="flex items-end gap-2">
            <span className="label w-8">{WEEKDAYS[i]}</span>
            <svg
              width={WIDTH}
              height={TALL}
              role="img"
              aria-label={`${WEEKDAYS[i]}: ${plural(
                day.reduce((a, b) => a + b, 0),
                "click",
              )}, most at ${day.indexOf(Math.max(...day))}:00`}
            >
              <path d={`M0 ${TALL - 0.5}H${WIDTH}`} stroke="var(--rule)" />
              {day.map((count, hour) => {
                const tall = ((TALL - 4) * count) / max;
                return (
                  <rect
                    // biome-ignore lint/suspicious/noArrayIndexKey: an hour is its place
                    key={hour}
                    x={(hour * WIDTH) / 24 + 1}
                    y={TALL - 1 - tall}
                    width={WIDTH / 24 - 2}
                    height={tall}
                    fill={most?.weekday === i && most.hour === hour ? "var(--berry)" : "var(--tick)"}
                  />
                );
              })}
              {[6, 12, 18].map((hour) => (
                <path key={hour} d={`M${(hour * WIDTH) / 24} ${TALL - 4}v4`} stroke="var(--rule-strong)" />
              ))}
            </svg>
            <span className="label w-10 text-right">{day.reduce((a, b) => a + b, 0) || ""}</span>
          </div>
        ))}
        <div className="ml-10 flex justify-between text-[11px] text-muted" style={{ width: WIDTH }}>
          {["0", "6", "12", "18", "24"].map((hour) => (
            <span key={hour}>{hour}</span>
          ))}
        </div>
      </div>
    </section>
  );
}
