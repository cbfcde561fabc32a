import { useState } from "react";
import { Link } from "react-router";
import { FigureValue } from "../../figures/FigureValue";
import { SaveAs } from "../../figures/SaveAs";
import { absolute, figure, percent, signed, type Unit } from "../../lib/format";
import { networkNamed, useBrand } from "../../study/brand";
import { useChosen, useWidths } from "../../study/choices";
import { useProfiles } from "../../study/queries";
import { ageName, useStudy } from "../../study/study";
import { useAddress } from "../../study/useAddress";
import { ColumnEdge } from "../../ui/ColumnEdge";
import { Cut } from "../../ui/Cut";
import { NetworkMark } from "../../ui/Marks";
import { SetChoice } from "../../ui/SetChoice";
import { SortHead } from "../../ui/SortHead";
import { Empty, Failed, Loading } from "../../ui/States";
import { CompetitorsFrame, NobodyFollowed, useWhom } from "./CompetitorsFrame";
import { type Column, type Line, type Row, useTable } from "./queries";
import { FIRST_COLUMNS, figureTitle, headline, placeText, sorted } from "./rules";

const WIDTH = 130;
const WIDTHS: Record<string, number> = {
  name: 210,
  interactions_per_1000: 228,
  interactions_per_week: 150,
  share: 150,
};
const MOST_COLUMNS = 10;
const BAR = 56;

/** Everybody side by side by public figures alone: ours marked, a competitor's profiles as one row that opens. */
export function TablePage() {
  const { brand } = useBrand();
  const { study } = useStudy();
  const { params, set } = useAddress();
  const whom = useWhom();
  const sort = params.get("sort") ?? "-interactions_per_week";
  const found = useTable(brand.slug, study, { set: whom.set, by: whom.by });
  const [keys, choose] = useChosen("competitor-columns", FIRST_COLUMNS);
  const [widths, setWidth] = useWidths("competitor-widths");
  const [open, setOpen] = useState<ReadonlySet<string>>(new Set());
  const all = found.data?.columns ?? [];
  const columns = keys.map((key) => all.find((c) => c.key === key)).filter((c) => c !== undefined);
  const rows = sorted(found.data?.rows ?? [], sort);
  const by = all.find((c) => c.key === sort.replace(/^-/, "")) ?? columns[0];
  const followed = useProfiles(brand.slug).data?.profiles ?? [];
  const usualOf = (key: string) => WIDTHS[key] ?? WIDTH;
  const widthOf = (key: string) => widths[key] ?? usualOf(key);
  const grid = ["name", ...columns.map((c) => c.key)].map((key) => `${widthOf(key)}px`).join(" ");
  const top = (c: Column) => Math.max(0, ...rows.map((row) => row.figures[c.key]?.now.value ?? 0));
  const tableParams = { set: whom.set, by: whom.by };
  const toggle = (key: string) =>
    setOpen((old) => {
      const next = new Set(old);
      if (!next.delete(key)) next.add(key);
      return next;
    });
  return (
    <CompetitorsFrame
      hasRows
      actions={
        <>
          <SetChoice
            label="Columns"
            none="the usual columns"
            groups={[{ name: "Columns", options: all.map((c) => ({ value: c.key, label: c.name })), chosen: keys }]}
            isNot={false}
            onNot={() => undefined}
            onClear={() => choose(FIRST_COLUMNS)}
            onToggle={(_, key) =>
              choose(keys.includes(key) ? keys.filter((k) => k !== key) : [...keys, key].slice(-MOST_COLUMNS))
            }
          >
            Columns
          </SetChoice>
          <SaveAs name="profiles" table={{ kind: "competitors.table", params: tableParams }} />
        </>
      }
    >
      <div className="min-h-0 flex-1 overflow-auto px-5 py-3">
        {found.error ? (
          <Failed error={found.error} onRetry={() => found.refetch()} />
        ) : !found.data ? (
          <Loading what="Loading the profiles" />
        ) : !followed.some((p) => p.kind === "competitor") && !rows.some((row) => !row.is_own) ? (
          <NobodyFollowed>
            Here stands everybody side by side: followers, how often, how much it brings, each with its place.
          </NobodyFollowed>
        ) : rows.length === 0 ? (
          <Empty title="Nobody of this set is on these networks">Take a network out of the sentence above.</Empty>
        ) : (
          <>
            <h1 className="text-[18px] leading-6">{by ? headline(rows, by) : "Everybody side by side"}</h1>
            <p className="label">
              Posts {ageName(study.age ?? found.data.age_hours)}, from public figures alone, so that all are measured
              alike. Before each figure its place, with the places that are not ruled out; whiskers are 95 % intervals.
              {found.data.spread &&
                ` Interactions are spread as over ${figure(found.data.spread.effective, "per_week")} equal members.`}
            </p>
            {found.data.holes && (
              <p className="text-muted">
                Not collected on every day: {found.data.holes}. Such days make nobody better or worse.{" "}
                <Link to={`/${brand.slug}/sources/health`} className="under hover:text-berry">
                  Health
                </Link>
              </p>
            )}
            <div className="mt-3 overflow-x-auto">
              <div role="table" aria-label="Profiles" className="w-max">
                <div
                  role="row"
                  className="grid items-end gap-x-4 border-b border-rule-strong"
                  style={{ gridTemplateColumns: grid }}
                >
                  <SortHead
                    name="name"
                    sort={sort}
                    onSort={(next) => set("sort", next)}
                    align="left"
                    first="up"
                    edge={
                      <ColumnEdge
                        name="names"
                        width={widthOf("name")}
                        usual={usualOf("name")}
                        onWidth={(w) => setWidth("name", w)}
                      />
                    }
                  >
                    {whom.by === "profile" ? "Profile" : "Who"}
                  </SortHead>
                  {columns.map((column) => (
                    <SortHead
                      key={column.key}
                      name={column.key}
                      sort={sort}
                      onSort={(next) => set("sort", next)}
                      edge={
                        <ColumnEdge
                          name={column.name}
                          width={widthOf(column.key)}
                          usual={usualOf(column.key)}
                          onWidth={(w) => setWidth(column.key, w)}
                        />
                      }
                    >
                      <span
                        className="inline-block truncate align-bottom"
                        style={{ maxWidth: widthOf(column.key) - 16 }}
                        title={column.definition}
                      >
                        {column.name}
                      </span>
                    </SortHead>
                  ))}
                </div>
                {rows.map((row) => (
                  <Group
                    key={row.key}
                    row={row}
                    isOpen={open.has(row.key)}
                    onToggle={() => toggle(row.key)}
                    {...{ columns, grid, top, params: tableParams, widthOf }}
                  />
                ))}
              </div>
            </div>
          </>
        )}
      </div>
    </CompetitorsFrame>
  );
}

