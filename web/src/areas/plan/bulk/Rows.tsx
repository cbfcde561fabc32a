import { useVirtualizer } from "@tanstack/react-virtual";
import { useRef, useState } from "react";
import { Link } from "react-router";
import { moment } from "../../../lib/days";
import { networkNamed, useBrand } from "../../../study/brand";
import { useProfiles } from "../../../study/queries";
import { Button } from "../../../ui/Button";
import { inputLook } from "../../../ui/Field";
import { NetworkMark } from "../../../ui/Marks";
import type { Row, useBatchActs } from "./queries";
import { FIELDS, writtenIn, wrongFields } from "./rules";

type Props = { rows: Row[]; isEditable: boolean; mend: ReturnType<typeof useBatchActs>["mend"] };
const USUAL_HEIGHT = 40;

/** Each row as it would go out, with what is wrong beside the field, mended where it stands. */
export function Rows({ rows, isEditable, mend }: Props) {
  const scroll = useRef<HTMLDivElement>(null);
  const shown = useVirtualizer({
    count: rows.length,
    getScrollElement: () => scroll.current,
    estimateSize: () => USUAL_HEIGHT,
    getItemKey: (i) => rows[i]?.number ?? i,
    overscan: 12,
  });
  return (
    <div
      ref={scroll}
      className="scrolls min-h-0 flex-1 overflow-auto px-5 narrow:h-[70vh] narrow:px-3"
      tabIndex={0}
      role="region"
      aria-label="The rows of the table"
    >
      <ol className="relative min-w-[560px]" style={{ height: shown.getTotalSize() }}>
        {shown.getVirtualItems().map((item) => {
          const row = rows[item.index];
          if (!row) return null;
          return (
            <li
              key={item.key}
              ref={shown.measureElement}
              data-index={item.index}
              className="rowline absolute inset-x-0"
              style={{ top: item.start }}
            >
              <OneRow row={row} isEditable={isEditable} mend={mend} />
            </li>
          );
        })}
      </ol>
    </div>
  );
}

function OneRow({ row, isEditable, mend }: { row: Row } & Omit<Props, "rows">) {
  const { brand, networks } = useBrand();
  const profiles = useProfiles(brand.slug).data?.profiles ?? [];
  const advice = row.problems.filter((one) => !one.is_blocking);
  const files = row.media.length + row.addresses.length;
  return (
    <div className="py-1.5">
      <div className="flex items-baseline gap-3">
        <span className="label w-9 shrink-0 text-right">{row.number}</span>
        <span className="w-[118px] shrink-0">{row.at ? moment(row.at, brand.time_zone) : "no time"}</span>
        <span className="flex w-[104px] shrink-0 flex-wrap gap-1">
          {row.profiles.map((id) => {
            const profile = profiles.find((p) => p.id === id);
            return profile && <NetworkMark key={id} network={networkNamed(networks, profile.network)} />;
          })}
        </span>
        <span className="min-w-0 flex-1 truncate" title={row.values.text}>
          {row.values.title && <span className="font-semibold">{row.values.title} </span>}
          {row.values.text || row.values.headline || <span className="text-muted">no text</span>}
        </span>
        {files > 0 && <span className="label shrink-0">{files === 1 ? "a file" : `${files} files`}</span>}
        {row.planned !== null && (
          <Link to={`/${brand.slug}/plan/${row.planned}`} className="under shrink-0 hover:text-berry">
            open it
          </Link>
        )}
      </div>
      {row.made_problem && <p className="pl-12 text-[12.5px] text-down">It could not be made: {row.made_problem}</p>}
      {wrongFields(row).map(([field, said]) => (
        <Mending key={field} row={row} field={field} said={said} isEditable={isEditable} mend={mend} />
      ))}
      {advice.length > 0 && (
        <p className="truncate pl-12 text-[12.5px] text-muted" title={advice.map((one) => one.message).join(" ")}>
          {advice.map((one) => one.message).join(" ")}
        </p>
      )}
    </div>
  );
}

type MendingProps = { row: Row; field: string; said: string[] } & Omit<Props, "rows">;

/** What is wrong with a field of a row, and another value in its place. */
function Mending({ row, field, said, isEditable, mend }: MendingProps) {
  const [value, setValue] = useState(() => writtenIn(row, field));
  const isLong = field === "text" || field === "first_comment";
  const label = `${FIELDS[field] ?? field} of row ${row.number}`;
  return (
    <form
      className="flex flex-wrap items-start gap-2 pl-12 pt-1"
      onSubmit={(event) => {
        event.preventDefault();
        mend.mutate({ number: row.number, values: { [field]: value } });
      }}
    >
      <span className="min-w-[180px] flex-1 text-[12.5px] text-down">{said.join(" ")}</span>
      {isEditable && (
        <>
          {isLong ? (
            <textarea
              aria-label={label}
              rows={2}
              className={`${inputLook} h-auto py-1`}
              style={{ width: 320 }}
              value={value}
              onChange={(event) => setValue(event.target.value)}
            />
          ) : (
            <input
              aria-label={label}
              placeholder={field === "at" ? "2026-12-24 19:30" : ""}
              className={inputLook}
              style={{ width: 240 }}
              value={value}
              onChange={(event) => setValue(event.target.value)}
            />
          )}
          <Button type="submit" isBusy={mend.isPending && mend.variables?.number === row.number}>
            Mend it
          </Button>
        </>
      )}
    </form>
  );
}
