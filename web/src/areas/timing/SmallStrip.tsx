import { useSize } from "../../lib/useSize";
import { DayDrawing, placeOn } from "./DayDrawing";
import type { Week } from "./queries";
import { axisReach } from "./rules";

const HEIGHT = 44;
type Props = {
  week: Week /** 0 is Monday. */;
  day: number /** The hour of the day that is chosen. */;
  hour: number | null;
};

/** A day of a profile's week beside a field of time: what its hours are worth, and where the chosen one stands. */
export function SmallStrip({ week, day, hour }: Props) {
  const [measure, { width }] = useSize<HTMLDivElement>();
  const { x, base } = placeOn(width, HEIGHT);
  return (
    <div ref={measure} style={{ height: HEIGHT }}>
      {width > 0 && (
        <svg width={width} height={HEIGHT} aria-hidden="true" className="block">
          <DayDrawing week={week} day={day} width={width} height={HEIGHT} reach={axisReach(week)} isSmall />
          {hour !== null && (
            <line x1={x(hour)} x2={x(hour)} y1="0" y2={base + 6} stroke="var(--berry)" strokeWidth="1.8" />
          )}
        </svg>
      )}
    </div>
  );
}
