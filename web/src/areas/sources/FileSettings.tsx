import type { ProblemError } from "../../api/client";
import { useBrand } from "../../app/brand";
import { inputLook } from "../../ui/Field";
import { Notice } from "../../ui/States";
import { type Preview, useSettleFile } from "./queries";
import { DELIMITERS, FIELD_NAMES, KIND_NAMES, remapped } from "./rules";

const ZONES = Intl.supportedValuesOf("timeZone");

/** Kind, how it is written, which column is what: found out, shown, and changeable. Each change reads the sample anew. */
export function FileSettings({ preview, isEditable }: { preview: Preview; isEditable: boolean }) {
  const { brand } = useBrand();
  const { item, options, detected } = preview;
  const settle = useSettleFile(brand.slug, item.id);
  const problem = settle.error as ProblemError | null;
  const off = !isEditable || settle.isPending;
  const isText = options.form !== "xlsx";
  return (
    <>
      {problem && (
        <div className="mt-2">
          <Notice kind="wrong">{Object.values(problem.fields)[0] ?? problem.message}</Notice>
        </div>
      )}
      <div className="mt-2 grid grid-cols-2 gap-x-4 gap-y-2">
        <Pick
          label="What is in it"
          value={item.kind}
          options={Object.entries(KIND_NAMES)}
          isOff={off}
          onPick={(kind) => settle.mutate({ kind: kind as Preview["item"]["kind"] })}
        />
        <div>
          <label htmlFor="file-zone" className="label block">
            Time zone
            {detected.has_offsets ? ": the instants carry their own" : detected.zone ? ": named in the head" : ""}
          </label>
          <input
            id="file-zone"
            list="zones"
            defaultValue={options.zone}
            key={options.zone}
            disabled={off}
            className={inputLook}
            onBlur={(e) => e.target.value !== options.zone && settle.mutate({ options: { zone: e.target.value } })}
            onKeyDown={(e) => e.key === "Enter" && e.currentTarget.blur()}
          />
          <datalist id="zones">
            {ZONES.map((zone) => (
              <option key={zone} value={zone} />
            ))}
          </datalist>
        </div>
        <Pick
          label={`Dates like 03/04/2026${detected.is_day_first === null ? ": the file does not tell" : ""}`}
          value={options.is_day_first ? "day" : "month"}
          options={[
            ["day", "the day comes first"],
            ["month", "the month comes first"],
          ]}
          isOff={off}
          onPick={(order) => settle.mutate({ options: { is_day_first: order === "day" } })}
        />
        <Pick
          label="Decimal sign"
          value={options.decimal}
          options={[
            ["", "by each number's looks"],
            [".", "point, 1,234.5"],
            [",", "comma, 1.234,5"],
          ]}
          isOff={off}
          onPick={(decimal) => settle.mutate({ options: { decimal } })}
        />
        {isText && (
          <Pick
            label="Encoding"
            value={options.encoding}
            options={preview.encodings.map((e) => [e, e])}
            isOff={off}
            onPick={(encoding) => settle.mutate({ options: { encoding } })}
          />
        )}
        {options.form === "csv" && (
          <Pick
            label="Separated by"
            value={options.delimiter}
            options={Object.entries(DELIMITERS)}
            isOff={off}
            onPick={(delimiter) => settle.mutate({ options: { delimiter } })}
          />
        )}
      </div>
      <h2 className="mt-4 text-[16px]">Which column is what?</h2>
      <table className="w-full">
        <tbody>
          {preview.fields_of_kind.map((field) => {
            const column = preview.mapping[field.key] ?? -1;
            return (
              <tr key={field.key} className="rowline h-9">
                <td className="w-32 pr-3">
                  <label htmlFor={`field-${field.key}`}>
                    {FIELD_NAMES[field.key] ?? field.key}
                    {field.is_needed && <span className="text-muted"> *</span>}
                  </label>
                </td>
                <td className="w-44 pr-3">
                  <select
                    id={`field-${field.key}`}
                    className={inputLook}
                    disabled={off}
                    value={column}
                    onChange={(e) =>
                      settle.mutate({ mapping: remapped(preview.mapping, field.key, Number(e.target.value)) })
                    }
                  >
                    <option value={-1}>not in the file</option>
                    {preview.header.map((name, i) => (
                      // biome-ignore lint/suspicious/noArrayIndexKey: columns are known by their place
                      <option key={i} value={i}>
                        {name || `column ${i + 1}`}
                      </option>
                    ))}
                  </select>
                </td>
                <td className="label max-w-0 truncate">
                  {column >= 0 ? preview.sample.map((row) => row[column]).filter(Boolean)[0] : ""}
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
      <p className="label mt-1">* needed, one of them at least</p>
    </>
  );
}

function Pick({
  label,
  value,
  options,
  isOff,
  onPick,
}: {
  label: string;
  value: string;
  options: [string, string][];
  isOff: boolean;
  onPick: (value: string) => void;
}) {
  const id = `pick-${label.slice(0, 8).replaceAll(" ", "-")}`;
  return (
    <div>
      <label htmlFor={id} className="label block truncate">
        {label}
      </label>
      <select id={id} className={inputLook} disabled={isOff} value={value} onChange={(e) => onPick(e.target.value)}>
        {options.map(([key, name]) => (
          <option key={key} value={key}>
            {name}
          </option>
        ))}
      </select>
    </div>
  );
}
