import { Link } from "react-router";
import { addDays } from "../../lib/days";
import { figure, plural } from "../../lib/format";
import { useBrand } from "../../study/brand";
import { Button } from "../../ui/Button";
import { StateWord } from "../../ui/Marks";
import { Notice } from "../../ui/States";
import { Notes, Problems } from "./FilePreview";
import { type Preview, useUndoFile } from "./queries";
import { FILE_WORDS, KIND_NAMES, OF_NO_PROFILE, progress } from "./rules";

/** While it comes in and afterwards: progress, what came, what was left out and why, and the way back. */
export function FileOutcome({ preview }: { preview: Preview }) {
  const { brand, can } = useBrand();
  const canChange = can("sources.files");
  const { item } = preview;
  const undo = useUndoFile(brand.slug, item.id);
  const state = FILE_WORDS[item.state];
  const share = progress(item);
  const isMoving = item.state === "running" || item.state === "undoing";
  return (
    <div className="grid min-h-0 flex-1 grid-cols-[minmax(0,5fr)_minmax(0,6fr)]">
      <section className="min-w-0 overflow-y-auto border-r border-rule px-5 py-3">
        <h1 className="truncate text-[18px] leading-6">{item.file_name}</h1>
        <p className="flex items-center gap-3">
          {state && <StateWord tone={state.tone}>{state.word}</StateWord>}
          <span className="label">
            {KIND_NAMES[item.kind]}
            {item.profile && `, into ${item.profile}`}
          </span>
        </p>
        {isMoving && (
          <div className="mt-3">
            <svg width="100%" height="8" role="img" aria-label={`${Math.round(share * 100)} % read`}>
              <rect width="100%" height="8" fill="var(--rule)" />
              <rect width={`${share * 100}%`} height="8" fill="var(--berry)" />
            </svg>
            <p className="mt-1" role="status">
              {item.state === "undoing"
                ? "Being taken out. You may leave this page."
                : `${figure(item.rows_read)} of ${item.is_exact ? "" : "about "}${figure(item.row_count)} rows. You may leave this page.`}
            </p>
          </div>
        )}
        {preview.rebuild && <Rebuilding rebuild={preview.rebuild} />}
        {item.message && (
          <div className="mt-3">
            <Notice kind="wrong">{item.message}</Notice>
          </div>
        )}
        {undo.error && (
          <div className="mt-3">
            <Notice kind="wrong">{undo.error.message}</Notice>
          </div>
        )}
        <dl className="mt-4 grid grid-cols-[auto_1fr] gap-x-6 gap-y-1.5">
          <dt className="label pt-0.5">Rows taken</dt>
          <dd className="font-semibold">{figure(item.accepted)}</dd>
          <dt className="label pt-0.5">New here</dt>
          <dd>
            {figure(item.added)}
            {item.posts_added > 0 && `, with ${plural(item.posts_added, "new post")}`}
          </dd>
          <dt className="label pt-0.5">Known already</dt>
          <dd>
            {item.kind === "posts"
              ? item.known > 0
                ? `${plural(item.known, "row speaks", "rows speak")} of posts that were here`
                : "none"
              : `${figure(Math.max(0, item.accepted - item.added))}, left as they were`}
          </dd>
          {item.together > 0 && (
            <>
              <dt className="label pt-0.5">Said twice</dt>
              <dd>{plural(item.together, "row says", "rows say")} what another row of the file says</dd>
            </>
          )}
          <dt className="label pt-0.5">Left out</dt>
          <dd>{figure(item.refused)}</dd>
        </dl>
        <div className="mt-5 flex flex-wrap items-center gap-3">
          {item.state === "done" && !OF_NO_PROFILE.includes(item.kind) && (
            <Link
              to={`/${brand.slug}/results/posts?${seeThem(item)}`}
              className="inline-flex h-8 items-center rounded-[2px] border border-rule-strong bg-panel px-3 hover:border-ink"
            >
              See them in Results
            </Link>
          )}
          {canChange && (item.state === "done" || item.state === "failed" || item.state === "running") && (
            <Button isBusy={undo.isPending} onClick={() => undo.mutate()}>
              {item.state === "running" ? "Stop and take it out" : "Undo: take out what it brought"}
            </Button>
          )}
          <Link to={`/${brand.slug}/sources/import`} className="under hover:text-berry">
            All files
          </Link>
        </div>
      </section>
      <section className="min-w-0 overflow-y-auto px-5 py-3" aria-labelledby="left-title">
        <div className="flex items-baseline justify-between gap-3">
          <h2 id="left-title" className="text-[18px] leading-6">
            {item.refused === 0
              ? "No row was left out"
              : `${plural(item.refused, "row was", "rows were")} left out, and why`}
          </h2>
          {item.refused > 0 && (
            <a
              href={`/api/brands/${brand.slug}/sources/imports/${item.id}/refused`}
              className="under whitespace-nowrap font-semibold hover:text-berry"
            >
              download them
            </a>
          )}
        </div>
        {item.refused > 0 && (
          <p className="label">Mend them in the download and bring that in: the rest stays as it is.</p>
        )}
        <Problems preview={preview} />
        <Notes preview={preview} />
      </section>
    </div>
  );
}

/** Results on the profile and the days that a file speaks of; the longest period that Results takes, the latest days. */
export function seeThem(item: Preview["item"]): string {
  const query = new URLSearchParams();
  if (item.first_day && item.last_day) {
    const earliest = addDays(item.last_day, -(LONGEST_PERIOD - 1));
    query.set("first", item.first_day > earliest ? item.first_day : earliest);
    query.set("last", item.last_day);
  }
  if (item.profile_id) query.set("profile", String(item.profile_id));
  return query.toString();
}

const LONGEST_PERIOD = 800;

/** The rows are in; what follows from them is still being worked out. */
function Rebuilding({ rebuild }: { rebuild: NonNullable<Preview["rebuild"]> }) {
  const share = rebuild.total > 0 ? Math.min(0.99, rebuild.done / rebuild.total) : 0;
  return (
    <div className="mt-3">
      <svg width="100%" height="8" role="img" aria-label={`${Math.round(share * 100)} % worked out`}>
        <rect width="100%" height="8" fill="var(--rule)" />
        <rect width={`${share * 100}%`} height="8" fill="var(--berry)" />
      </svg>
      <p className="mt-1" role="status">
        {rebuild.is_waiting || rebuild.total === 0
          ? "The rows are in. Their figures are about to be worked out; you may leave this page."
          : `The rows are in. Their figures are being worked out: ${figure(rebuild.done)} of ${figure(rebuild.total)} steps. You may leave this page.`}
      </p>
    </div>
  );
}
