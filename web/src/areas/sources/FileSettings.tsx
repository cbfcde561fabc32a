import type { ReactNode } from "react";
import type { ProblemError } from "../../api/client";
import { at, dayOf, timeOf } from "../../lib/days";
import { formatNames } from "../../lib/format";
import { useBrand } from "../../study/brand";
import { DateField } from "../../ui/DateField";
import { inputLook } from "../../ui/Field";
import { Notice } from "../../ui/States";
import { TimeField } from "../../ui/TimeField";
import { FileColumns } from "./FileColumns";
import { type Preview, useSettleFile } from "./queries";
import { AS_OF_WHY, DELIMITERS, KIND_NAMES, LAYOUT_NAMES, ORDER_NAMES } from "./rules";

const ZONES = Intl.supportedValuesOf("timeZone");

/** Kind, how it is written, as of when, which column is what: found out, shown, and changeable. Each change reads anew. */
export function FileSettings({ preview, isEditable }: { preview: Preview; isEditable: boolean }) {
  const { brand } = useBrand();
  const { item, options, detected } = preview;
  const settle = useSettleFile(brand.slug, item.id);
  const problem = settle.error as ProblemError | null;
  const off = !isEditable || settle.isPending;
  const isSheeted = detected.sheets.length > 1;
  const isTable = options.form !== "json";
  const set = (changed: NonNullable<Parameters<typeof settle.mutate>[0]["options"]>) =>
    settle.mutate({ options: changed });
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
          isOff={off || detected.own_table !== ""}
          onPick={(kind) => settle.mutate({ kind: kind as Preview["item"]["kind"] })}
        />
        <AsOf preview={preview} isOff={off} onPick={(as_of) => set({ as_of })} />
        {isSheeted && (
          <Pick
            label={options.form === "zip" ? "File in the archive" : "Sheet"}
            value={options.sheet}
            options={detected.sheets.map((sheet) => [sheet, sheet])}
            isOff={off}
            onPick={(sheet) => set({ sheet })}
          />
        )}
        {isTable && (
          <Pick
            label={`Head of the table${options.head_lines > 1 ? ", of two lines" : ""}`}
            value={String(options.head_row)}
            options={Array.from({ length: Math.max(12, options.head_row) }, (_, i) => [
              String(i + 1),
              i === 0 ? "is the first row" : `is row ${i + 1}`,
            ])}
            isOff={off}
            onPick={(row) => set({ head_row: Number(row) })}
          />
        )}
        <Pick
          label="Layout"
          value={options.layout}
          options={Object.entries(LAYOUT_NAMES)}
          isOff={off}
          onPick={(layout) => set({ layout: layout as "rows" })}
        />
        <div>
          <label htmlFor="file-zone" className="label block truncate">
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
            onBlur={(e) => e.target.value !== options.zone && set({ zone: e.target.value })}
            onKeyDown={(e) => e.key === "Enter" && e.currentTarget.blur()}
          />
          <datalist id="zones">
            {ZONES.map((zone) => (
              <option key={zone} value={zone} />
            ))}
          </datalist>
        </div>
        {(detected.date_fits.length > 1 || !options.date_order) && (
          <Pick
            label={`Dates like 03/04/2026: ${detected.date_order ? detected.date_why : "the file does not tell"}`}
            value={options.date_order}
            options={[
              ...(options.date_order ? [] : ([["", "choose"]] as [string, string][])),
              ...Object.entries(ORDER_NAMES),
            ]}
            isOff={off}
            onPick={(order) => order && set({ date_order: order as "dmy" })}
          />
        )}
        <Pick
          label="Decimal sign"
          value={options.decimal}
          options={[
            ["", "by each number's looks"],
            [".", "point, 1,234.5"],
            [",", "comma, 1.234,5"],
          ]}
          isOff={off}
          onPick={(decimal) => set({ decimal })}
        />
        {(options.form === "csv" || options.form === "zip" || options.form === "json") && (
          <Pick
            label="Encoding"
            value={options.encoding}
            options={preview.encodings.map((e) => [e, e])}
            isOff={off}
            onPick={(encoding) => set({ encoding })}
          />
        )}
        {options.form === "csv" && (
          <Pick
            label="Separated by"
            value={options.delimiter}
            options={[
              ...Object.entries(DELIMITERS),
              ...(options.delimiter in DELIMITERS
                ? []
                : ([[options.delimiter, options.delimiter]] as [string, string][])),
            ]}
            isOff={off}
            onPick={(delimiter) => set({ delimiter })}
          />
        )}
        {item.kind === "conversions" && (
          <Pick
            label="Amounts without a currency are in"
            value={options.currency}
            options={[["", "their goal's currency"], ...CURRENCIES.map((c): [string, string] => [c, c])]}
            isOff={off}
            onPick={(currency) => set({ currency })}
          />
        )}
      </div>
      {preview.unknown_formats.length > 0 && (
        <Formats preview={preview} isOff={off} onPick={(formats) => set({ formats })} />
      )}
      <FileColumns preview={preview} isOff={off} onMap={(mapping) => settle.mutate({ mapping })} />
    </>
  );
}

