import { CourseChart } from "../../../charts/CourseChart";
import { addDays } from "../../../lib/days";
import { figure } from "../../../lib/format";
import { useBrand } from "../../../study/brand";
import { usePreferences } from "../../../study/queries";
import { useStudy } from "../../../study/study";
import { Delta } from "../../../ui/Marks";
import { type Measured, useSpikes } from "../queries";
import { type Form, formOf } from "../rules";

type Props = {
  metrics: Measured[];
  compared: string;
  whole: number;
  onChoose: (key: string) => void;
  onDay: (key: string, day: string) => void;
};

/** Every chosen figure in a chart of its own, all over the same days: nothing shares an axis with anything. */
export function Multiples({ metrics, compared, whole, onChoose, onDay }: Props) {
  return (
    <ul className="grid min-h-0 flex-1 auto-rows-min grid-cols-2 overflow-y-auto">
      {metrics.map((m, i) => (
        <li
          key={m.key}
          aria-label={m.name}
          className={`min-w-0 border-b border-rule px-5 py-2.5 ${i % 2 === 0 ? "border-r" : ""}`}
        >
          <One metric={m} compared={compared} whole={whole} onChoose={onChoose} onDay={onDay} />
        </li>
      ))}
    </ul>
  );
}

function One({ metric: m, compared, whole, onChoose, onDay }: Omit<Props, "metrics"> & { metric: Measured }) {
  const { brand } = useBrand();
  const { study } = useStudy();
  const forms = (usePreferences(brand.slug).data?.values.forms ?? {}) as Record<string, Form>;
  const spikes = useSpikes(brand.slug, study, m.key).data;
  return (
    <>
      <div className="flex items-baseline gap-3">
        <button type="button" onClick={() => onChoose(m.key)} className="h-6 font-title text-[16px] hover:text-berry">
          {m.name}
        </button>
        <span className="font-semibold">{figure(m.now.value, m.unit)}</span>
        <span className="text-[12.5px]">
          <Delta change={m.change} unit={m.unit} more={m.more_is_better} />
        </span>
      </div>
      {m.days.some((v) => v !== null) ? (
        <CourseChart
          label={m.name}
          unit={m.unit}
          days={m.days.map((_, d) => addDays(study.first, d))}
          now={m.days}
          before={m.days_before}
          daysBefore={m.days_before.map((_, d) => addDays(compared, d))}
          form={formOf(m.key, forms)}
          spikes={spikes?.spikes}
          whole={whole}
          onDay={spikes?.is_by_day ? (day) => onDay(m.key, day) : undefined}
          height={118}
          isSmall
        />
      ) : (
        <p className="label py-4">This figure has no course by day.</p>
      )}
    </>
  );
}
