import { useDeferredValue, useState } from "react";
import { useBrand } from "../../study/brand";
import { Button } from "../../ui/Button";
import { inputLook } from "../../ui/Field";
import { Sheet } from "../../ui/Sheet";
import { Failed, Loading } from "../../ui/States";
import { Bring } from "./Bring";
import { Collection } from "./Collection";
import { type Asset, type Kind, useAssets, useTags } from "./queries";
import { factsOf } from "./rules";
import { Thumb } from "./Thumb";

type Props = {
  isOpen: boolean;
  onClose: () => void;
  title: string;
  chosen: number[];
  onChosen: (assets: number[]) => void;
  kind?: Kind;
  /** How many at most; one closes at once. */
  most?: number;
};

/** Choosing files of the library, or bringing new ones, in the order that they are clicked. */
export function Picker({ isOpen, onClose, title, chosen, onChosen, kind, most = 20 }: Props) {
  const { brand } = useBrand();
  const [text, setText] = useState("");
  const [tag, setTag] = useState<string>();
  const put = (asset: Asset) => {
    if (most === 1) {
      onChosen([asset.id]);
      onClose();
    } else if (chosen.includes(asset.id)) onChosen(chosen.filter((id) => id !== asset.id));
    else if (chosen.length < most) onChosen([...chosen, asset.id]);
  };
  return (
    <Sheet isOpen={isOpen} onClose={onClose} title={title}>
      <Bring onBrought={(asset) => !chosen.includes(asset.id) && put(asset)} />
      <Collection onBrought={(asset) => !chosen.includes(asset.id) && put(asset)} />
      <div className="mt-3 flex gap-2">
        <input
          type="search"
          aria-label="Search files"
          placeholder="Search by name or by what is to be seen"
          className={inputLook}
          value={text}
          onChange={(event) => setText(event.target.value)}
        />
        <TagChoice tag={tag} onTag={setTag} />
      </div>
      <Found text={text} tag={tag} kind={kind} chosen={chosen} onClick={put} brand={brand.slug} />
      {most > 1 && (
        <div className="sticky bottom-0 mt-3 flex items-center gap-2 border-t border-rule bg-panel pt-3">
          <Button kind="main" onClick={onClose}>
            Done
          </Button>
          <span className="label">{chosen.length} chosen</span>
        </div>
      )}
    </Sheet>
  );
}

/** A tag to choose by, where there are any. */
export function TagChoice({ tag, onTag }: { tag?: string; onTag: (tag?: string) => void }) {
  const { brand } = useBrand();
  const tags = useTags(brand.slug).data ?? [];
  if (tags.length === 0) return null;
  return (
    <select
      aria-label="Tag"
      className="h-8 max-w-[140px] rounded-[2px] border border-rule-strong bg-panel px-1"
      value={tag ?? ""}
      onChange={(event) => onTag(event.target.value || undefined)}
    >
      <option value="">any tag</option>
      {tags.map((one) => (
        <option key={one.tag} value={one.tag}>
          {one.tag} ({one.files})
        </option>
      ))}
    </select>
  );
}

type FoundProps = {
  brand: string;
  text: string;
  tag?: string;
  kind?: Kind;
  chosen: number[];
  onClick: (asset: Asset) => void;
};

function Found({ brand, text, tag, kind, chosen, onClick }: FoundProps) {
  const found = useAssets(brand, { text: useDeferredValue(text) || undefined, tag, kind });
  const assets = found.data?.pages.flatMap((page) => page.assets) ?? [];
  if (found.error) return <Failed error={found.error} onRetry={() => found.refetch()} />;
  if (!found.data) return <Loading what="Loading the files" />;
  if (assets.length === 0) {
    return (
      <p className="label mt-4">{text || tag ? "Nothing is called so." : "No files yet: bring the first above."}</p>
    );
  }
  return (
    <>
      <ul className="mt-3 grid grid-cols-3 gap-2">
        {assets.map((asset) => {
          const place = chosen.indexOf(asset.id);
          return (
            <li key={asset.id}>
              <button
                type="button"
                aria-pressed={place >= 0}
                disabled={asset.state === "refused"}
                title={asset.state === "refused" ? asset.message : `${asset.name}, ${factsOf(asset)}`}
                onClick={() => onClick(asset)}
                className="relative block w-full border border-rule-strong hover:border-berry aria-pressed:border-berry aria-pressed:outline-2 aria-pressed:outline-berry"
              >
                <Thumb brand={brand} asset={asset} shape={1} />
                <span className="block truncate px-1 text-left text-[12px]">{asset.name}</span>
                {place >= 0 && (
                  <span className="absolute top-0 left-0 min-w-5 bg-berry px-1 text-center text-[12px] text-on-berry">
                    {place + 1}
                  </span>
                )}
              </button>
            </li>
          );
        })}
      </ul>
      {found.hasNextPage && (
        <Button className="mt-2" isBusy={found.isFetchingNextPage} onClick={() => found.fetchNextPage()}>
          More
        </Button>
      )}
    </>
  );
}
