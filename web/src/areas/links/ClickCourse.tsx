import { type RefObject, useState } from "react";
import { CourseChart } from "../../charts/CourseChart";
import { FigureValue } from "../../figures/FigureValue";
import type { Of } from "../../figures/queries";
import { addDays, type Day, shortDay } from "../../lib/days";
import { figure, plural } from "../../lib/format";
import { useAsTable } from "../../study/useAddress";
import { FormSwitch, TableForm } from "../../ui/TableForm";
import type { Figures } from "./queries";
import { sum } from "./rules";

type Props = {
  first: Day;
  firstBefore: Day;
  figures: Figures;
  /** Which links, as the figures are asked for. */
  params?: Of["params"];
  height?: number;
  box?: RefObject<HTMLDivElement | null>;
};

/** Clicks by day against the comparison; bots apart, on demand. */
export function ClickCourse({ first, firstBefore, figures, params, height = 190, box }: Props) {
  const [isBots, setBots] = useState(false);
  const [isTable, setTable] = useAsTable();
  const days = figures.people.map((_, i) => addDays(first, i));
  const bots = sum(figures.bots);
  const over = sum(figures.over);
  const of = { kind: "links.clicks", params };
  const told = (
    <>
      <FigureValue {...of} cell="people" label="clicks">
        {plural(sum(figures.people), "click")}
      </FigureValue>{" "}
      by about{" "}
      <FigureValue {...of} cell="visitors" label="people who clicked">
        {plural(figures.visitors, "person", "people")}
      </FigureValue>
      , estimated by the day without cookies;{" "}
      <FigureValue {...of} cell="bots" label="bots' requests">
        {plural(bots, "request")}
      </FigureValue>{" "}
      by bots left out
      {over > 0 && (
        <>
          , and{" "}
          <FigureValue {...of} cell="over" label="clicks after the end">
            {plural(over, "click")}
          </FigureValue>{" "}
          after a link had ended
        </>
      )}
      . Dashed: the days compared with.
    </>
  );
  return (
    <div ref={box}>
      <div className="flex items-baseline justify-between gap-3">
        <p className="label">{isBots ? "Requests by machines, counted apart." : told}</p>
        <span className="flex shrink-0 gap-4">
          {bots > 0 && (
            <button
              type="button"
              aria-pressed={isBots}
              onClick={() => setBots(!isBots)}
              className="label under h-6 hover:text-berry"
            >
              {isBots ? "show people" : "show bots"}
            </button>
          )}
          <FormSwitch isTable={isTable} onChange={setTable} />
        </span>
      </div>
      {isTable ? (
        <TableForm
          caption="Clicks by day"
          head={["Day", "Clicks", "Before", "Bots' requests", "After the end"]}
          rows={days.map((day, i) => [
            shortDay(day),
            figure(figures.people[i]),
            figure(figures.before[i]),
            figure(figures.bots[i]),
            figure(figures.over[i]),
          ])}
        />
      ) : (
        <CourseChart
          label={isBots ? "Bots' requests" : "Clicks"}
          unit="count"
          days={days}
          now={isBots ? figures.bots : figures.people}
          before={isBots ? undefined : figures.before}
          daysBefore={figures.before.map((_, i) => addDays(firstBefore, i))}
          form="bar"
          height={height}
        />
      )}
    </div>
  );
}
