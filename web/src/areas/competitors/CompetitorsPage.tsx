import { Link, useSearchParams } from "react-router";
import type { Schemas } from "../../api/client";
import { FigureValue } from "../../figures/FigureValue";
import { SaveAs } from "../../figures/SaveAs";
import { figure, interval, percent, plural, signed, type Unit } from "../../lib/format";
import { networkNamed, useBrand } from "../../study/brand";
import { readChosen, toggled, writeChosen } from "../../study/chosen";
import { MinuteLine } from "../../study/line/MinuteLine";
import { useProfiles } from "../../study/queries";
import { StudySentence } from "../../study/StudySentence";
import { ageName, useStudy } from "../../study/study";
import { Cut } from "../../ui/Cut";
import { CellBar, NetworkMark } from "../../ui/Marks";
import { SortHead } from "../../ui/SortHead";
import { Empty, Failed, Loading } from "../../ui/States";
import { type Standing, useStandings } from "./queries";
import { type Column, place, sorted } from "./rules";

const COLUMNS: { key: Column; name: string; unit: Unit; help: string }[] = [
  { key: "followers", name: "Followers", unit: "count", help: "At the end of the period" },
  { key: "growth", name: "Growth", unit: "rate", help: "Followers at the end against the start" },
  { key: "posts_per_week", name: "Posts a week", unit: "per_week", help: "Days without posts included" },
  {
    key: "interactions_per_post",
    name: "Interactions a post",
    unit: "count",
    help: "Reactions, comments, shares at equal age",
  },
  {
    key: "interactions_per_1000",
    name: "Per 1,000 followers",
    unit: "per_1000",
    help: "Interactions a post for each 1,000 followers at publishing",
  },
];

const text = (value: number | null, unit: Unit, key: Column) =>
  key === "growth" && value !== null ? signed(percent(Math.abs(value)), value) : figure(value, unit);

/** Own and competitors' profiles in one table: ours marked, everybody measured alike from public figures. */
export function CompetitorsPage() {
  const { brand, networks, can } = useBrand();
  const canChange = can("sources.follow");
  const { study, change } = useStudy();
  const [params, setParams] = useSearchParams();
  const sort = params.get("sort") ?? "-interactions_per_1000";
  const found = useStandings(brand.slug, study);
  const onSort = (next: string) =>
    setParams((old) => {
      const changed = new URLSearchParams(old);
      changed.set("sort", next);
      return changed;
    });
  const rows = sorted(found.data?.profiles ?? [], sort);
  const max = (key: Column) => Math.max(0, ...rows.map((row) => row[key].value ?? 0));
  const followed = useProfiles(brand.slug).data?.profiles ?? [];
  const used = networks.filter((n) => followed.some((p) => p.network === n.key && n.has_public_profiles));
  const said = used.map((n) => place(rows, n.key, n.name)).filter((s): s is string => s !== null);
  const chosen = readChosen(study.network);
  return (
    <>
      <MinuteLine />
      <StudySentence>
        <SaveAs name="profiles" table={{ kind: "competitors.standings" }} />
        <NetworkButton isOn={!study.network} onPress={() => change({ network: undefined })}>
          All networks
        </NetworkButton>
        {used.map((n) => (
          <NetworkButton
            key={n.key}
            isOn={chosen.values.includes(n.key) !== chosen.isNot}
            onPress={() => change({ network: writeChosen(toggled(chosen, n.key)) })}
          >
            {n.name}
          </NetworkButton>
        ))}
      </StudySentence>
      <div className="min-h-0 flex-1 overflow-y-auto px-5 py-3">
        <h1 className="text-[18px] leading-6">{said[0] ?? "Who has which audience, and what it does with a post"}</h1>
        <p className="label">
          Posts {ageName(study.age ?? found.data?.age_hours ?? 72)}, from public figures alone, so that all are measured
          alike. Whiskers are 95 % intervals; a short bar with long whiskers says little.
        </p>
        {said.slice(1, 4).map((s) => (
          <p key={s}>{s}.</p>
        ))}
        {found.data?.holes && (
          <p className="text-muted">
            Not collected on every day: {found.data.holes}.{" "}
            <Link to={`/${brand.slug}/sources/health`} className="under hover:text-berry">
              Health
            </Link>
          </p>
        )}
        {found.error ? (
          <Failed error={found.error} onRetry={() => found.refetch()} />
        ) : !found.data ? (
          <Loading what="Loading the profiles" />
        ) : !rows.some((row) => !row.is_own) ? (
          <Empty
            title="No competitor is followed yet"
            action={
              canChange && (
                <Link to={`/${brand.slug}/sources?open=competitor`} className="under font-semibold">
                  Follow a competitor's profile
                </Link>
              )
            }
          >
            A handle is enough; only public figures are read.
          </Empty>
        ) : (
          <div role="table" aria-label="Profiles" className="mt-3">
            <div
              role="row"
              className="grid grid-cols-[minmax(210px,1.2fr)_repeat(5,minmax(130px,1fr))] items-end gap-x-4 border-b border-rule-strong"
            >
              <SortHead name="name" sort={sort} onSort={onSort} align="left" first="up">
                Profile
              </SortHead>
              {COLUMNS.map((column) => (
                <SortHead key={column.key} name={column.key} sort={sort} onSort={onSort}>
                  <span title={column.help}>{column.name}</span>
                </SortHead>
              ))}
            </div>
            {rows.map((row) => (
              <ProfileRow
                key={row.profile_id}
                row={row}
                max={max}
                network={networkNamed(networks, row.network)}
                slug={brand.slug}
              />
            ))}
          </div>
        )}
      </div>
    </>
  );
}

