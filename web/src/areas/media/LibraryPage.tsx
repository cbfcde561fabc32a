import { useDeferredValue, useState } from "react";
import { Link, useSearchParams } from "react-router";
import { dayOf, shortDay } from "../../lib/days";
import { plural } from "../../lib/format";
import { useBrand } from "../../study/brand";
import { MinuteLine } from "../../study/line/MinuteLine";
import { Button } from "../../ui/Button";
import { inputLook } from "../../ui/Field";
import { Empty, Failed, Loading } from "../../ui/States";
import { useToast } from "../../ui/Toast";
import { Bring } from "./Bring";
import { Collection } from "./Collection";
import { EditSheet } from "./EditSheet";
import { Picker, TagChoice } from "./Picker";
import {
  type Asset,
  contentOf,
  type Kind,
  useAssets,
  useRemoveAsset,
  useReplaceAsset,
  useSequence,
  useUses,
  useZip,
} from "./queries";
import { factsOf, WHAT } from "./rules";
import { Thumb } from "./Thumb";

/** The brand's files: what there is, what is used where and with what result, and bringing more. */
export function LibraryPage() {
  const { brand, can } = useBrand();
  const canChange = can("media.change");
  const [params, setParams] = useSearchParams();
  const [text, setText] = useState(params.get("text") ?? "");
  const kind = (params.get("kind") ?? undefined) as Kind | undefined;
  const tag = params.get("tag") ?? undefined;
  const [open, setOpen] = useState<Asset | null>(null);
  const [chosen, setChosen] = useState<number[]>([]);
  const found = useAssets(brand.slug, { kind, tag, text: useDeferredValue(text) || undefined });
  const assets = found.data?.pages.flatMap((page) => page.assets) ?? [];
  const current = assets.find((one) => one.id === chosen.at(-1));
  const put = (name: string, value?: string) =>
    setParams((old) => {
      const next = new URLSearchParams(old);
      if (value) next.set(name, value);
      else next.delete(name);
      return next;
    });
  return (
    <>
      <MinuteLine turned="future" hasBrush={false} />
      <div className="flex min-h-[34px] flex-wrap items-center gap-3 border-b border-rule px-5 py-1 narrow:px-3">
        <Link to={`/${brand.slug}/plan`} className="under hover:text-berry">
          Calendar
        </Link>
        <h1 className="text-[16px]">Files</h1>
        <div className="w-[240px]">
          <input
            type="search"
            aria-label="Search files"
            placeholder="Name, or what is to be seen"
            className={inputLook}
            value={text}
            onChange={(event) => setText(event.target.value)}
          />
        </div>
        <select
          aria-label="Kind"
          className="h-8 rounded-[2px] border border-rule-strong bg-panel px-1"
          value={kind ?? ""}
          onChange={(event) => put("kind", event.target.value)}
        >
          <option value="">every kind</option>
          {(Object.keys(WHAT) as (keyof typeof WHAT)[]).map((one) => (
            <option key={one} value={one}>
              {WHAT[one]}s
            </option>
          ))}
        </select>
        <TagChoice tag={tag} onTag={(next) => put("tag", next)} />
      </div>
      <div className="grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)_330px]">
        <div className="min-w-0 overflow-y-auto px-5 py-3 narrow:px-3">
          {canChange && <Bring onBrought={(asset) => setChosen([asset.id])} />}
          {canChange && <Collection onBrought={(asset) => setChosen([asset.id])} />}
          {found.error ? (
            <Failed error={found.error} onRetry={() => found.refetch()} />
          ) : !found.data ? (
            <Loading what="Loading the files" />
          ) : assets.length === 0 ? (
            <Empty title={text || kind || tag ? "Nothing of the kind" : "No files yet"}>
              {text || kind || tag
                ? "Search for another word, or of every kind."
                : "Pictures, videos and documents that posts are made with stand here, with where they were used and what came of it."}
            </Empty>
          ) : (
            <>
              <ul className="stays mt-3 grid grid-cols-[repeat(auto-fill,minmax(132px,1fr))] gap-3">
                {assets.map((asset) => (
                  <li key={asset.id}>
                    <button
                      type="button"
                      aria-pressed={chosen.includes(asset.id)}
                      onClick={(event) =>
                        setChosen((old) =>
                          !(event.ctrlKey || event.metaKey || event.shiftKey)
                            ? [asset.id]
                            : old.includes(asset.id)
                              ? old.filter((id) => id !== asset.id)
                              : [...old, asset.id],
                        )
                      }
                      onDoubleClick={() => setOpen(asset)}
                      className="block w-full border border-rule-strong text-left hover:border-berry aria-pressed:border-berry aria-pressed:outline-2 aria-pressed:outline-berry"
                    >
                      <Thumb brand={brand.slug} asset={asset} shape={1} />
                      <span className="block truncate px-1.5 pt-0.5">{asset.name}</span>
                      <span className="label block truncate px-1.5 pb-0.5">
                        {asset.state === "ready" && asset.kind === "picture" && !asset.words
                          ? "no alternative text"
                          : factsOf(asset)}
                      </span>
                    </button>
                  </li>
                ))}
              </ul>
              {found.hasNextPage && (
                <Button className="mt-3" isBusy={found.isFetchingNextPage} onClick={() => found.fetchNextPage()}>
                  More
                </Button>
              )}
            </>
          )}
        </div>
        <section className="min-w-0 overflow-y-auto border-l border-rule px-4 py-3" aria-label="The chosen file">
          {chosen.length > 1 ? (
            <Several
              chosen={chosen}
              arePictures={chosen.every((id) => assets.find((one) => one.id === id)?.kind === "picture")}
              onDone={() => setChosen([])}
              onMade={(made) => setChosen([made.id])}
            />
          ) : current ? (
            <One key={current.id} asset={current} onOpen={() => setOpen(current)} onGone={() => setChosen([])} />
          ) : (
            <p className="label">
              Choose a file to see where it is used. Hold Control to choose several
              {canChange && "; a double click opens it"}.
            </p>
          )}
        </section>
      </div>
      <EditSheet asset={open} onClose={() => setOpen(null)} onMade={(made) => setChosen([made.id])} />
    </>
  );
}

