import { useParams } from "react-router";
import { useBrand } from "../../study/brand";
import { Failed, Loading } from "../../ui/States";
import { contentOf as assetOf } from "../media";
import { useReport, useShown } from "./queries";
import { ShownSheet, sheetsOf } from "./ShownReport";
import { contentOf } from "./useEditing";

/** All sheets of a report one after the other, for paper: the server opens this page and looks at data-page. */
export function PrintPage() {
  const { brand } = useBrand();
  const id = Number(useParams().report);
  const report = useReport(brand.slug, id);
  const shown = useShown(brand.slug, id, report.data?.edition);
  const error = report.error ?? shown.error;
  const isReady = report.data !== undefined && shown.data !== undefined;
  if (error)
    return (
      <div data-page="failed">
        <Failed error={error} />
      </div>
    );
  if (!isReady) return <Loading what="Setting the pages" />;
  const content = contentOf(report.data);
  return (
    <div data-page="ready" className="sheets min-h-0 flex-1 overflow-y-auto print:overflow-visible">
      {Array.from({ length: sheetsOf(content) }, (_, index) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: sheets stay in their order
        <div key={index} className="sheet-on-paper">
          <ShownSheet
            report={{ ...content, brand: brand.name, shown: shown.data }}
            index={index}
            picture={(asset) => assetOf(brand.slug, asset, "full")}
          />
        </div>
      ))}
    </div>
  );
}
