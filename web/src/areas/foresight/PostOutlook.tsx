import { figure, interval } from "../../lib/format";
import { useBrand } from "../../study/brand";
import { StateWord } from "../../ui/Marks";
import { type PostOutlook as Outlook, useOutlook } from "./queries";
import { headingWords, horizonWords, stateOf } from "./rules";

/** A post at the age it has: what it is heading for, every metric against what is typical then, and what was said before. */
export function PostOutlook({ post }: { post: number }) {
  const { brand } = useBrand();
  const found = useOutlook(brand.slug, post).data;
  if (!found) return null;
  const judged = found.metrics.filter((m) => m.index !== null);
  return (
    <>
      {found.outlook && <HeadingFor outlook={found.outlook} posts={found.posts} />}
      {found.outlook && judged.length > 0 && <Present metrics={found.metrics} />}
      {found.said.length > 0 && <Said said={found.said} isYoung={found.outlook !== null} />}
    </>
  );
}

/** What is needed to draw the way ahead on the chart of its growth. */
export function usePostCourse(post: number) {
  const { brand } = useBrand();
  const found = useOutlook(brand.slug, post).data;
  if (!found?.outlook) return null;
  const { heading, heading_low, heading_high, age_hours, count, index } = found.outlook;
  return { index, heading, low: heading_low, high: heading_high, age_hours, count, course: found.course };
}

function HeadingFor({ outlook, posts }: { outlook: NonNullable<Outlook["outlook"]>; posts: number }) {
  const state = stateOf(outlook);
  return (
    <p className="mt-2">
      <span className="font-semibold">{headingWords(outlook).replace(/^./, (c) => c.toUpperCase())}</span> by seven days
      {Math.round(outlook.heading_low) !== Math.round(outlook.heading_high) && ", 80 %"}.{" "}
      {state.word && <StateWord tone={state.tone}>{state.word}</StateWord>}
      {outlook.band_low !== null && outlook.band_high !== null && (
        <span className="label block">
          19 in 20 of the profile's {outlook.band_posts} posts had{" "}
          {interval(outlook.band_low, outlook.band_high, "count")} at this age.
        </span>
      )}
      {outlook.band_low === null && <span className="label block">From {posts} posts of the profile.</span>}
    </p>
  );
}

function Present({ metrics }: { metrics: Outlook["metrics"] }) {
  return (
    <table className="mt-3 w-full">
      <caption className="text-left text-[15px] font-title">At its present age</caption>
      <thead className="label text-right">
        <tr className="rowline h-6">
          <th className="text-left font-normal">Metric</th>
          <th className="font-normal">Now</th>
          <th className="font-normal">Typical then</th>
          <th className="font-normal">Index</th>
          <th className="font-normal">80 %</th>
        </tr>
      </thead>
      <tbody>
        {metrics.map((m) => (
          <tr key={m.key} className="rowline h-7 text-right">
            <td className="text-left">{m.name}</td>
            <td className="font-semibold">{figure(m.count)}</td>
            <td>{figure(m.typical)}</td>
            <td className="font-semibold">{figure(m.index, "index")}</td>
            <td className="text-muted">
              {m.low !== null && m.high !== null ? interval(m.low, m.high, "index") : figure(null)}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function Said({ said, isYoung }: { said: Outlook["said"]; isYoung: boolean }) {
  const kept = said.filter((s) => !s.is_tried);
  const rows = kept.length > 0 ? kept : said;
  const truth = rows.find((s) => s.truth !== null)?.truth ?? null;
  return (
    <details className="mt-3" open={isYoung}>
      <summary className="cursor-pointer">
        {kept.length > 0 ? "What was said of it" : "What would have been said of it"}
        {truth !== null && `; ${figure(truth)} came by seven days`}
      </summary>
      <table className="w-full">
        <tbody>
          {rows.map((s) => (
            <tr key={s.horizon_hours} className="rowline h-7">
              <td>{horizonWords(s.horizon_hours)}</td>
              <td className="text-right font-semibold">{figure(s.value)}</td>
              <td className="pl-3 text-right text-muted">{interval(s.low, s.high, "count")}</td>
              <td className="pl-3 text-right">
                {s.truth === null
                  ? ""
                  : Math.ceil(s.truth) >= s.low && Math.floor(s.truth) <= s.high
                    ? "held"
                    : "did not hold"}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </details>
  );
}
