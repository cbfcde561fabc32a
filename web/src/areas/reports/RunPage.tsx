import { Link } from "react-router";
import { moment } from "../../lib/days";
import { plural } from "../../lib/format";
import { useBrand } from "../../study/brand";
import { MinuteLine } from "../../study/line/MinuteLine";
import { Failed, Loading } from "../../ui/States";
import { contentOf as assetOf } from "../media";
import type { Look, Page } from "./edit";
import { useRun } from "./queries";
import { Scaled } from "./Scaled";
import { ShownSheet, sheetsOf } from "./ShownReport";

/** A report with the figures that it was sent with, and which of them are others now. */
export function RunPage({ report, run }: { report: number; run: number }) {
  const { brand } = useBrand();
  const found = useRun(brand.slug, report, run);
  if (found.error) return <Failed error={found.error} onRetry={() => found.refetch()} />;
  if (!found.data) return <Loading what="Opening what was sent" />;
  const { data } = found;
  const seen = {
    title: data.title,
    brand: brand.name,
    look: data.look as Look,
    pages: data.pages as Page[],
    shown: data.shown,
  };
  return (
    <>
      <MinuteLine hasBrush={false} />
      <div className="flex min-h-[38px] flex-wrap items-center gap-x-3 border-b border-rule px-5 py-1 narrow:px-3">
        <Link to={`/${brand.slug}/reports/${report}`} className="under hover:text-berry">
          The report as it is now
        </Link>
        <h1 className="text-[16px]">{data.title}</h1>
        <span className="label">as it was sent {moment(data.run.ended_at ?? data.as_of, brand.time_zone)}</span>
      </div>
      <div className="grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)_300px]">
        <section className="flex min-w-0 flex-col gap-4 overflow-y-auto bg-rule/40 p-4" aria-label="Pages" tabIndex={0}>
          {Array.from({ length: sheetsOf(seen) }, (_, index) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: sheets stay in their order
            <Scaled key={index}>
              {() => (
                <ShownSheet report={seen} index={index} picture={(asset) => assetOf(brand.slug, asset, "preview")} />
              )}
            </Scaled>
          ))}
        </section>
        <section
          className="overflow-y-auto border-l border-rule px-4 py-3"
          aria-label="What changed since"
          tabIndex={0}
        >
          <h2 className="text-[15px]">What changed since</h2>
          {data.changed.length === 0 ? (
            <p className="label">Nothing: these days’ figures are the same now.</p>
          ) : (
            <>
              <p className="label">
                {plural(data.changed.length, "figure")} of these days {data.changed.length === 1 ? "is" : "are"} another
                now: networks corrected them, or more was collected.
              </p>
              <ul>
                {data.changed.map((one) => (
                  <li key={`${one.page} ${one.item} ${one.name}`} className="rowline py-1">
                    {one.name}
                    <span className="label block">
                      {one.sent} then, <b className="font-semibold text-ink">{one.now}</b> now
                      {one.page && `; ${one.page}`}
                    </span>
                  </li>
                ))}
              </ul>
            </>
          )}
        </section>
      </div>
    </>
  );
}
