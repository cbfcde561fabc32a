import { useState } from "react";
import { Link, useNavigate, useSearchParams } from "react-router";
import { plural, since } from "../../lib/format";
import { useBrand } from "../../study/brand";
import { MinuteLine } from "../../study/line/MinuteLine";
import { useSession } from "../../study/queries";
import { Button } from "../../ui/Button";
import { Choice } from "../../ui/Choice";
import { Field } from "../../ui/Field";
import { Sheet } from "../../ui/Sheet";
import { Empty, Failed, Loading } from "../../ui/States";
import { useToast } from "../../ui/Toast";
import { type ReportRow, useBeginnings, useReportActs, useReports } from "./queries";

/** All reports of a brand, and what a new one can begin from. */
export function ReportsPage() {
  const { brand, can } = useBrand();
  const [params, setParams] = useSearchParams();
  const [text, setText] = useState("");
  const label = params.get("label") ?? "";
  const found = useReports(brand.slug, text.trim(), label);
  const reports = found.data?.pages.flatMap((page) => page.reports) ?? [];
  const labels = found.data?.pages[0]?.labels ?? [];
  const [gone, setGone] = useState<ReportRow | null>(null);
  const { away } = useReportActs(brand.slug);
  const isNew = params.get("new") === "1" && can("reports.write");
  const set = (name: string, value: string) =>
    setParams((now) => {
      const next = new URLSearchParams(now);
      value ? next.set(name, value) : next.delete(name);
      return next;
    });
  return (
    <>
      <MinuteLine hasBrush={false} />
      <div className="flex min-h-[38px] flex-wrap items-center gap-x-3 gap-y-1 border-b border-rule px-5 py-1 narrow:px-3">
        <h1 className="text-[16px]">Reports</h1>
        <input
          type="search"
          aria-label="Find a report"
          placeholder="Find by title"
          className="h-7 w-48 border border-rule-strong bg-panel px-2"
          value={text}
          onChange={(e) => setText(e.target.value)}
        />
        {labels.length > 0 && (
          <Choice
            label="Label"
            value={label}
            options={[{ value: "", label: "any label" }, ...labels.map((one) => ({ value: one, label: one }))]}
            onChoose={(one) => set("label", one)}
          >
            {label || "any label"}
          </Choice>
        )}
        <span className="flex-1" />
        {can("reports.write") && (
          <Button kind="main" onClick={() => set("new", "1")}>
            Make a report
          </Button>
        )}
      </div>
      <section className="min-h-0 flex-1 overflow-y-auto px-5 py-3 narrow:px-3" aria-label="Reports" tabIndex={0}>
        {gone && (
          <p role="status" className="mb-2 flex items-center gap-3 bg-wash px-3 py-1.5">
            “{gone.title}” is away. It can be brought back for thirty days; its links open nothing meanwhile.
            <Button
              isBusy={away.isPending}
              onClick={() => away.mutateAsync({ id: gone.id, is_away: false }).then(() => setGone(null))}
            >
              Bring it back
            </Button>
          </p>
        )}
        {found.error ? (
          <Failed error={found.error} onRetry={() => found.refetch()} />
        ) : !found.data ? (
          <Loading what="Loading the reports" />
        ) : reports.length === 0 ? (
          <Empty title={text || label ? "No report is called so" : "No report yet"}>
            {text || label
              ? "Try other words, or any label."
              : "A report puts figures, charts and words on pages for others. Begin from a template: its figures are of your own data at once."}
          </Empty>
        ) : (
          <table className="w-full">
            <thead className="label">
              <tr className="rowline">
                <th className="text-left font-normal">Report</th>
                <th className="text-left font-normal">Label</th>
                <th className="text-right font-normal">Pages</th>
                <th className="pl-3 text-right font-normal">Figures</th>
                <th className="pl-4 text-left font-normal">Changed</th>
                <th className="pl-4 text-left font-normal">Open to others</th>
                <th>
                  <span className="sr-only">What can be done</span>
                </th>
              </tr>
            </thead>
            <tbody>
              {reports.map((one) => (
                <Row key={one.id} report={one} onAway={setGone} />
              ))}
            </tbody>
          </table>
        )}
        {found.hasNextPage && (
          <Button className="mt-2" isBusy={found.isFetchingNextPage} onClick={() => found.fetchNextPage()}>
            Earlier ones
          </Button>
        )}
      </section>
      {isNew && <NewReport onClose={() => set("new", "")} />}
    </>
  );
}

