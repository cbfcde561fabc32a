import { useState } from "react";
import { useBrand } from "../../study/brand";
import { Button } from "../../ui/Button";
import { inputLook } from "../../ui/Field";
import { type Asset, useBringFromCollection, useCollection } from "./queries";

/** An outside collection, searched from here; what is brought keeps its author and licence. */
export function Collection({ onBrought }: { onBrought: (asset: Asset) => void }) {
  const { brand } = useBrand();
  const [text, setText] = useState("");
  const [asked, setAsked] = useState("");
  const found = useCollection(brand.slug, asked);
  const bring = useBringFromCollection(brand.slug);
  return (
    <details className="mt-2 border border-rule p-2">
      <summary className="cursor-pointer">From an outside collection</summary>
      <form
        className="mt-2 flex gap-1"
        onSubmit={(event) => {
          event.preventDefault();
          setAsked(text);
        }}
      >
        <input
          type="search"
          aria-label="A word to look for in the collection"
          placeholder="What is to be seen"
          className={inputLook}
          value={text}
          onChange={(event) => setText(event.target.value)}
        />
        <Button type="submit" isBusy={found.isFetching}>
          Search
        </Button>
      </form>
      {(found.error ?? bring.error) && (
        <p role="alert" className="mt-1 text-down">
          {(found.error ?? bring.error)?.message}
        </p>
      )}
      {found.data?.length === 0 && <p className="label mt-1">The collection has nothing of the kind.</p>}
      <ul className="stays mt-2 grid grid-cols-[repeat(auto-fill,minmax(110px,1fr))] gap-2">
        {found.data?.map((one) => (
          <li key={one.key}>
            <button
              type="button"
              disabled={bring.isPending}
              onClick={() => bring.mutate(one.key, { onSuccess: onBrought })}
              className="block w-full border border-rule-strong text-left hover:border-berry disabled:opacity-60"
            >
              <img src={one.preview} alt={one.title} loading="lazy" className="aspect-[4/3] w-full object-cover" />
              <span className="block truncate px-1 text-[12px]">{one.title}</span>
              <span className="label block truncate px-1">
                {one.author}, {one.licence}
              </span>
            </button>
          </li>
        ))}
      </ul>
    </details>
  );
}