function NetworkButton({ isOn, onPress, children }: { isOn: boolean; onPress: () => void; children: string }) {
  return (
    <button
      type="button"
      aria-pressed={isOn}
      onClick={onPress}
      className={`h-6 ${isOn ? "border-b-2 border-ink font-semibold" : "text-muted hover:text-ink"}`}
    >
      {children}
    </button>
  );
}

function ProfileRow({
  row,
  max,
  network,
  slug,
}: {
  row: Standing;
  max: (key: Column) => number;
  network: Schemas["Network"];
  slug: string;
}) {
  return (
    <div
      role="row"
      className={`rowline grid h-8 grid-cols-[minmax(210px,1.2fr)_repeat(5,minmax(130px,1fr))] items-center gap-x-4 ${row.is_own ? "bg-wash/60 font-semibold shadow-[inset_3px_0_0_var(--berry)]" : "hover:bg-panel"}`}
    >
      <span role="cell" className="flex min-w-0 items-center gap-2 pl-2">
        <NetworkMark network={network} />
        <Link
          to={`/${slug}/timing?profile=${row.profile_id}`}
          className="min-w-0 leading-6 hover:text-berry"
          title={`${row.name}: its week`}
        >
          <Cut>{row.name}</Cut>
        </Link>
        {row.is_own && <span className="label font-normal">us</span>}
      </span>
      {COLUMNS.map((column) => {
        const f = row[column.key];
        const range = f.interval;
        const top = max(column.key);
        return (
          <span
            role="cell"
            key={column.key}
            className="flex items-center justify-end gap-2"
            title={`${plural(f.n, column.key === "followers" || column.key === "growth" ? "reading" : "post")}${f.missing ? `, ${f.missing} too young` : ""}${range ? `; ${interval(range.low, range.high, column.unit)}` : ""}`}
          >
            <FigureValue
              kind="competitors.standings"
              cell={`${row.profile_id}.${column.key}`}
              label={`${column.name}, ${row.name}`}
            >
              {text(f.value, column.unit, column.key)}
            </FigureValue>
            {range && top > 0 ? (
              <svg width="64" height="12" aria-hidden="true">
                <rect
                  x="0"
                  y="2"
                  width={Math.min(64, (64 * (f.value ?? 0)) / (top * 1.25))}
                  height="8"
                  fill={row.is_own ? "var(--berry)" : "var(--tick)"}
                  opacity={f.n < 5 ? 0.4 : 1}
                />
                <path
                  d={`M${(64 * range.low) / (top * 1.25)} 6H${Math.min(64, (64 * range.high) / (top * 1.25))}`}
                  stroke="var(--paper)"
                  strokeWidth="3.4"
                />
                <path
                  d={`M${(64 * range.low) / (top * 1.25)} 6H${Math.min(64, (64 * range.high) / (top * 1.25))}`}
                  stroke="var(--ink)"
                  strokeWidth="1.4"
                />
              </svg>
            ) : (
              <CellBar value={f.value} max={top * 1.25} isOurs={row.is_own} />
            )}
          </span>
        );
      })}
    </div>
  );
}