const CURRENCIES = ["EUR", "USD", "GBP", "BRL", "CHF", "TRY", "CAD", "AUD", "JPY", "MXN", "PLN", "SEK", "DKK", "NOK"];

/** As of when the figures were read: the day and the clock of the brand, with what says so. */
function AsOf({ preview, isOff, onPick }: { preview: Preview; isOff: boolean; onPick: (at: string) => void }) {
  const { brand, today } = useBrand();
  const { options, detected } = preview;
  if (!options.as_of) return <span />;
  const zone = brand.time_zone;
  const day = dayOf(options.as_of, zone);
  const time = timeOf(new Date(options.as_of).toISOString(), zone);
  const change = (nextDay: string, nextTime: string) => {
    if (/^\d{4}-\d{2}-\d{2}$/.test(nextDay) && /^\d{2}:\d{2}$/.test(nextTime) && (nextDay !== day || nextTime !== time))
      onPick(at(nextDay, nextTime, zone));
  };
  return (
    <div>
      <span className="label block truncate" id="as-of-label" title={AS_OF_WHY[detected.as_of_why]}>
        The figures are as of: {AS_OF_WHY[detected.as_of_why] || "as told"}
      </span>
      <span className="flex gap-2" role="group" aria-labelledby="as-of-label">
        <DateField
          aria-label="Day of the export"
          value={day}
          today={today}
          disabled={isOff}
          onChange={(next) => change(next, time)}
        />
        <TimeField
          aria-label="Time of the export"
          value={time}
          disabled={isOff}
          className={`${inputLook} !w-20`}
          onChange={(next) => change(day, next)}
        />
      </span>
    </div>
  );
}

/** The file's own words for formats that are not understood: what each means. */
function Formats({
  preview,
  isOff,
  onPick,
}: {
  preview: Preview;
  isOff: boolean;
  onPick: (formats: Preview["options"]["formats"] & Record<string, "text">) => void;
}) {
  const told = preview.options.formats;
  return (
    <div className="mt-3">
      <h2 className="text-[16px]">What are these formats?</h2>
      <div className="mt-1 grid grid-cols-2 gap-x-4 gap-y-2">
        {preview.unknown_formats.map((word) => (
          <Pick
            key={word}
            label={`“${word}”`}
            value={told[word.toLowerCase()] ?? "other"}
            options={Object.entries(formatNames).map(([key, name]) => [key, key === "other" ? "none of these" : name])}
            isOff={isOff}
            onPick={(format) => onPick({ ...told, [word]: format } as never)}
          />
        ))}
      </div>
    </div>
  );
}

export function Pick({
  label,
  value,
  options,
  isOff,
  onPick,
}: {
  label: ReactNode & string;
  value: string;
  options: [string, string][];
  isOff: boolean;
  onPick: (value: string) => void;
}) {
  const id = `pick-${label.slice(0, 12).replaceAll(/[^\w]+/g, "-")}`;
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
