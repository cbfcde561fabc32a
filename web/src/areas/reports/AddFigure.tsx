import { useState } from "react";
import { Sheet } from "../../ui/Sheet";
import { OFFERS, type Offer } from "./asked";
import { type Item, newName } from "./edit";

type Props = { isOpen: boolean; onClose: () => void; onAdd: (item: Omit<Item, "x" | "y">) => void };

/** Everything that can be placed on a page, found by its words. */
export function AddFigure({ isOpen, onClose, onAdd }: Props) {
  const [text, setText] = useState("");
  const asked = text.trim().toLowerCase();
  const found = OFFERS.filter((one) => `${one.name} ${one.words}`.toLowerCase().includes(asked));
  return (
    <Sheet isOpen={isOpen} onClose={onClose} title="Put something on the page">
      <input
        type="search"
        aria-label="Find a figure"
        placeholder="clicks, audience, competitors …"
        className="mb-2 h-8 w-full border border-rule-strong bg-paper px-2"
        value={text}
        onChange={(e) => setText(e.target.value)}
      />
      <ul>
        {found.map((one) => (
          <li key={`${one.kind} ${one.name}`} className="rowline">
            <button
              type="button"
              className="w-full py-1.5 text-left hover:text-berry"
              onClick={() => {
                onAdd(itemOf(one));
                onClose();
              }}
            >
              <b className="font-semibold">{one.name}</b>
              <span className="label block">{one.words}</span>
            </button>
          </li>
        ))}
      </ul>
      {found.length === 0 && <p className="label">Nothing is called so. Try another word.</p>}
    </Sheet>
  );
}

const itemOf = (offer: Offer): Omit<Item, "x" | "y"> => ({
  id: newName(),
  kind: offer.kind,
  params: offer.params ?? {},
  study: null,
  drawing: offer.drawing,
  title: offer.cells ? offer.name : "",
  cells: offer.cells ?? [],
  rows: 12,
  words: offer.kind === "text" ? [[{ text: "Write here.", item: "", cell: "", what: "now", said: null }]] : [],
  asset: null,
  w: offer.w,
  h: offer.h,
});
