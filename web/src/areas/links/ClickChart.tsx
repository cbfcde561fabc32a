import { useState } from "react";
import { CourseChart } from "../../charts/CourseChart";
import { addDays, shortDay } from "../../lib/days";
import { figure, plural } from "../../lib/format";
import { FormSwitch, TableForm } from "../../ui/TableForm";
import type { Breakdown } from "./queries";

const REASONS: Record<string, string> = {
  agent: "known crawlers",
  no_agent: "no agent given",
  method: "looked without opening",
  prefetch: "fetched ahead by a browser",
  burst: "bursts from one visitor",
};
const DEVICES: Record<string, string> = { phone: "Phone", tablet: "Tablet", computer: "Computer", other: "Other" };

/** Clicks by day, with bots apart, and where people came from and on what. */
export function ClickChart({ first, breakdown, title }: { first: string; breakdown: Breakdown; title: string }) {
  const [isBots, setBots] = useState(false);
  const [isTable, setTable] = useState(false);
  const days = breakdown.people.map((_, i) => addDays(first, i));
  const people = breakdown.people.reduce((a, b) => a + b, 0);
  const bots = breakdown.bots.reduce((a, b) => a + b, 0);
  return (
    <section aria-label={title}>
      <div className="flex items-baseline justify-between gap-3">
        <h2 className="text-[18px] leading-6">{title}</h2>
        <span className="flex gap-4">
          {bots > 0 && (
            <button
              type="button"
              aria-pressed={isBots}
              onClick={() => setBots(!isBots)}
              className="label under h-6 shrink-0 hover:text-berry"
            >
              {isBots ? "show people" : "show bots"}
            </button>
          )}
          <FormSwitch isTable={isTable} onChange={setTable} />
        </span>
      </div>
      <p className="label">
        {isBots
          ? "Requests by machines, counted apart."
          : `${plural(people, "click")} by about ${plural(breakdown.visitors, "visitor")}, counted per day without cookies; ${plural(bots, "request")} by bots apart.`}
      </p>
      {isTable ? (
        <TableForm
          caption={title}
          head={["Day", "Clicks", "Bots' requests"]}
          rows={days.map((day, i) => [shortDay(day), figure(breakdown.people[i]), figure(breakdown.bots[i])])}
        />
      ) : (
        <CourseChart
          label={isBots ? "Bots' requests" : "Clicks"}
          unit="count"
          days={days}
          now={isBots ? breakdown.bots : breakdown.people}
          form="bar"
          height={190}
        />
      )}
      <div className="mt-3 grid grid-cols-3 gap-6">
        <Counts
          title="From"
          rows={breakdown.referrers.map((r) => ({ name: r.name || "no referrer given", count: r.count }))}
        />
        <Counts title="On" rows={breakdown.devices.map((r) => ({ name: DEVICES[r.name] ?? r.name, count: r.count }))} />
        <Counts
          title="Bots, by reason"
          rows={breakdown.bot_reasons.map((r) => ({ name: REASONS[r.name] ?? r.name, count: r.count }))}
          isOurs={false}
        />
      </div>
    </section>
  );
}

function Counts({
  title,
  rows,
  isOurs = true,
}: {
  title: string;
  rows: { name: string; count: number }[];
  isOurs?: boolean;
}) {
  const max = Math.max(1, ...rows.map((r) => r.count));
  return (
    <div>
      <h3 className="text-[15px]">{title}</h3>
      {rows.length === 0 && <p className="label">none</p>}
      {rows.slice(0, 6).map((row) => (
        <div key={row.name} className="rowline relative flex h-7 items-center justify-between gap-2">
          <div
            className={`absolute inset-y-1 left-0 ${isOurs ? "bg-wash" : "bg-rule"}`}
            style={{ width: `${(row.count / max) * 100}%` }}
          />
          <span className="relative truncate pl-1">{row.name}</span>
          <span className="relative font-semibold">{figure(row.count)}</span>
        </div>
      ))}
    </div>
  );
}
