import { moment, shortDay } from "../../lib/days";
import { figure, formatNames, plural } from "../../lib/format";
import { useBrand } from "../../study/brand";
import { Notice } from "../../ui/States";
import { DateQuestion } from "./FileQuestions";
import type { Preview } from "./queries";
import { FIELD_NAMES, noteText } from "./rules";

const INSTANTS = new Set(["published_at", "taken_at", "at"]);

/** A cell as it would come in: an instant by the brand's clocks, a day whose time is not known as a day. */
function shownCell(key: string, value: string | undefined, zone: string): string | undefined {
  if (!value) return value;
  if (INSTANTS.has(key)) return value.length > 10 ? moment(value, zone) : shortDay(value);
  return key === "format" ? formatNames[value] : value;
}

/** The first rows as they would come in, what was done with cells that are not plain, and rows that would be left out. */
export function FilePreview({ preview }: { preview: Preview }) {
  const { brand } = useBrand();
  const fields = preview.fields_of_kind.map((f) => f.key).filter((key) => preview.items.some((i) => i.values[key]));
  const shown = fields.slice(0, 8);
  const isPart = preview.rows_looked_at < preview.item.row_count;
  const known = preview.known_in_sample;
  return (
    <>
      <h2 id="preview-title" className="text-[18px] leading-6">
        {preview.mapping_problems.length > 0
          ? "This cannot come in yet"
          : `${plural(preview.readable, "row")} can be read${preview.problem_count ? `, ${plural(preview.problem_count, "row")} cannot` : ""}`}
      </h2>
      {isPart && preview.mapping_problems.length === 0 && (
        <p className="label">Of the first {preview.rows_looked_at} rows; all are read when the file comes in.</p>
      )}
      {preview.mapping_problems.map((text) => (
        <div key={text} className="mt-2">
          <Notice kind="wrong">{text}</Notice>
        </div>
      ))}
      <DateQuestion preview={preview} />
      {known && (known.known > 0 || known.together > 0) && (
        <p className="mt-1" role="status">
          {known.known > 0 && `${plural(known.known, "row is a post", "rows are posts")} that are known here already. `}
          {known.together > 0 && `${plural(known.together, "row says", "rows say")} what another row of the file says.`}
        </p>
      )}
      {preview.items.length > 0 && (
        <div className="mt-2 overflow-x-auto">
          <table className="w-full">
            <thead className="label text-left">
              <tr className="h-7 border-b border-rule-strong">
                <th className="pr-3 font-normal">Row</th>
                {shown.map((key) => (
                  <th key={key} className="pr-3 font-normal whitespace-nowrap">
                    {FIELD_NAMES[key] ?? key}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {preview.items.slice(0, 8).map((item) => (
                <tr key={item.row} className="rowline h-7">
                  <td className="pr-3 text-muted">{figure(item.row)}</td>
                  {shown.map((key) => (
                    <td key={key} className="max-w-[180px] truncate pr-3">
                      {shownCell(key, item.values[key], brand.time_zone)}
                    </td>
                  ))}
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
      <Notes preview={preview} />
      {preview.problem_count > 0 && (
        <div className="mt-3">
          <h3 className="text-[15px]">Left out, and why</h3>
          <Problems preview={preview} />
        </div>
      )}
    </>
  );
}

/** What was done with cells and rows that is not plain: by column, with how often and where first. */
export function Notes({ preview }: { preview: Preview }) {
  if (preview.notes.length === 0) return null;
  return (
    <div className="mt-3">
      <h3 className="text-[15px]">Good to know</h3>
      <ul className="mt-1 max-h-[180px] overflow-y-auto border-y border-rule" tabIndex={0} aria-label="Good to know">
        {preview.notes.map((note) => (
          <li key={`${note.column} ${note.message}`} className="rowline flex gap-3 py-1">
            <span className="w-20 shrink-0 text-right text-muted">{figure(note.count)}</span>
            <span>
              {note.column && <strong>{note.column}</strong>} {noteText(note)}
            </span>
          </li>
        ))}
      </ul>
    </div>
  );
}

export function Problems({ preview }: { preview: Preview }) {
  if (preview.problems.length === 0) return null;
  return (
    <ul
      className="mt-2 max-h-[420px] overflow-y-auto border-y border-rule"
      tabIndex={0}
      aria-label="Rows that were left out"
    >
      {preview.problems.map((p) => (
        <li key={p.row} className="rowline flex gap-3 py-1">
          <span className="w-20 shrink-0 text-muted">Row {figure(p.row)}</span>
          <span>
            {p.column && <strong>{p.column}</strong>} {p.message}
          </span>
        </li>
      ))}
    </ul>
  );
}
