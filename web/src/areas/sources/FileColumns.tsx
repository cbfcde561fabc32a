import { useState } from "react";
import { plural } from "../../lib/format";
import { inputLook } from "../../ui/Field";
import type { Preview } from "./queries";
import { FIELD_NAMES, remapped, SURE_WORDS } from "./rules";

const SHOWN_AT_FIRST = 24;

/** The file's own columns in their order: what each is taken for, how surely, what stands in it, and those that nothing uses. */
export function FileColumns({
  preview,
  isOff,
  onMap,
}: {
  preview: Preview;
  isOff: boolean;
  onMap: (mapping: Record<string, number[]>) => void;
}) {
  const [isWhole, setIsWhole] = useState(false);
  const { columns, fields_of_kind: fields, mapping, detected } = preview;
  const used = columns.filter((c) => c.field);
  const unused = columns.filter((c) => !c.field);
  // Of very many columns those come first that are understood, the rest on demand.
  const isMany = columns.length > SHOWN_AT_FIRST;
  const shown = !isMany || isWhole ? columns : used;
  return (
    <section aria-labelledby="columns-title">
      <h2 id="columns-title" className="mt-4 text-[16px]">
        {plural(used.length, "column")} of {columns.length} understood
      </h2>
      <table className="w-full table-fixed">
        <thead className="label text-left">
          <tr>
            <th className="w-[30%] pr-2 font-normal">In the file</th>
            <th className="w-[30%] pr-2 font-normal">taken for</th>
            <th className="pr-2 font-normal">how surely, and what stands in it</th>
          </tr>
        </thead>
        <tbody>
          {shown.map((column) => {
            const name = column.name || `column ${column.index + 1}`;
            const isDamaged = detected.damaged.includes(column.index);
            return (
              <tr key={column.index} className={`rowline ${column.field ? "" : "text-muted"}`}>
                <td className="truncate py-0.5 pr-2" title={name}>
                  <label htmlFor={`column-${column.index}`}>{name}</label>
                </td>
                <td className="py-0.5 pr-2">
                  <select
                    id={`column-${column.index}`}
                    className={inputLook}
                    disabled={isOff}
                    value={column.field}
                    onChange={(e) => onMap(remapped(mapping, fields, column.index, e.target.value))}
                  >
                    <option value="">nothing</option>
                    {fields.map((field) => (
                      <option key={field.key} value={field.key}>
                        {FIELD_NAMES[field.key] ?? field.key}
                        {field.is_needed ? " *" : ""}
                      </option>
                    ))}
                  </select>
                </td>
                <td
                  className={`truncate py-0.5 text-[12.5px] ${isDamaged ? "text-down" : "text-muted"}`}
                  title={column.examples.join(" · ")}
                >
                  {isDamaged ? (
                    "a spreadsheet has rounded these; they tell nothing apart"
                  ) : (
                    <>
                      {SURE_WORDS[column.sure] || column.note}
                      {(SURE_WORDS[column.sure] || column.note) && column.examples.length > 0 && ": "}
                      {column.examples[0]}
                    </>
                  )}
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
      {isMany && (
        <button type="button" className="under mt-1" onClick={() => setIsWhole(!isWhole)}>
          {isWhole ? "Show those that are used" : `Show the other ${unused.length}, which nothing uses`}
        </button>
      )}
      <p className="label mt-1">* needed, one of them at least. Several columns of one count add up.</p>
    </section>
  );
}
