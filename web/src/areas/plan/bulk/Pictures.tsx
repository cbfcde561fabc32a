import { ProblemError } from "../../../api/client";
import { plural } from "../../../lib/format";
import { useBrand } from "../../../study/brand";
import { Notice } from "../../../ui/States";
import { type Batch, useBringPictures } from "./queries";

/** Pictures that come with a table, in an archive: found by the names that stand in its rows. */
export function Pictures({ batch }: { batch: Batch }) {
  const { brand } = useBrand();
  const bring = useBringPictures(brand.slug, batch.id);
  const error = bring.error instanceof ProblemError ? bring.error : null;
  return (
    <div className="mt-4">
      <h3 className="text-[13px] font-semibold">Pictures</h3>
      <p className="label">
        Rows name files of the library or addresses. Others come in a ZIP archive, found by their names in it.
      </p>
      <label className="mt-1 inline-flex h-8 cursor-pointer items-center rounded-[2px] border border-rule-strong px-3 font-semibold focus-within:outline-2 hover:bg-wash">
        {bring.isPending ? "Unpacking the pictures" : "Choose an archive"}
        <input
          type="file"
          aria-label="Choose an archive of pictures"
          className="sr-only"
          accept=".zip,application/zip"
          disabled={bring.isPending}
          onChange={(event) => {
            const file = event.target.files?.[0];
            event.target.value = "";
            if (file) bring.mutate(file);
          }}
        />
      </label>
      <div role="status">
        {bring.data && (
          <p className="mt-1">{plural(bring.data.brought, "file")} brought; they are being looked into.</p>
        )}
      </div>
      {bring.data && bring.data.left_out > 0 && (
        <details className="mt-1">
          <summary className="cursor-pointer">{plural(bring.data.left_out, "file was", "files were")} left out</summary>
          <ul>
            {bring.data.left.map((one, i) => (
              // biome-ignore lint/suspicious/noArrayIndexKey: names come twice, and the list is drawn anew as a whole
              <li key={i} className="rowline break-words py-0.5">
                {one.name} <span className="label">{one.why}</span>
              </li>
            ))}
          </ul>
        </details>
      )}
      {error && (
        <div className="mt-2">
          <Notice kind="wrong">{error.fields.file ?? error.message}</Notice>
        </div>
      )}
    </div>
  );
}
