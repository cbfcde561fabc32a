import { useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import type { ProblemError } from "../../api/client";
import { useBrand } from "../../app/brand";
import { moment } from "../../lib/days";
import { figure, plural } from "../../lib/format";
import { Button } from "../../ui/Button";
import { Field, inputLook } from "../../ui/Field";
import { Failed, Loading, Notice } from "../../ui/States";
import { useToast } from "../../ui/Toast";
import { type Preview, useConfirmImport, useCorrectMapping, useDiscardImport, useImport, useSources } from "./queries";
import { FIELD_NAMES, readAs, remapped } from "./rules";

export function ImportPage() {
  const { brand } = useBrand();
  const id = Number(useParams().item);
  const found = useImport(brand.slug, id);
  return (
    <div className="flex min-h-0 flex-1 flex-col">
      <div className="px-5 pt-3">
        <Link to={`/${brand.slug}/sources/import`} className="label under hover:text-berry">
          All files
        </Link>
      </div>
      {found.error ? (
        <Failed error={found.error} onRetry={() => found.refetch()} />
      ) : !found.data ? (
        <Loading what="Reading the file" />
      ) : (
        <Review key={id} preview={found.data} />
      )}
    </div>
  );
}

function Review({ preview }: { preview: Preview }) {
  const { brand, networks, canChange } = useBrand();
  const { item } = preview;
  const navigate = useNavigate();
  const say = useToast();
  const sources = useSources(brand.slug);
  const correct = useCorrectMapping(brand.slug, item.id);
  const confirm = useConfirmImport(brand.slug, item.id);
  const discard = useDiscardImport(brand.slug);
  const [target, setTarget] = useState("");
  const [newProfile, setNewProfile] = useState("");
  const [network, setNetwork] = useState(networks[0]?.key ?? "");
  const problem = (confirm.error ?? correct.error ?? discard.error) as ProblemError | null;
  const own = (sources.data?.profiles ?? []).filter((p) => p.kind === "own");
  const isWaiting = item.state === "waiting" && canChange;
  if (item.state === "done")
    return (
      <div className="px-5 py-3">
        <h1 className="text-[20px]">{item.file_name}</h1>
        <p className="mt-1">
          {plural(item.accepted, "row was", "rows were")} taken into {item.profile}: {plural(item.added, "new post")},{" "}
          {plural(item.accepted - item.added, "post")} known before, {plural(item.refused, "row")} refused.
        </p>
        <Link to={`/${brand.slug}/results/posts`} className="under mt-2 inline-block font-semibold hover:text-berry">
          See them in Results
        </Link>
      </div>
    );
  return (
    <div className="grid min-h-0 flex-1 grid-cols-[minmax(0,2fr)_minmax(0,3fr)]">
      <section className="min-w-0 overflow-y-auto border-r border-rule px-5 py-2" aria-labelledby="mapping-title">
        <h1 className="text-[19px] leading-6">{item.file_name}</h1>
        <p className="label">
          {plural(item.row_count, "row")}; {readAs(preview.encoding, preview.delimiter)}; times without a zone are read
          in {brand.time_zone}.
        </p>
        {problem && (
          <div className="mt-2">
            <Notice kind="wrong">{Object.values(problem.fields)[0] ?? problem.message}</Notice>
          </div>
        )}
        <h2 id="mapping-title" className="mt-3 text-[16px]">
          Which column is what?
        </h2>
        <table className="w-full">
          <tbody>
            {preview.known_fields.map((field) => {
              const column = preview.mapping[field] ?? -1;
              return (
                <tr key={field} className="rowline h-9">
                  <td className="w-28 pr-3">
                    <label htmlFor={`field-${field}`}>{FIELD_NAMES[field] ?? field}</label>
                  </td>
                  <td className="w-48 pr-3">
                    <select
                      id={`field-${field}`}
                      className={inputLook}
                      disabled={!isWaiting || correct.isPending}
                      value={column}
                      onChange={(e) =>
                        correct.mutate({
                          mapping: remapped(preview.mapping, field, Number(e.target.value)),
                          is_day_first: preview.is_day_first,
                        })
                      }
                    >
                      <option value={-1}>not in the file</option>
                      {preview.header.map((name, i) => (
                        // biome-ignore lint/suspicious/noArrayIndexKey: columns are known by their place
                        <option key={i} value={i}>
                          {name || `column ${i + 1}`}
                        </option>
                      ))}
                    </select>
                  </td>
                  <td className="label max-w-0 truncate">
                    {column >= 0 ? preview.sample.map((row) => row[column]).filter(Boolean)[0] : ""}
                  </td>
                </tr>
              );
            })}
          </tbody>
        </table>
        <label className="mt-3 flex items-center gap-2">
          <input
            type="checkbox"
            disabled={!isWaiting}
            checked={preview.is_day_first}
            onChange={(e) => correct.mutate({ mapping: preview.mapping, is_day_first: e.target.checked })}
            className="h-4 w-4 accent-[var(--berry)]"
          />
          In dates like 03/04/2026 the day comes first
        </label>
      </section>
      <section className="min-w-0 overflow-y-auto px-5 py-2" aria-labelledby="preview-title">
        <h2 id="preview-title" className="text-[19px] leading-6">
          {preview.mapping_problems.length > 0
            ? "This cannot come in yet"
            : `${plural(preview.readable, "row")} can be read${preview.problem_count ? `, ${plural(preview.problem_count, "row")} cannot` : ""}`}
        </h2>
        {preview.mapping_problems.map((text) => (
          <div key={text} className="mt-2">
            <Notice kind="wrong">{text}</Notice>
          </div>
        ))}
        {preview.posts.length > 0 && (
          <table className="mt-2 w-full table-fixed">
            <thead className="label text-left">
              <tr className="h-7 border-b border-rule-strong">
                <th className="w-10 font-normal">Row</th>
                <th className="w-36 font-normal">Published</th>
                <th className="font-normal">Text</th>
                <th className="w-48 font-normal">Figures</th>
              </tr>
            </thead>
            <tbody>
              {preview.posts.slice(0, 6).map((post) => (
                <tr key={post.row} className="rowline h-7">
                  <td className="text-muted">{post.row}</td>
                  <td>{moment(post.published_at, brand.time_zone)}</td>
                  <td className="truncate pr-2">{post.text || <span className="text-muted">none</span>}</td>
                  <td className="truncate text-muted">
                    {Object.entries(post.counts)
                      .map(([key, count]) => `${FIELD_NAMES[key]?.toLowerCase()} ${figure(count)}`)
                      .join(", ")}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        )}
        {preview.problem_count > 0 && (
          <div className="mt-4">
            <h3 className="text-[15px]">{plural(preview.problem_count, "row")} left out, and why</h3>
            <ul className="mt-1 max-h-40 overflow-y-auto border-y border-rule">
              {preview.problems.map((p) => (
                <li key={p.row} className="rowline flex gap-3 py-1">
                  <span className="w-14 text-muted">Row {p.row}</span>
                  <span>
                    {p.column && <strong>{p.column}</strong>} {p.message}
                  </span>
                </li>
              ))}
            </ul>
          </div>
        )}
        {isWaiting && (
          <form
            className="mt-5 flex max-w-lg flex-col gap-3 border-t border-rule pt-4"
            onSubmit={(event) => {
              event.preventDefault();
              confirm.mutate(
                {
                  profile_id: target && target !== "new" ? Number(target) : null,
                  new_profile: target === "new" ? newProfile : "",
                  network,
                },
                { onSuccess: (done) => say(`${plural(done.added, "new post")} came in.`) },
              );
            }}
          >
            <Field label="The posts belong to" error={problem?.fields.profile_id}>
              {(props) => (
                <select {...props} value={target} onChange={(e) => setTarget(e.target.value)}>
                  <option value="">choose a profile</option>
                  {own.map((p) => (
                    <option key={p.id} value={p.id}>
                      {p.name} on {networks.find((n) => n.key === p.network)?.name}
                    </option>
                  ))}
                  <option value="new">a profile that is not collected here</option>
                </select>
              )}
            </Field>
            {target === "new" && (
              <div className="grid grid-cols-2 gap-3">
                <Field label="Its name">
                  {(props) => <input {...props} value={newProfile} onChange={(e) => setNewProfile(e.target.value)} />}
                </Field>
                <Field label="Its network" error={problem?.fields.network}>
                  {(props) => (
                    <select {...props} value={network} onChange={(e) => setNetwork(e.target.value)}>
                      {networks.map((n) => (
                        <option key={n.key} value={n.key}>
                          {n.name}
                        </option>
                      ))}
                    </select>
                  )}
                </Field>
              </div>
            )}
            <div className="flex gap-2">
              <Button
                kind="main"
                type="submit"
                isBusy={confirm.isPending}
                disabled={preview.readable === 0 || preview.mapping_problems.length > 0}
              >
                Bring in {plural(preview.readable, "row")}
              </Button>
              <Button
                onClick={() => discard.mutate(item.id, { onSuccess: () => navigate(`/${brand.slug}/sources/import`) })}
              >
                Throw the file away
              </Button>
            </div>
          </form>
        )}
      </section>
    </div>
  );
}
