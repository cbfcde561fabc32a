import { useParams, useSearchParams } from "react-router";
import { useBrand } from "../../study/brand";
import { Failed, Loading } from "../../ui/States";
import { contentOf as assetOf } from "../media";
import type { Look, Page } from "./edit";
import { useReport, useRun, useShown } from "./queries";
import { ShownSheet, sheetsOf } from "./ShownReport";
import { contentOf } from "./useEditing";

/** All sheets of a report one after the other, as it is or as it was sent, for paper: the server opens this page and looks at data-page. */
export function PrintPage() {
  const { brand } = useBrand();
  const id = Number(useParams().report);
  const [params] = useSearchParams();
  const run = Number(params.get("run")) || null;
  const sent = useRun(brand.slug, id, run);
  const report = useReport(brand.slug, id);
  const shown = useShown(brand.slug, id, run ? undefined : report.data?.edition);
  const error = run ? sent.error : (report.error ?? shown.error);
  if (error)
    return (
      <div data-page="failed">
        <Failed error={error} />
      </div>
    );
  const live = report.data && shown.data && { ...contentOf(report.data), shown: shown.data };
  const content = run
    ? sent.data && { ...sent.data, look: sent.data.look as Look, pages: sent.data.pages as Page[] }
    : live;
  if (!content) return <Loading what="Setting the pages" />;
  return (
    <div data-page="ready" className="sheets min-h-0 flex-1 overflow-y-auto print:overflow-visible">
      {Array.from({ length: sheetsOf(content) }, (_, index) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: sheets stay in their order
        <div key={index} className="sheet-on-paper">
          <ShownSheet
            report={{ ...content, brand: brand.name }}
            index={index}
            picture={(asset) => assetOf(brand.slug, asset, "full")}
          />
        </div>
      ))}
    </div>
  );
}
