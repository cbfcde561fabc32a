import { useParams } from "react-router";
import { useBrand } from "../../app/brand";
import { plural } from "../../lib/format";
import { Failed, Loading } from "../../ui/States";
import { FileConfirm } from "./FileConfirm";
import { FileOutcome } from "./FileOutcome";
import { FilePreview } from "./FilePreview";
import { FileSettings } from "./FileSettings";
import { type Preview, useImport, useSettleFile } from "./queries";
import { KIND_NAMES, readAs } from "./rules";
import { SourcesBar } from "./SourcesBar";

export function ImportPage() {
  const { brand } = useBrand();
  const id = Number(useParams().item);
  const found = useImport(brand.slug, id);
  return (
    <>
      <SourcesBar />
      {found.error ? (
        <Failed error={found.error} onRetry={() => found.refetch()} />
      ) : !found.data ? (
        <Loading what="Reading the file" />
      ) : found.data.item.state === "waiting" ? (
        <Review key={id} preview={found.data} />
      ) : (
        <FileOutcome key={id} preview={found.data} />
      )}
    </>
  );
}

/** Before anything comes in: what it is, which column is what, how it is written, where it goes. */
function Review({ preview }: { preview: Preview }) {
  const { brand, canChange } = useBrand();
  const { item, detected } = preview;
  const settle = useSettleFile(brand.slug, item.id);
  return (
    <div className="grid min-h-0 flex-1 grid-cols-[minmax(0,5fr)_minmax(0,6fr)]">
      <section className="min-w-0 overflow-y-auto border-r border-rule px-5 py-2" aria-label="What the file is">
        <h1 className="truncate text-[18px] leading-6">{item.file_name}</h1>
        <p className="label">
          {item.is_exact ? "" : "about "}
          {plural(item.row_count, "row")};{" "}
          {readAs(preview.options.form, preview.options.encoding, preview.options.delimiter, preview.options.sheet)}
          {detected.own_table && `; Dakika's own export of ${(KIND_NAMES[detected.own_table] ?? "").toLowerCase()}`}
        </p>
        {detected.is_remembered && (
          <p className="label">
            The columns are taken as you told them for the last file like this
            {detected.remembered_of && ` of ${detected.remembered_of}`}.{" "}
            {canChange && (
              <button
                type="button"
                className="under text-ink hover:text-berry"
                disabled={settle.isPending}
                onClick={() => settle.mutate({ is_forgotten: true })}
              >
                Forget that
              </button>
            )}
          </p>
        )}
        <FileSettings preview={preview} isEditable={canChange} />
      </section>
      <section className="min-w-0 overflow-y-auto px-5 py-2" aria-labelledby="preview-title">
        <FilePreview preview={preview} />
        {canChange && <FileConfirm preview={preview} />}
      </section>
    </div>
  );
}