type Shared = {
  columns: Column[];
  grid: string;
  top: (c: Column) => number;
  params: { set?: number; by?: string };
  widthOf: (key: string) => number;
};

function Group({ row, isOpen, onToggle, ...shared }: Shared & { row: Row; isOpen: boolean; onToggle: () => void }) {
  const inner = row.profiles.length > 1 ? row.profiles : [];
  return (
    <>
      <TableRow line={row} {...shared} onToggle={inner.length ? onToggle : undefined} isOpen={isOpen} />
      {isOpen && inner.map((line) => <TableRow key={line.key} line={line} {...shared} isInner />)}
    </>
  );
}

type RowProps = Shared & { line: Line; isInner?: boolean; isOpen?: boolean; onToggle?: () => void };

function TableRow({ line, columns, grid, top, params, widthOf, isInner, isOpen, onToggle }: RowProps) {
  const { brand, networks } = useBrand();
  const look = !line.is_own
    ? "hover:bg-panel"
    : isInner
      ? "shadow-[inset_3px_0_0_var(--berry)] hover:bg-panel"
      : "bg-wash/60 font-semibold shadow-[inset_3px_0_0_var(--berry)]";
  const one = line.profile_ids.length === 1 ? line.profile_ids[0] : undefined;
  return (
    <div
      role="row"
      className={`rowline grid h-8 items-center gap-x-4 ${look} ${isInner ? "font-normal" : ""}`}
      style={{ gridTemplateColumns: grid }}
    >
      <span role="cell" className={`flex min-w-0 items-center gap-2 ${isInner ? "pl-8" : "pl-2"}`}>
        {onToggle && (
          <button
            type="button"
            aria-expanded={isOpen}
            aria-label={`Profiles of ${line.name}`}
            onClick={onToggle}
            className="flex h-6 w-6 shrink-0 items-center justify-center hover:text-berry"
          >
            <svg width="9" height="9" viewBox="0 0 9 9" aria-hidden="true">
              <path d={isOpen ? "M1 2.5h7L4.5 7z" : "M2.5 1v7L7 4.5z"} fill="currentColor" />
            </svg>
          </button>
        )}
        {one !== undefined ? (
          <>
            <NetworkMark network={networkNamed(networks, line.networks[0] ?? "")} />
            <Link
              to={`/${brand.slug}/results/posts?profile=${one}&sort=-index`}
              className="min-w-0 leading-6 hover:text-berry"
              title={`Posts of ${line.name}`}
            >
              <Cut>{line.name}</Cut>
            </Link>
          </>
        ) : (
          <Cut>{line.name}</Cut>
        )}
        {line.is_own && !isInner && <span className="label font-normal">us</span>}
        {!isInner && line.profile_ids.length > 1 && (
          <span className="label font-normal">{line.profile_ids.length}</span>
        )}
      </span>
      {columns.map((column) => (
        <Cell
          key={column.key}
          {...{ line, column, params }}
          top={top(column)}
          hasRoom={widthOf(column.key) >= 116 && !isInner}
        />
      ))}
    </div>
  );
}

