import { Link, useNavigate, useParams } from "react-router";
import { plural } from "../../lib/format";
import { useBrand } from "../../study/brand";
import { Button } from "../../ui/Button";
import { Failed, Loading, Notice, While } from "../../ui/States";
import { FileConfirm } from "./FileConfirm";
import { FileOutcome } from "./FileOutcome";
import { FilePreview } from "./FilePreview";
import { FileSettings } from "./FileSettings";
import { type Preview, useDiscardFile, useImport, useSettleFile } from "./queries";
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
      ) : found.data.header.length === 0 && found.data.item.state === "looking" ? (
        <Looking preview={found.data} />
      ) : found.data.header.length === 0 && found.data.item.state === "failed" ? (
        <Unreadable preview={found.data} />
      ) : found.data.item.state === "waiting" || found.data.item.state === "looking" ? (
        <While isOld={found.data.item.state === "looking"}>
          <Review key={id} preview={found.data} />
        </While>
      ) : (
        <FileOutcome key={id} preview={found.data} />
      )}
    </>
  );
}

/** A workbook or an archive on its way through a worker. */
function Looking({ preview }: { preview: Preview }) {
  const { brand } = useBrand();
  const discard = useDiscardFile(brand.slug);
  const navigate = useNavigate();
  const { item } = preview;
  return (
    <div className="px-5 py-4" role="status">
      <h1 className="truncate text-[18px] leading-6">{item.file_name}</h1>
      <p className="mt-1">Being looked into: which tables it holds, and what their columns are.</p>
      <div className="mt-2 h-1.5 w-64 max-w-full animate-pulse bg-berry/50" />
      <p className="label mt-2">
        This takes a second or two, for a large workbook up to a minute. You may leave this page.
      </p>
      <Button
        className="mt-4"
        isBusy={discard.isPending}
        onClick={() => discard.mutate(item.id, { onSuccess: () => navigate(`/${brand.slug}/sources/import`) })}
      >
        Throw it away
      </Button>
    </div>
  );
}

/** What it is instead of a table, and what to do. */
function Unreadable({ preview }: { preview: Preview }) {
  const { brand } = useBrand();
  return (
    <div className="flex max-w-2xl flex-col items-start gap-3 px-5 py-4">
      <h1 className="text-[18px] leading-6">{preview.item.file_name} could not be read</h1>
      <Notice kind="wrong">{preview.item.message} Nothing was changed.</Notice>
      <Link to={`/${brand.slug}/sources/import`} className="under hover:text-berry">
        Bring in another file
      </Link>
    </div>
  );
}

/** Before anything comes in: what it is, which column is what, how it is written, where it goes. */
function Review({ preview }: { preview: Preview }) {
  const { brand, can } = useBrand();
  const canChange = can("sources.files");
  const { item, detected } = preview;
  const settle = useSettleFile(brand.slug, item.id);
  return (
    <div className="grid min-h-0 flex-1 grid-cols-[minmax(0,5fr)_minmax(0,6fr)]">
      <section className="min-w-0 overflow-y-auto border-r border-rule px-5 py-2" aria-label="What the file is">
        <h1 className="truncate text-[18px] leading-6">{item.file_name}</h1>
        {item.message && (
          <div className="my-1">
            <Notice kind="wrong">{item.message} It stands as it stood before.</Notice>
          </div>
        )}
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
                disabled={settle.isPending || item.state === "looking"}
                onClick={() => settle.mutate({ is_forgotten: true })}
              >
                Forget that
              </button>
            )}
          </p>
        )}
        <FileSettings preview={preview} isEditable={canChange && item.state !== "looking"} />
      </section>
      <section className="min-w-0 overflow-y-auto px-5 py-2" aria-labelledby="preview-title">
        <FilePreview preview={preview} />
        {canChange && <FileConfirm preview={preview} />}
      </section>
    </div>
  );
}
