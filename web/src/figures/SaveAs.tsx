import { lazy, type RefObject, Suspense, useRef, useState } from "react";
import { saveChart } from "../charts/save";
import { spanText } from "../lib/days";
import { useBrand } from "../study/brand";
import { comparedSpan, type Study, useAge, useStudy } from "../study/study";
import { Choice } from "../ui/Choice";
import { useToast } from "../ui/Toast";
import type { Drawing } from "./drawing/set";
import { type Of, tableAddress } from "./queries";

// Fetched when a figure is first put into a report.
const PutIntoReport = lazy(() => import("./PutIntoReport").then((found) => ({ default: found.PutIntoReport })));

type Table = { kind: string; params?: Of["params"] };
type Chart = { box: RefObject<HTMLElement | null>; title: string; definition: string };
/** report: what is put into a report where that is another figure than the table, or is drawn in a way of its own. */
type Props = {
  name: string;
  table?: Table;
  chart?: Chart;
  report?: Table & { drawing: Drawing };
  /** What it is of besides the study in the address: one profile, where a page shows that. */
  narrow?: Partial<Study>;
};

/** What a view shows, as a file or in a report: its table with what each figure means, its chart with its caption. */
export function SaveAs({ name, table, chart, report, narrow }: Props) {
  const { brand, can } = useBrand();
  const [isPutting, setPutting] = useState(false);
  const { study: asked } = useStudy();
  const study = { ...asked, ...narrow };
  const age = useAge();
  const say = useToast();
  const link = useRef<HTMLAnchorElement>(null);
  const put = report ?? (table && { ...table, drawing: chart ? ("course" as const) : ("table" as const) });
  const options = [
    ...(table
      ? [
          { value: "csv", label: "Table as CSV" },
          { value: "xlsx", label: "Table as XLSX" },
        ]
      : []),
    ...(chart
      ? [
          { value: "svg", label: "Chart as SVG" },
          { value: "png", label: "Chart as PNG" },
        ]
      : []),
    ...(put && can("reports.write") ? [{ value: "report", label: "Put into a report" }] : []),
  ];
  const onChoose = (form: string) => {
    if (form === "report") return setPutting(true);
    if (table && (form === "csv" || form === "xlsx") && link.current) {
      link.current.href = tableAddress(brand.slug, study, table.kind, table.params, form);
      link.current.click();
    }
    const svg = chart?.box.current?.querySelector("svg[role=img]");
    if (chart && (form === "svg" || form === "png")) {
      if (!(svg instanceof SVGSVGElement)) return say("There is no chart to save here.", "wrong");
      const against = comparedSpan(study);
      const lines = [
        chart.definition,
        `${brand.name}, ${spanText(study.first, study.last)} against ${spanText(against.first, against.last)}, posts ${age.words}. Days begin in ${brand.time_zone}.`,
      ];
      saveChart(svg, { title: chart.title, lines }, form, `${brand.slug}-${name}`).catch((error: Error) =>
        say(error.message, "wrong"),
      );
    }
  };
  return (
    <>
      <Choice label="Save as a file" value="" options={options} onChoose={onChoose}>
        Save
      </Choice>
      {/* biome-ignore lint/a11y/useAnchorContent: clicked by the choice above, never shown */}
      <a ref={link} href="/" download className="hidden" aria-hidden="true" tabIndex={-1} />
      {isPutting && put && (
        <Suspense>
          <PutIntoReport
            kind={put.kind}
            params={put.params}
            drawing={put.drawing}
            title=""
            study={study}
            onClose={() => setPutting(false)}
          />
        </Suspense>
      )}
    </>
  );
}
