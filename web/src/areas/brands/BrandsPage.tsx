import { Link } from "react-router";
import { moment } from "../../lib/days";
import { figure, plural, type Unit } from "../../lib/format";
import { useSession } from "../../study/queries";
import { useAddress } from "../../study/useAddress";
import { Choice } from "../../ui/Choice";
import { Cut } from "../../ui/Cut";
import { Delta } from "../../ui/Marks";
import { SortHead } from "../../ui/SortHead";
import { type Overview, useOverviews } from "./queries";
import { brandsTitle, MODES, type Mode, type Row, sorted } from "./rules";

const FIGURES = [
  { key: "followers", name: "Followers" },
  { key: "reach", name: "Reach" },
  { key: "interactions", name: "Interactions" },
  { key: "er_reach", name: "Eng. by reach" },
  { key: "tracked_clicks", name: "Our clicks" },
];
const GRID = "stays grid grid-cols-[150px_repeat(5,minmax(86px,1fr))_minmax(170px,1.9fr)_130px_150px] gap-x-4";

/** Those who look after several brands see what each does and which of them needs a hand; a step leads into it. */
export function BrandsPage() {
  const brands = useSession().data?.brands ?? [];
  const overviews = useOverviews(brands.map((brand) => brand.slug));
  const { params, set } = useAddress();
  const sort = params.get("sort") ?? "-hands";
  const mode: Mode = params.get("by") === "size" ? "size" : "change";
  const rows = brands.map((brand, i) => ({ ...brand, overview: overviews[i]?.data, asked: overviews[i] }));
  const onSort = (next: string) => set("sort", next);
  return (
    <section className="min-h-0 flex-1 overflow-y-auto px-5 py-3" aria-labelledby="brands-title">
      <h1 id="brands-title" className="text-[18px] leading-6">
        {brandsTitle(rows)}
      </h1>
      <p>
        The last 28 whole days of each brand against the 28 before; a figure sorts by{" "}
        <Choice
          label="Figures sort by"
          value={mode}
          options={Object.entries(MODES).map(([value, label]) => ({ value, label }))}
          onChoose={(value) => set("by", value)}
        >
          {MODES[mode]}
        </Choice>
        .
      </p>
      <div role="table" aria-label="All brands" className="mt-2">
        <div role="row" className={`${GRID} rowline label items-end`}>
          <SortHead name="name" sort={sort} onSort={onSort} align="left" first="up">
            Brand
          </SortHead>
          {FIGURES.map(({ key, name }) => (
            <SortHead key={key} name={key} sort={sort} onSort={onSort}>
              {name}
            </SortHead>
          ))}
          <SortHead name="findings" sort={sort} onSort={onSort} align="left">
            Stands out
          </SortHead>
          <SortHead name="planned" sort={sort} onSort={onSort} align="left">
            Goes out in 7 days
          </SortHead>
          <SortHead name="hands" sort={sort} onSort={onSort} align="left">
            Needs a hand
          </SortHead>
        </div>
        {sorted(rows, sort, mode).map((row) => (
          <BrandRow key={row.slug} {...(row as (typeof rows)[number])} />
        ))}
      </div>
    </section>
  );
}

type RowProps = Row & { role: string; asked?: { error: Error | null; refetch: () => void } };

function BrandRow({ slug, name, role, overview, asked }: RowProps) {
  return (
    <div role="row" className={`${GRID} rowline min-h-[54px] items-center py-1.5 hover:bg-panel`}>
      <span role="cell" className="min-w-0">
        <Link to={`/${slug}/results`} className="block text-[15px] font-semibold hover:text-berry">
          <Cut>{name}</Cut>
        </Link>
        {role === "viewer" && <span className="label">may look</span>}
      </span>
      {!overview ? (
        <span role="cell" className="col-span-8 text-muted">
          {asked?.error ? (
            <>
              {asked.error.message}{" "}
              <button type="button" className="under hover:text-berry" onClick={() => asked.refetch()}>
                Try again
              </button>
            </>
          ) : (
            <span
              role="status"
              aria-label={`Loading ${name}`}
              className="late block h-3 w-1/2 animate-pulse bg-rule/60"
            />
          )}
        </span>
      ) : (
        <Told slug={slug} overview={overview} />
      )}
    </div>
  );
}

function Told({ slug, overview }: { slug: string; overview: Overview }) {
  return (
    <>
      {FIGURES.map(({ key }) => {
        const found = overview.figures.find((one) => one.key === key);
        return (
          <span key={key} role="cell" className="text-right">
            <Link to={`/${slug}/results?metric=${key}`} className="block font-semibold hover:text-berry">
              {figure(found?.value, found?.unit as Unit)}
            </Link>
            {found && (
              <span className="text-[12px]">
                <Delta change={found} unit={found.unit as Unit} more={found.more_is_better} none="–" />
              </span>
            )}
          </span>
        );
      })}
      <span role="cell" className="min-w-0">
        {overview.stands_out ? (
          <>
            <Link to={`/${slug}/${overview.stands_out.path}`} className="line-clamp-2 leading-5 hover:text-berry">
              {overview.stands_out.text}
            </Link>
            {overview.findings > 1 && (
              <span className="label">and {plural(overview.findings - 1, "more finding")}</span>
            )}
          </>
        ) : (
          <span className="text-muted">nothing new</span>
        )}
      </span>
      <span role="cell" className="min-w-0">
        <Link to={`/${slug}/plan`} className="hover:text-berry">
          {overview.planned?.count ? (
            plural(overview.planned.count, "post")
          ) : (
            <span className="text-muted">nothing</span>
          )}
        </Link>
        {overview.planned?.next_at && (
          <span className="label block" title={overview.planned.next_title}>
            next {moment(overview.planned.next_at, overview.time_zone)}
          </span>
        )}
      </span>
      <span role="cell" className="min-w-0">
        {overview.hands.length === 0 ? (
          <span className="text-muted">nothing</span>
        ) : (
          overview.hands.map((hand) => (
            <Link
              key={hand.text}
              to={`/${slug}/${hand.path}`}
              className="under block leading-5 font-semibold text-down hover:text-berry"
            >
              {hand.text}
            </Link>
          ))
        )}
      </span>
    </>
  );
}