function Row({ report, onAway }: { report: ReportRow; onAway: (report: ReportRow) => void }) {
  const { brand, now, can } = useBrand();
  const say = useToast();
  const { copy, away } = useReportActs(brand.slug);
  const navigate = useNavigate();
  const wrong = (error: Error) => say(error.message, "wrong");
  const act = (what: string) => {
    if (what === "away") away.mutateAsync({ id: report.id, is_away: true }).then(() => onAway(report), wrong);
    else
      copy
        .mutateAsync({ id: report.id, is_template: what === "template" })
        .then(
          (made) => (what === "template" ? say("Kept as a template.") : navigate(`/${brand.slug}/reports/${made.id}`)),
          wrong,
        );
  };
  return (
    <tr className="rowline">
      <td className="py-1.5 pr-3">
        <Link to={`/${brand.slug}/reports/${report.id}`} className="under break-words font-semibold hover:text-berry">
          {report.title}
        </Link>
        {report.language !== "en" && <span className="label ml-2">{report.language}</span>}
      </td>
      <td className="label py-1.5 pr-3">{report.label}</td>
      <td className="py-1.5 text-right">{report.pages}</td>
      <td className="py-1.5 pl-3 text-right">{report.figures}</td>
      <td className="label whitespace-nowrap py-1.5 pl-4">
        {since(report.changed_at, now)}
        {report.changed_by && ` by ${report.changed_by}`}
      </td>
      <td className="label py-1.5 pl-4">{report.links > 0 ? plural(report.links, "link") : "nobody"}</td>
      <td className="py-1.5 pl-3 text-right">
        {can("reports.write") && (
          <Choice
            label={`What can be done with ${report.title}`}
            value=""
            options={[
              { value: "copy", label: "Copy it" },
              { value: "template", label: "Keep it as a template" },
              { value: "away", label: "Take it away" },
            ]}
            onChoose={act}
          >
            more
          </Choice>
        )}
      </td>
    </tr>
  );
}

function NewReport({ onClose }: { onClose: () => void }) {
  const { brand } = useBrand();
  const say = useToast();
  const navigate = useNavigate();
  const beginnings = useBeginnings(brand.slug);
  const { make } = useReportActs(brand.slug);
  const [language, setLanguage] = useState<string>(useSession().data?.language ?? "en");
  const begin = (template: string, own: number | null) =>
    make
      .mutateAsync({ template, own, title: "", language: language as "en" })
      .then((made) => navigate(`/${brand.slug}/reports/${made.id}`))
      .catch((error: Error) => say(error.message, "wrong"));
  return (
    <Sheet isOpen onClose={onClose} title="What does it begin from?">
      {beginnings.error ? (
        <Failed error={beginnings.error} onRetry={() => beginnings.refetch()} />
      ) : !beginnings.data ? (
        <Loading />
      ) : (
        <>
          <Field label="Language of the report">
            {(props) => (
              <select {...props} value={language} onChange={(e) => setLanguage(e.target.value)}>
                {beginnings.data.languages.map((one) => (
                  <option key={one.key} value={one.key}>
                    {one.name}
                  </option>
                ))}
              </select>
            )}
          </Field>
          <ul className="mt-3" aria-busy={make.isPending}>
            {beginnings.data.own.map((one) => (
              <Begin
                key={one.id}
                name={one.title}
                words={`Your own template, ${plural(one.pages, "page")}`}
                onClick={() => begin("blank", one.id)}
              />
            ))}
            {beginnings.data.templates.map((one) => (
              <Begin
                key={one.key}
                name={one.name}
                words={`${one.words} ${one.pages.filter(Boolean).join(" · ")}`}
                onClick={() => begin(one.key, null)}
              />
            ))}
          </ul>
        </>
      )}
    </Sheet>
  );
}

function Begin({ name, words, onClick }: { name: string; words: string; onClick: () => void }) {
  return (
    <li className="rowline">
      <button type="button" className="w-full py-2 text-left hover:text-berry" onClick={onClick}>
        <b className="font-semibold">{name}</b>
        <span className="label block">{words}</span>
      </button>
    </li>
  );
}
