import { useSearchParams } from "react-router";
import { FigureValue } from "../../figures/FigureValue";
import { SaveAs } from "../../figures/SaveAs";
import { figure, percent, plural } from "../../lib/format";
import { networkNamed, useBrand } from "../../study/brand";
import { Choice } from "../../ui/Choice";
import { NetworkMark } from "../../ui/Marks";
import { Empty, Failed, Loading, While } from "../../ui/States";
import { ForesightFrame } from "./ForesightFrame";
import { type Calibration, type CalibrationRow, useCalibration } from "./queries";
import { calibrationTitle, horizonWords, versusWords } from "./rules";

const BAR = 260;
const LEAST = 0.5;
const x = (share: number) => (BAR * (Math.max(LEAST, share) - LEAST)) / (1 - LEAST);

/** Were we right? What was said, held against what came and against two plain rivals. */
export function CalibrationPage() {
  const { brand } = useBrand();
  const [params, setParams] = useSearchParams();
  const tried = params.get("of") !== "said";
  const found = useCalibration(brand.slug, tried);
  return (
    <ForesightFrame
      actions={
        <SaveAs
          name="calibration"
          table={{ kind: "foresight.calibration", params: { of: tried ? "tried" : "said" } }}
        />
      }
    >
      {found.error ? (
        <Failed error={found.error} onRetry={() => found.refetch()} />
      ) : !found.data ? (
        <Loading what="Holding what was said against what came" />
      ) : (
        <While isOld={found.isPlaceholderData}>
          <div className="flex h-[34px] items-center border-b border-rule px-5 narrow:h-auto narrow:px-3 narrow:py-1.5">
            <p>
              Of projections that were{" "}
              <Choice
                label="Which projections"
                value={tried ? "tried" : "said"}
                options={[
                  {
                    value: "tried",
                    label: "tried afterwards on past posts",
                    hint: plural(found.data.tried, "projection"),
                  },
                  {
                    value: "said",
                    label: "said at the time",
                    hint: `${found.data.kept} known, ${found.data.waiting} waiting`,
                  },
                ]}
                onChoose={(of) => setParams(of === "said" ? { of } : {})}
              >
                {tried ? "tried afterwards on past posts" : "said at the time"}
              </Choice>
              {tried
                ? ", each from what was known when its week began"
                : `; ${plural(found.data.waiting, "more is", "more are")} not seven days old yet`}
            </p>
          </div>
          <Body data={found.data} of={tried ? "tried" : "said"} />
        </While>
      )}
    </ForesightFrame>
  );
}

type Of = "tried" | "said";

/** A figure of those that the row holds, which opens its basis; a row of a profile asks for that profile alone. */
function Opens({ row, column, of, children }: { row: CalibrationRow; column: string; of: Of; children: string }) {
  const params = { of, ...(row.profile === null ? {} : { profile: String(row.profile) }) };
  const name = row.horizon_hours === null ? "all" : horizonWords(row.horizon_hours);
  if (row.coverage === null) return children;
  return (
    <FigureValue
      kind="foresight.calibration"
      cell={`${row.horizon_hours ?? "all"}.${column}`}
      params={params}
      label={`${column === "coverage" ? "the share held" : "the typical error"}, ${name}`}
    >
      {children}
    </FigureValue>
  );
}

function Body({ data, of }: { data: Calibration; of: Of }) {
  const all = data.rows.find((r) => r.profile === null && r.horizon_hours === null);
  const byHorizon = data.rows.filter((r) => r.profile === null && r.horizon_hours !== null);
  const profiles = data.profiles.filter((p) => data.rows.some((r) => r.profile === p.id));
  return (
    <div className="grid min-h-0 flex-1 grid-cols-[3fr_2fr]">
      <section className="min-w-0 overflow-y-auto border-r border-rule px-5 py-3" aria-labelledby="right-title">
        <h1 id="right-title" className="text-[18px] leading-6">
          {calibrationTitle(all)}
        </h1>
        <p className="label">
          Share of posts whose interactions at seven days lay in the 80 % interval, with its own 95 % interval; the
          dashed line is what was promised.
        </p>
        {!all || all.coverage === null ? (
          <Empty title="Not enough to judge">
            It takes 20 projections whose posts are seven days old. Those tried on past posts can be looked at
            meanwhile.
          </Empty>
        ) : (
          <>
            <Table
              caption="By the age at which it was said"
              rows={byHorizon}
              of={of}
              name={(r) => horizonWords(r.horizon_hours)}
            />
            <h2 className="mt-5 text-[16px]">By profile</h2>
            <Profiles data={data} profiles={profiles} of={of} />
          </>
        )}
      </section>
      <section className="min-w-0 overflow-y-auto px-5 py-3" aria-labelledby="rivals-title">
        <h2 id="rivals-title" className="text-[18px] leading-6">
          Against two plain rivals
        </h2>
        <p className="label">Typical error as a factor: 1.30 is off by 30 % one way or the other.</p>
        <ul>
          {byHorizon.map((row) => (
            <li key={row.horizon_hours} className="rowline py-1.5">
              <span className="font-semibold">{horizonWords(row.horizon_hours)}</span>{" "}
              {row.error === null ? "too few" : `off by ${figure(row.error, "index")}`}
              {row.versus.map((one) => (
                <span key={one.rival} className={`label block ${one.is_worse ? "text-down" : ""}`}>
                  {versusWords(one)}
                </span>
              ))}
            </li>
          ))}
        </ul>
        <p className="label mt-4">
          Intervals are made of how far off such projections were before on the same profile. A growth that is new, or a
          week unlike any before, can still leave them.
        </p>
      </section>
    </div>
  );
}

