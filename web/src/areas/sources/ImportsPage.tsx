import { useRef, useState } from "react";
import { Link, useNavigate } from "react-router";
import { moment } from "../../lib/days";
import { figure, plural } from "../../lib/format";
import { useBrand } from "../../study/brand";
import { Button } from "../../ui/Button";
import { Cut } from "../../ui/Cut";
import { StateWord } from "../../ui/Marks";
import { Failed, Loading, Notice } from "../../ui/States";
import { useImports, useUpload } from "./queries";
import { FILE_WORDS, KIND_NAMES, progress, TABLE_NAMES } from "./rules";
import { SourcesBar } from "./SourcesBar";

/** Files in, with somebody's own columns, read, shown, and only then brought in; and everything out again. */
export function ImportsPage() {
  const { brand, can } = useBrand();
  const canChange = can("sources.files");
  const imports = useImports(brand.slug);
  return (
    <>
      <SourcesBar />
      <div className="grid min-h-0 flex-1 grid-cols-[minmax(0,3fr)_minmax(0,2fr)]">
        <section className="min-w-0 overflow-y-auto border-r border-rule px-5 py-3" aria-labelledby="in-title">
          <h1 id="in-title" className="text-[18px] leading-6">
            Bring in a file
          </h1>
          <p className="text-muted">
            CSV, TSV, XLSX or JSON, a row per post, reading, day or click, under your own names. What it is and which
            column is what is proposed; nothing comes in before you have seen it, and what came in can be taken out.
          </p>
          {canChange && <Drop />}
          <h2 className="mt-6 text-[16px]">Files so far</h2>
          {imports.error ? (
            <Failed error={imports.error} onRetry={() => imports.refetch()} />
          ) : !imports.data ? (
            <Loading lines={3} />
          ) : imports.data.length === 0 ? (
            <p className="label">None yet.</p>
          ) : (
            <ul>
              {imports.data.map((item) => {
                const state = FILE_WORDS[item.state];
                return (
                  <li key={item.id} className="rowline py-1.5">
                    <span className="flex items-baseline gap-3">
                      <Link
                        to={`/${brand.slug}/sources/import/${item.id}`}
                        className="under min-w-0 font-semibold hover:text-berry"
                      >
                        <Cut>{item.file_name}</Cut>
                      </Link>
                      {state && <StateWord tone={state.tone}>{state.word}</StateWord>}
                      <span className="label ml-auto whitespace-nowrap">
                        {moment(item.created_at, brand.time_zone)}
                      </span>
                    </span>
                    <span className="label block">
                      {KIND_NAMES[item.kind]};{" "}
                      {item.state === "waiting"
                        ? `${item.is_exact ? "" : "about "}${plural(item.row_count, "row")}`
                        : item.state === "running"
                          ? `${figure(item.rows_read)} of ${item.is_exact ? "" : "about "}${figure(item.row_count)} rows, ${Math.round(progress(item) * 100)} %`
                          : `${plural(item.accepted, "row")} taken, ${figure(item.added)} new, ${figure(item.refused)} left out${item.profile ? `, into ${item.profile}` : ""}`}
                    </span>
                    {item.message && <span className="block text-down">{item.message}</span>}
                  </li>
                );
              })}
            </ul>
          )}
        </section>
        <section className="min-w-0 overflow-y-auto px-5 py-3" aria-labelledby="out-title">
          <h2 id="out-title" className="text-[18px] leading-6">
            Take everything with you
          </h2>
          <p className="text-muted">
            Under the names by which it is read in again: bringing an exported file back changes nothing. Texts that a
            spreadsheet would take for a formula are guarded by an apostrophe.
          </p>
          <table className="mt-3 w-full">
            <thead className="sr-only">
              <tr>
                <th>Table</th>
                <th>Forms</th>
              </tr>
            </thead>
            <tbody>
              {[
                "all",
                "profiles",
                "posts",
                "post_readings",
                "profile_readings",
                "audience",
                "comments",
                "links",
                "clicks",
                "conversions",
              ].map((what) => (
                <tr key={what} className="rowline h-8">
                  <td className={what === "all" ? "font-semibold" : ""}>{TABLE_NAMES[what]}</td>
                  <td className="text-right">
                    {(["csv", "xlsx", "jsonl"] as const).map((form) => (
                      <a
                        key={form}
                        href={`/api/brands/${brand.slug}/sources/export?what=${what}&form=${form}`}
                        className="under ml-4 inline-flex h-6 items-center hover:text-berry"
                        aria-label={`${TABLE_NAMES[what]} as ${form.toUpperCase()}`}
                      >
                        {what === "all" && form !== "xlsx" ? `${form.toUpperCase()} in ZIP` : form.toUpperCase()}
                      </a>
                    ))}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </section>
      </div>
    </>
  );
}

function Drop() {
  const { brand } = useBrand();
  const upload = useUpload(brand.slug);
  const navigate = useNavigate();
  const [isOver, setOver] = useState(false);
  const picker = useRef<HTMLInputElement>(null);
  const take = (file?: File) => {
    if (file)
      upload.mutate(file, { onSuccess: (preview) => navigate(`/${brand.slug}/sources/import/${preview.item.id}`) });
  };
  return (
    <>
      {/* biome-ignore lint/a11y/noStaticElementInteractions: the button inside chooses a file by keyboard */}
      <div
        onDragOver={(e) => {
          e.preventDefault();
          setOver(true);
        }}
        onDragLeave={() => setOver(false)}
        onDrop={(e) => {
          e.preventDefault();
          setOver(false);
          take(e.dataTransfer.files[0]);
        }}
        className={`mt-3 flex items-center gap-4 border border-dashed px-6 py-5 ${isOver ? "border-berry bg-wash" : "border-rule-strong bg-panel"}`}
      >
        <p>Drop the file here, or</p>
        <Button kind="main" isBusy={upload.isPending} onClick={() => picker.current?.click()}>
          {upload.isPending ? "Reading the file" : "Choose a file"}
        </Button>
        <input
          ref={picker}
          type="file"
          accept=".csv,.tsv,.txt,.xlsx,.json,.jsonl,.ndjson"
          aria-label="File to bring in"
          className="sr-only"
          tabIndex={-1}
          onChange={(e) => {
            take(e.target.files?.[0]);
            e.target.value = "";
          }}
        />
        <p className="label">At most 1 GB; a million rows are no trouble.</p>
      </div>
      {upload.error && (
        <div className="mt-3">
          <Notice kind="wrong">{upload.error.message} Nothing was changed.</Notice>
        </div>
      )}
    </>
  );
}
