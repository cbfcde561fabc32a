import { useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import type { ProblemError } from "../../api/client";
import { networkNamed, useBrand } from "../../app/brand";
import { figure, plural } from "../../lib/format";
import { Button } from "../../ui/Button";
import { Field } from "../../ui/Field";
import { StateWord } from "../../ui/Marks";
import { Failed, Loading, Notice } from "../../ui/States";
import { useToast } from "../../ui/Toast";
import { FilePreview } from "./FilePreview";
import { FileSettings } from "./FileSettings";
import { type Preview, useConfirmFile, useDiscardFile, useImport, useSources, useUndoFile } from "./queries";
import { FILE_WORDS, KIND_NAMES, OF_NO_PROFILE, progress, readAs } from "./rules";
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
        <Outcome key={id} preview={found.data} />
      )}
    </>
  );
}

/** Before anything comes in: what it is, which column is what, how it is written, where it goes. */
function Review({ preview }: { preview: Preview }) {
  const { canChange } = useBrand();
  const { item } = preview;
  return (
    <div className="grid min-h-0 flex-1 grid-cols-[minmax(0,5fr)_minmax(0,6fr)]">
      <section className="min-w-0 overflow-y-auto border-r border-rule px-5 py-2" aria-label="What the file is">
        <h1 className="truncate text-[18px] leading-6">{item.file_name}</h1>
        <p className="label">
          {item.is_exact ? "" : "about "}
          {plural(item.row_count, "row")};{" "}
          {readAs(preview.options.form, preview.options.encoding, preview.options.delimiter)}
          {preview.detected.is_remembered && "; the columns are taken as you told them for the last file like this"}
        </p>
        <FileSettings preview={preview} isEditable={canChange} />
      </section>
      <section className="min-w-0 overflow-y-auto px-5 py-2" aria-labelledby="preview-title">
        <FilePreview preview={preview} />
        {canChange && <Confirm preview={preview} />}
      </section>
    </div>
  );
}

function Confirm({ preview }: { preview: Preview }) {
  const { brand, networks } = useBrand();
  const { item } = preview;
  const navigate = useNavigate();
  const say = useToast();
  const sources = useSources(brand.slug);
  const confirm = useConfirmFile(brand.slug, item.id);
  const discard = useDiscardFile(brand.slug);
  const names = "profile_handle" in preview.mapping && "profile_network" in preview.mapping;
  const [target, setTarget] = useState(names ? "rows" : "");
  const [newProfile, setNewProfile] = useState("");
  const [network, setNetwork] = useState("");
  const problem = (confirm.error ?? discard.error) as ProblemError | null;
  const needsProfile = !OF_NO_PROFILE.includes(item.kind);
  const own = (sources.data?.profiles ?? []).filter((p) => p.kind === "own");
  const others = (sources.data?.profiles ?? []).filter((p) => p.kind !== "own");
  const nameOf = (key: string) => networkNamed(networks, key).name;
  const option = (p: (typeof own)[number]) => (
    <option key={p.id} value={p.id}>
      {p.name} on {nameOf(p.network)}
    </option>
  );
  return (
    <form
      className="mt-4 flex max-w-lg flex-col gap-3 border-t border-rule pt-3"
      onSubmit={(event) => {
        event.preventDefault();
        confirm.mutate({
          profile_id: target && target !== "new" && target !== "rows" ? Number(target) : null,
          new_profile: target === "new" ? newProfile : "",
          network: target === "new" ? network : "",
          is_per_row: target === "rows",
        });
      }}
    >
      {problem && <Notice kind="wrong">{Object.values(problem.fields)[0] ?? problem.message}</Notice>}
      {needsProfile && (
        <Field label="The rows belong to" error={problem?.fields.profile_id}>
          {(props) => (
            <select {...props} value={target} onChange={(e) => setTarget(e.target.value)}>
              <option value="">choose a profile</option>
              {names && <option value="rows">the profile that each row names</option>}
              <optgroup label="Ours">{own.map(option)}</optgroup>
              {others.length > 0 && <optgroup label="Competitors'">{others.map(option)}</optgroup>}
              <option value="new">a profile that is not here yet</option>
            </select>
          )}
        </Field>
      )}
      {target === "new" && (
        <div className="grid grid-cols-2 gap-3">
          <Field label="Its name">
            {(props) => <input {...props} value={newProfile} onChange={(e) => setNewProfile(e.target.value)} />}
          </Field>
          <Field label="Its network" help="Any, also one that is not collected here" error={problem?.fields.network}>
            {(props) => (
              <>
                <input {...props} list="networks" value={network} onChange={(e) => setNetwork(e.target.value)} />
                <datalist id="networks">
                  {networks.map((n) => (
                    <option key={n.key} value={n.key}>
                      {n.name}
                    </option>
                  ))}
                </datalist>
              </>
            )}
          </Field>
        </div>
      )}
      <div className="flex gap-3">
        <Button
          kind="main"
          type="submit"
          isBusy={confirm.isPending}
          disabled={preview.mapping_problems.length > 0 || preview.readable === 0 || (needsProfile && !target)}
        >
          Bring in {item.is_exact ? "" : "about "}
          {plural(item.row_count - (item.row_count === preview.rows_looked_at ? preview.problem_count : 0), "row")}
        </Button>
        <Button
          isBusy={discard.isPending}
          onClick={() =>
            discard.mutate(item.id, {
              onSuccess: () => {
                say("The file was thrown away. Nothing was changed.");
                navigate(`/${brand.slug}/sources/import`);
              },
            })
          }
        >
          Throw it away
        </Button>
      </div>
    </form>
  );
}

/** While it comes in and afterwards: progress, what came, what was left out and why, and the way back. */
function Outcome({ preview }: { preview: Preview }) {
  const { brand, canChange } = useBrand();
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
          <dd>{figure(Math.max(0, item.accepted - item.added))}, left as they were</dd>
          <dt className="label pt-0.5">Left out</dt>
          <dd>{figure(item.refused)}</dd>
        </dl>
        <div className="mt-5 flex flex-wrap items-center gap-3">
          {item.state === "done" && !OF_NO_PROFILE.includes(item.kind) && (
            <Link
              to={`/${brand.slug}/results/posts`}
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
      </section>
    </div>
  );
}

export function Problems({ preview }: { preview: Preview }) {
  if (preview.problems.length === 0) return null;
  return (
    <ul
      className="mt-2 max-h-[420px] overflow-y-auto border-y border-rule"
      tabIndex={0}
      aria-label="Rows that were left out"
    >
      {preview.problems.map((p) => (
        <li key={p.row} className="rowline flex gap-3 py-1">
          <span className="w-20 shrink-0 text-muted">Row {figure(p.row)}</span>
          <span>
            {p.column && <strong>{p.column}</strong>} {p.message}
          </span>
        </li>
      ))}
    </ul>
  );
}
