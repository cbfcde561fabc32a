import { Link, useLocation } from "react-router";
import { printedText } from "../../figures/printing";
import { moment, spanText } from "../../lib/days";
import { figure } from "../../lib/format";
import { networkNamed, useBrand } from "../../study/brand";
import { carriedAll, useStudy } from "../../study/study";
import { Button } from "../../ui/Button";
import { Failed, Loading } from "../../ui/States";
import { useToast } from "../../ui/Toast";
import { Bars, DIMENSIONS } from "./AudiencePage";
import { useAudience, useAudiencePdf, useSummary } from "./queries";

const KEYS = ["followers", "reach", "interactions", "er_reach", "er_followers", "posts_per_week"];

/**
 * The audience on one page of paper, for advertisers: printed by the browser, or made a PDF by the server, which
 * opens this page and looks at data-page.
 */
export function AudienceSheet() {
  const { brand, networks, now } = useBrand();
  const { study } = useStudy();
  const { search } = useLocation();
  const audience = useAudience(brand.slug, study);
  const summary = useSummary(brand.slug, study, KEYS);
  const followers = summary.data?.metrics.find((m) => m.key === "followers");
  const error = audience.error ?? summary.error;
  const pdf = useAudiencePdf(brand.slug, study);
  const say = useToast();
  const isReady = audience.data !== undefined && summary.data !== undefined;
  return (
    <div
      data-page={error ? "failed" : isReady ? "ready" : undefined}
      className="min-h-0 flex-1 overflow-y-auto bg-paper print:overflow-visible print:bg-white"
    >
      <div className="mx-auto flex max-w-[720px] items-center justify-between px-2 py-3 print:hidden">
        <Link to={`/${brand.slug}/results/audience${carriedAll(search)}`} className="under hover:text-berry">
          Back to the audience
        </Link>
        <span className="flex gap-2">
          <Button disabled={!isReady} onClick={() => window.print()}>
            Print
          </Button>
          <Button
            kind="main"
            disabled={!isReady}
            isBusy={pdf.isPending}
            onClick={() => pdf.mutate(undefined, { onError: (e) => say(e.message, "wrong") })}
          >
            {pdf.isPending ? printedText(pdf.page) : "Save as PDF"}
          </Button>
        </span>
      </div>
      {error ? (
        <Failed error={error} />
      ) : !audience.data || !summary.data ? (
        <Loading what="Setting the page" />
      ) : (
        <article className="sheet mx-auto mb-8 max-w-[720px] border border-rule bg-panel px-10 py-8 print:m-0 print:max-w-none print:border-0 print:bg-white print:p-0 print:text-black">
          <header className="flex items-end justify-between border-b-2 border-ink pb-3">
            <div>
              <p className="label">Audience of</p>
              <h1 className="text-[30px] leading-9">{brand.name}</h1>
            </div>
            <p className="label text-right">
              {spanText(study.first, study.last)}
              <br />
              set {moment(now.toISOString(), brand.time_zone)}
            </p>
          </header>
          <dl className="grid grid-cols-6 gap-x-4 py-4">
            {summary.data.metrics.map((m) => (
              <div key={m.key}>
                <dt className="label leading-4">{m.name}</dt>
                <dd className="text-[19px] font-semibold">{figure(m.now.value, m.unit)}</dd>
              </div>
            ))}
          </dl>
          {followers && followers.networks.length > 0 && (
            <p className="border-y border-rule py-2">
              Followers by network:{" "}
              {followers.networks.map((n) => `${networkNamed(networks, n.network).name} ${figure(n.value)}`).join(", ")}
              .
            </p>
          )}
          <div className="mt-3 grid grid-cols-2 gap-x-8 gap-y-4">
            {audience.data.dimensions.map((d) => (
              <section key={d.key}>
                <h2 className="text-[15px]">{DIMENSIONS[d.key] ?? d.key}</h2>
                <Bars
                  dimension={d.key}
                  segments={d.segments.map((s) => ({ ...s, change: null, others: null }))}
                  most={6}
                />
              </section>
            ))}
          </div>
          <footer className="label mt-5 border-t border-rule pt-2">
            Followers are those at the end of the period; somebody who follows two profiles is counted on each. Shares
            are those that the networks tell of, weighted by followers. Engagement is interactions divided by reach, and
            by followers at publishing, over the posts of the period.
          </footer>
        </article>
      )}
    </div>
  );
}
