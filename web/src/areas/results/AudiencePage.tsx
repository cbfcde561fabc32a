import { Link, useLocation } from "react-router";
import { FigureValue } from "../../figures/FigureValue";
import { SaveAs } from "../../figures/SaveAs";
import { shortDay, spanText } from "../../lib/days";
import { absolute, plural, share } from "../../lib/format";
import { useBrand } from "../../study/brand";
import { carriedAll, languageName, useStudy } from "../../study/study";
import { Cut } from "../../ui/Cut";
import { Empty, Failed, Loading } from "../../ui/States";
import { useAudience } from "./queries";
import { ResultsFrame } from "./ResultsFrame";

export const DIMENSIONS: Record<string, string> = {
  age: "Age",
  gender: "Gender",
  country: "Country",
  language: "Language",
  city: "City",
  source: "How they found us",
};
const MOST = 8;
const countries = new Intl.DisplayNames(["en-GB"], { type: "region" });

export function segmentName(dimension: string, name: string): string {
  if (dimension === "country" && /^[A-Z]{2}$/.test(name)) return countries.of(name) ?? name;
  if (dimension === "language" && /^[a-z]{2,3}$/.test(name)) return languageName(name);
  return name;
}

/** Who follows: each dimension with its change over the period, and the competitors' where networks tell of it. */
export function AudiencePage() {
  const { brand } = useBrand();
  const { study } = useStudy();
  const { search } = useLocation();
  const audience = useAudience(brand.slug, study);
  const dimensions = audience.data?.dimensions ?? [];
  return (
    <ResultsFrame
      actions={
        <>
          <Link
            to={`/${brand.slug}/results/audience/sheet${carriedAll(search)}`}
            className="under font-semibold hover:text-berry"
          >
            One page for advertisers
          </Link>
          <SaveAs name="audience" table={{ kind: "results.audience" }} />
        </>
      }
    >
      <section className="min-h-0 flex-1 overflow-y-auto px-5 py-3" aria-labelledby="audience-title">
        <h1 id="audience-title" className="text-[18px] leading-6">
          Who follows, and how that changed from {spanText(study.first, study.first)} to{" "}
          {spanText(study.last, study.last)}
        </h1>
        {audience.error ? (
          <Failed error={audience.error} onRetry={() => audience.refetch()} />
        ) : !audience.data ? (
          <Loading what="Loading the audience" lines={10} />
        ) : dimensions.length === 0 ? (
          <Empty title="No network has told of this audience">
            It is asked for once a week, of one's own profiles. Choose other profiles, or a later day.
          </Empty>
        ) : (
          <>
            <p className="label">
              Shares over the profiles that tell of them, weighted by followers. The light mark is where a share stood
              at the start; a change of less than a tenth of a point is not said.
            </p>
            <div className="mt-2 grid grid-cols-3 gap-x-8 gap-y-5">
              {dimensions.map((d) => (
                <div key={d.key} className="min-w-0">
                  <h2 className="text-[16px]">{DIMENSIONS[d.key] ?? d.key}</h2>
                  <p className="label">
                    {plural(d.profiles, "profile")}, read {shortDay(d.day)}
                    {d.day_before ? ` and ${shortDay(d.day_before)}` : "; no earlier reading"}
                    {d.others > 0 && `; ${plural(d.others, "competitor profile")} pale`}
                  </p>
                  <Bars dimension={d.key} segments={d.segments} />
                </div>
              ))}
            </div>
          </>
        )}
      </section>
    </ResultsFrame>
  );
}

type Segment = { name: string; share: number; change: number | null; others: number | null };

export function Bars({ dimension, segments, most = MOST }: { dimension: string; segments: Segment[]; most?: number }) {
  const shown = segments.slice(0, most);
  const rest = segments.slice(most).reduce((sum, s) => sum + s.share, 0);
  const max = Math.max(0.01, ...shown.flatMap((s) => [s.share, s.share - (s.change ?? 0), s.others ?? 0]));
  return (
    <table className="mt-1 w-full table-fixed">
      <thead className="sr-only">
        <tr>
          <th>Part</th>
          <th>Share</th>
          <th>Change</th>
          <th>Bar</th>
        </tr>
      </thead>
      <tbody>
        {shown.map((s) => {
          return (
            <tr key={s.name} className="rowline h-7">
              <th scope="row" className="w-[36%] text-left font-normal">
                <Cut>{segmentName(dimension, s.name)}</Cut>
              </th>
              <td className="w-[54px] text-right font-semibold">
                <FigureValue
                  kind="results.audience"
                  cell={`${dimension}/${s.name}.share`}
                  label={`share of ${segmentName(dimension, s.name)}`}
                >
                  {share(s.share)}
                </FigureValue>
              </td>
              <td className="w-[74px] text-right text-[12.5px] text-muted">
                {s.change !== null && Math.abs(s.change) >= 0.001 ? absolute(s.change, "rate") : ""}
              </td>
              <td className="pl-3">
                <svg width="100%" height="14" aria-hidden="true">
                  {s.others !== null && (
                    <rect y="9" width={`${(100 * s.others) / max}%`} height="4" fill="var(--tick)" />
                  )}
                  <rect y="1" width={`${(100 * s.share) / max}%`} height="7" fill="var(--berry)" />
                  {s.change !== null && (
                    <rect
                      x={`${(100 * Math.max(0, s.share - s.change)) / max}%`}
                      y="0"
                      width="2"
                      height="9"
                      fill="var(--against)"
                    />
                  )}
                </svg>
              </td>
            </tr>
          );
        })}
        {rest > 0.0005 && (
          <tr className="h-7 text-muted">
            <th scope="row" className="text-left font-normal">
              {plural(segments.length - most, "more", "more")}
            </th>
            <td className="text-right">{share(rest)}</td>
            <td />
            <td />
          </tr>
        )}
      </tbody>
    </table>
  );
}