function One({ asset, onOpen, onGone }: { asset: Asset; onOpen: () => void; onGone: () => void }) {
  const { brand, can } = useBrand();
  const canChange = can("media.change");
  const uses = useUses(brand.slug, asset.id);
  const remove = useRemoveAsset(brand.slug);
  const replace = useReplaceAsset(brand.slug, asset.id);
  const say = useToast();
  const [isReplacing, setReplacing] = useState(false);
  return (
    <>
      <Thumb brand={brand.slug} asset={asset} className="max-h-[220px]" />
      <h2 className="mt-2 break-words text-[16px]">{asset.name}</h2>
      <p className="label">
        {factsOf(asset)}, brought {shortDay(dayOf(asset.created_at, brand.time_zone))}
        {asset.created_by && ` by ${asset.created_by}`}
      </p>
      {asset.message && <p className={asset.state === "refused" ? "text-down" : "text-muted"}>{asset.message}</p>}
      {asset.words ? (
        <p className="mt-1">{asset.words}</p>
      ) : (
        asset.kind === "picture" && <p className="mt-1 text-muted">No alternative text yet.</p>
      )}
      {asset.tags.length > 0 && <p className="label mt-1">{asset.tags.join(", ")}</p>}
      {asset.origin && <p className="label mt-1">From elsewhere: {asset.origin}</p>}
      <div className="mt-2 flex flex-wrap gap-2">
        {asset.state === "ready" && <Button onClick={onOpen}>{canChange ? "Open and work on it" : "Open"}</Button>}
        {asset.state === "ready" && (
          <a
            className="inline-flex h-8 items-center border border-rule-strong px-3 hover:border-ink"
            href={contentOf(brand.slug, asset.id, "original")}
            download={asset.name}
          >
            Download
          </a>
        )}
        {canChange && asset.state === "ready" && <Button onClick={() => setReplacing(true)}>Replace everywhere</Button>}
        {canChange && (
          <Button
            kind="danger"
            isBusy={remove.isPending}
            onClick={() => remove.mutate(asset.id, { onSuccess: onGone })}
          >
            Take away
          </Button>
        )}
      </div>
      {(remove.error ?? replace.error) && (
        <p role="alert" className="mt-1 text-down">
          {(remove.error ?? replace.error)?.message}
        </p>
      )}
      <h3 className="mt-4 text-[15px]">Used for</h3>
      {uses.data?.length === 0 && <p className="label">Nothing yet.</p>}
      <ul>
        {uses.data?.map((use) => (
          <li key={use.text + use.path} className="rowline py-1">
            <Link to={`/${brand.slug}/${use.path}`} className="under hover:text-berry">
              {use.text}
            </Link>
            {use.result && <span className="label block">{use.result}</span>}
          </li>
        ))}
      </ul>
      <Picker
        isOpen={isReplacing}
        onClose={() => setReplacing(false)}
        title={`What stands in place of ${asset.name}`}
        chosen={[]}
        kind={asset.kind || undefined}
        most={1}
        onChosen={([by]) =>
          by !== undefined &&
          replace.mutate(by, {
            onSuccess: ({ posts }) => say(`Replaced in ${plural(posts, "planned post")}; what went out stands.`),
          })
        }
      />
    </>
  );
}

