import { useRef, useState } from "react";
import { Link, useNavigate } from "react-router";
import { useBrand } from "../../app/brand";
import { moment } from "../../lib/days";
import { plural } from "../../lib/format";
import { Button } from "../../ui/Button";
import { Failed, Loading, Notice } from "../../ui/States";
import { useImports, useUpload } from "./queries";

/** Drop a file: somebody's own columns, read, shown, and only then brought in. */
export function ImportsPage() {
  const { brand, canChange } = useBrand();
  const imports = useImports(brand.slug);
  const upload = useUpload(brand.slug);
  const navigate = useNavigate();
  const [isOver, setOver] = useState(false);
  const picker = useRef<HTMLInputElement>(null);
  const take = (file?: File) => {
    if (file)
      upload.mutate(file, { onSuccess: (preview) => navigate(`/${brand.slug}/sources/import/${preview.item.id}`) });
  };
  return (
    <div className="min-h-0 flex-1 overflow-y-auto px-5 py-4">
      <Link to={`/${brand.slug}/sources`} className="label under hover:text-berry">
        Sources
      </Link>
      <h1 className="text-[20px]">Import posts from a file</h1>
      <p className="max-w-2xl text-muted">
        CSV or XLSX with a row per post and a head of your own names. Which column is what is proposed, and nothing
        comes in before you have seen it.
      </p>
      {canChange && (
        // biome-ignore lint/a11y/noStaticElementInteractions: the button inside chooses a file by keyboard
        <div
          onDragOver={(e) => {
            e.preventDefault();
            setOver(true);
          }}
          onDragLeave={() => setOver(false)}
          onDrop={(e) => {
            e.preventDefault();
            setOver(false);
            take(e.dataTransfer.files[0]);
          }}
          className={`mt-4 flex max-w-2xl flex-col items-start gap-3 border border-dashed p-8 ${isOver ? "border-berry bg-wash" : "border-rule-strong bg-panel"}`}
        >
          <p>Drop the file here, or</p>
          <Button kind="main" isBusy={upload.isPending} onClick={() => picker.current?.click()}>
            {upload.isPending ? "Reading the file" : "Choose a file"}
          </Button>
          <input
            ref={picker}
            type="file"
            accept=".csv,.tsv,.txt,.xlsx"
            aria-label="File of posts"
            className="sr-only"
            tabIndex={-1}
            onChange={(e) => {
              take(e.target.files?.[0]);
              e.target.value = "";
            }}
          />
          <p className="label">At most 20 MB and 100,000 rows.</p>
        </div>
      )}
      {upload.error && (
        <div className="mt-3 max-w-2xl">
          <Notice kind="wrong">{upload.error.message} Nothing was changed.</Notice>
        </div>
      )}
      <h2 className="mt-8 text-[16px]">Files so far</h2>
      {imports.error ? (
        <Failed error={imports.error} />
      ) : !imports.data ? (
        <Loading lines={3} />
      ) : imports.data.length === 0 ? (
        <p className="label">None yet.</p>
      ) : (
        <ul className="max-w-3xl">
          {imports.data.map((item) => (
            <li key={item.id} className="rowline flex items-baseline gap-4 py-1.5">
              <Link to={`/${brand.slug}/sources/import/${item.id}`} className="under font-semibold hover:text-berry">
                {item.file_name}
              </Link>
              <span className="label">{moment(item.created_at, brand.time_zone)}</span>
              <span className="ml-auto">
                {item.state === "waiting"
                  ? `${plural(item.row_count, "row")}, waiting for you`
                  : `${plural(item.accepted, "row")} taken, ${item.added} new, ${item.refused} refused, into ${item.profile ?? "a profile"}`}
              </span>
            </li>
          ))}
        </ul>
      )}
    </div>
  );
}