type CellProps = { line: Line; column: Column; top: number; params: Shared["params"]; hasRoom: boolean };

function Cell({ line, column, top, params, hasRoom }: CellProps) {
  const told = line.figures[column.key];
  if (!told) return <span role="cell" />;
  const unit = column.unit as Unit;
  const { now, before, place } = told;
  const isSigned = column.key === "growth" || column.key === "gained";
  const text =
    now.value !== null && isSigned
      ? signed(unit === "rate" ? percent(Math.abs(now.value)) : figure(Math.abs(now.value)), now.value)
      : figure(now.value, unit);
  const change = now.value !== null && before.value !== null ? now.value - before.value : null;
  const title = [
    figureTitle(now, place, column),
    change !== null && `${absolute(change, unit)} against the comparison`,
  ];
  return (
    <span
      role="cell"
      className="flex min-w-0 flex-col items-end justify-center leading-[14px]"
      title={title.filter(Boolean).join("; ")}
    >
      <span className="flex items-baseline gap-1.5">
        {place && place.of > 1 && <span className="label font-normal">{placeText(place)}</span>}
        {!column.is_of_posts && now.missing > 0 && now.value !== null && (
          <span className="label font-normal">
            {line.profile_ids.length - now.missing} of {line.profile_ids.length}
          </span>
        )}
        <FigureValue
          kind="competitors.table"
          cell={`${line.key}.${column.key}`}
          params={params}
          label={`${column.name}, ${line.name}`}
        >
          {text}
        </FigureValue>
      </span>
      {hasRoom && top > 0 && now.value !== null && now.value > 0 && <Bar now={now} top={top} isOurs={line.is_own} />}
    </span>
  );
}

type BarProps = { now: Line["figures"][string]["now"]; top: number; isOurs: boolean };

/** How much that is of the largest, with its interval. */
function Bar({ now, top, isOurs }: BarProps) {
  const x = (value: number) => Math.min(BAR * 1.9, (BAR * 1.9 * value) / (top * 1.15));
  return (
    <svg width={BAR * 1.9} height="6" aria-hidden="true" className="-scale-x-100">
      <rect
        width={x(now.value ?? 0)}
        y="1"
        height="4"
        fill={isOurs ? "var(--berry)" : "var(--tick)"}
        opacity={now.n < 5 && now.interval === null ? 0.5 : 1}
      />
      {now.interval && (
        <path d={`M${x(now.interval.low)} 3H${x(now.interval.high)}`} stroke="var(--ink)" strokeWidth="1.2" />
      )}
    </svg>
  );
}