type TableProps = { caption: string; rows: CalibrationRow[]; of: Of; name: (row: CalibrationRow) => string };

function Table({ caption, rows, of, name }: TableProps) {
  return (
    <table className="mt-2 w-full">
      <caption className="sr-only">{caption}</caption>
      <thead className="label text-right">
        <tr className="rowline h-7">
          <th className="text-left font-normal">{caption}</th>
          <th className="font-normal">Held</th>
          <th className="w-[290px] pl-4 text-left font-normal">50 to 100 %</th>
          <th className="font-normal">Off by</th>
          <th className="font-normal">Posts</th>
        </tr>
      </thead>
      <tbody>
        {rows.map((row) => (
          <tr key={`${row.profile} ${row.horizon_hours}`} className="rowline h-7 text-right">
            <td className="text-left font-semibold">{name(row)}</td>
            <td>
              <Opens row={row} column="coverage" of={of}>
                {row.coverage === null ? "too few" : percent(row.coverage)}
              </Opens>
            </td>
            <td className="pl-4">
              <Coverage row={row} />
            </td>
            <td>
              <Opens row={row} column="error" of={of}>
                {figure(row.error, "index")}
              </Opens>
            </td>
            <td>{figure(row.n)}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function Coverage({ row }: { row: CalibrationRow }) {
  if (row.coverage === null || row.low == null || row.high == null) return null;
  return (
    <svg width={BAR + 4} height="13" className="block" aria-hidden="true">
      <line x1={x(0.8)} x2={x(0.8)} y1="0" y2="13" stroke="var(--ink)" strokeDasharray="2 2" />
      <rect x={x(row.low)} width={Math.max(2, x(row.high) - x(row.low))} y="3" height="7" fill="var(--q2)" />
      <rect x={x(row.coverage) - 1.25} width="2.5" height="13" fill={row.is_honest ? "var(--q5)" : "var(--berry)"} />
    </svg>
  );
}

type ProfilesProps = { data: Calibration; profiles: Calibration["profiles"]; of: Of };

function Profiles({ data, profiles, of }: ProfilesProps) {
  const { networks } = useBrand();
  const horizons = [...new Set(data.rows.map((r) => r.horizon_hours))].filter((h): h is number => h !== null);
  return (
    <table className="mt-1 w-full">
      <thead className="label text-right">
        <tr className="rowline h-7">
          <th className="text-left font-normal">Profile</th>
          {horizons.map((h) => (
            <th key={h} className="font-normal">
              {horizonWords(h)}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {profiles.map((profile) => (
          <tr key={profile.id} className="rowline h-7 text-right">
            <td className="text-left">
              <span className="inline-flex items-center gap-2">
                <NetworkMark network={networkNamed(networks, profile.network)} />
                {profile.name}
              </span>
            </td>
            {horizons.map((h) => {
              const row = data.rows.find((r) => r.profile === profile.id && r.horizon_hours === h);
              return (
                <td
                  key={h}
                  className={row?.is_honest === false ? "text-berry" : ""}
                  title={
                    row ? `${plural(row.n, "post")}${row.error ? `, off by ${figure(row.error, "index")}` : ""}` : ""
                  }
                >
                  {row?.coverage == null ? (
                    "–"
                  ) : (
                    <Opens row={row} column="coverage" of={of}>
                      {percent(row.coverage)}
                    </Opens>
                  )}
                </td>
              );
            })}
          </tr>
        ))}
      </tbody>
    </table>
  );
}
