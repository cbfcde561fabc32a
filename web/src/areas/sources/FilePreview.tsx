import { useBrand } from "../../app/brand";
import { moment } from "../../lib/days";
import { plural } from "../../lib/format";
import { Notice } from "../../ui/States";
import { Problems } from "./ImportPage";
import type { Preview } from "./queries";
import { FIELD_NAMES } from "./rules";

const INSTANTS = new Set(["published_at", "taken_at", "at"]);

/** The first rows as they would come in, and those that would be left out. */
export function FilePreview({ preview }: { preview: Preview }) {
  const { brand } = useBrand();
  const fields = preview.fields_of_kind.map((f) => f.key).filter((key) => preview.items.some((i) => i.values[key]));
  const shown = fields.slice(0, 8);
  const isPart = preview.rows_looked_at < preview.item.row_count;
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
                  <td className="pr-3 text-muted">{item.row}</td>
                  {shown.map((key) => (
                    <td key={key} className="max-w-[180px] truncate pr-3">
                      {INSTANTS.has(key) && item.values[key]
                        ? moment(item.values[key], brand.time_zone)
                        : item.values[key]}
                    </td>
                  ))}
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
      {preview.problem_count > 0 && (
        <div className="mt-3">
          <h3 className="text-[15px]">Left out, and why</h3>
          <Problems preview={preview} />
        </div>
      )}
    </>
  );
}