const SHAPES = [
  { name: "9:16", shape: 9 / 16 },
  { name: "1:1", shape: 1 },
  { name: "4:5", shape: 0.8 },
  { name: "16:9", shape: 16 / 9 },
] as const;

type SeveralProps = { chosen: number[]; arePictures: boolean; onDone: () => void; onMade: (asset: Asset) => void };

function Several({ chosen, arePictures, onDone, onMade }: SeveralProps) {
  const { brand, can } = useBrand();
  const sequence = useSequence(brand.slug);
  const [seconds, setSeconds] = useState(2);
  const [shape, setShape] = useState<number>(SHAPES[0].shape);
  const zip = useZip(brand.slug);
  return (
    <>
      <h2 className="text-[16px]">{chosen.length} files</h2>
      <div className="mt-2 flex gap-2">
        <Button
          isBusy={zip.isPending}
          onClick={() =>
            zip.mutate(chosen, {
              onSuccess: (packed) => {
                const link = document.createElement("a");
                link.href = URL.createObjectURL(packed);
                link.download = "files.zip";
                link.click();
                URL.revokeObjectURL(link.href);
              },
            })
          }
        >
          Download as a zip
        </Button>
        <Button kind="quiet" onClick={onDone}>
          Choose none
        </Button>
      </div>
      {can("media.change") && arePictures && (
        <fieldset className="mt-4">
          <legend className="text-[15px] font-semibold">As a short video</legend>
          <p className="label">One after the other, in the order in which they were chosen.</p>
          <div className="mt-1 flex flex-wrap items-center gap-2">
            <label className="flex items-center gap-1">
              <input
                type="number"
                min={0.5}
                max={10}
                step={0.5}
                value={seconds}
                onChange={(event) => setSeconds(Number(event.target.value))}
                className="h-8 w-[64px] rounded-[2px] border border-rule-strong bg-panel px-1"
              />
              seconds each
            </label>
            <select
              aria-label="Shape of the video"
              className="h-8 border border-rule-strong bg-panel px-1"
              value={shape}
              onChange={(event) => setShape(Number(event.target.value))}
            >
              {SHAPES.map((one) => (
                <option key={one.name} value={one.shape}>
                  {one.name}
                </option>
              ))}
            </select>
            <Button
              isBusy={sequence.isPending}
              onClick={() => sequence.mutate({ pictures: chosen, seconds, shape }, { onSuccess: onMade })}
            >
              Make it
            </Button>
          </div>
          {sequence.error && (
            <p role="alert" className="mt-1 text-down">
              {sequence.error.message}
            </p>
          )}
        </fieldset>
      )}
      {zip.error && (
        <p role="alert" className="mt-1 text-down">
          {zip.error.message}
        </p>
      )}
    </>
  );
}
