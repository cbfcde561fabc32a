import { useEffect, useRef, useState } from "react";
import { FigureValue } from "../../figures/FigureValue";
import { Button } from "../../ui/Button";
import type { Page, Segment } from "./edit";
import type { ReadSegment, ShownPage } from "./queries";
import { ReadWords } from "./ReadWords";
import { read, written } from "./segments";

type Props = {
  page: Page;
  shown?: ShownPage;
  isEditable: boolean;
  onChange: (words: Segment[][] | null) => void;
};

/** A page's words: made by rule until somebody edits them; their numbers open their basis and renew either way. */
export function PageWords({ page, shown, isEditable, onChange }: Props) {
  const [isEditing, setEditing] = useState(false);
  const words = (shown?.words ?? []) as ReadSegment[][];
  if (isEditing)
    return (
      <WordsEditor
        words={words}
        onDone={(next) => {
          setEditing(false);
          if (next !== null) onChange(next);
        }}
      />
    );
  return (
    <div className="group relative h-full pr-24">
      <ReadWords words={words} isByHand={page.words !== null} onNumber={(one) => <Bound one={one} shown={shown} />} />
      {words.length === 0 && <p className="label">{isEditable ? "No words yet." : ""}</p>}
      {isEditable && (
        <span className="absolute right-0 top-0 flex flex-col items-end gap-0.5">
          <button type="button" className="under text-[13px] hover:text-berry" onClick={() => setEditing(true)}>
            Edit the words
          </button>
          {page.words !== null && (
            <button type="button" className="under text-[13px] hover:text-berry" onClick={() => onChange(null)}>
              Make them anew
            </button>
          )}
        </span>
      )}
    </div>
  );
}

/** A number in the words: opens its basis; marked where its figure is gone or goes another way than is said. */
function Bound({ one, shown }: { one: ReadSegment; shown?: ShownPage }) {
  const item = shown?.items.find((each) => each.id === one.item);
  const cell = item?.cells.find((each) => each.key === one.cell);
  if (!item || !cell || one.is_gone)
    return (
      <b className="text-(--sheet-down) line-through" title="The figure of this number is not on the page any more.">
        {one.text}
      </b>
    );
  return (
    <FigureValue kind={item.kind} cell={one.cell} params={item.query} label={cell.name} className={"font-semibold"}>
      {one.text}
      {one.has_turned && (
        <span
          className="ml-0.5 text-[11px] text-(--sheet-down)"
          title="It goes another way than when this was written."
        >
          turned
        </span>
      )}
    </FigureValue>
  );
}

function WordsEditor({ words, onDone }: { words: ReadSegment[][]; onDone: (words: Segment[][] | null) => void }) {
  const at = useRef<HTMLDivElement>(null);
  // Written once: what is typed is the element's own from then on.
  const first = useRef(words);
  useEffect(() => {
    if (!at.current) return;
    written(at.current, first.current);
    at.current.focus();
  }, []);
  const done = () => at.current && onDone(read(at.current));
  return (
    <div className="flex h-full gap-3">
      <div
        ref={at}
        role="textbox"
        aria-multiline="true"
        aria-label="Words of the page"
        tabIndex={0}
        contentEditable
        suppressContentEditableWarning
        spellCheck
        className="min-w-0 flex-1 overflow-y-auto border border-(--sheet-accent) bg-(--sheet-ground) px-2 py-1 text-[15px] text-(--sheet-ink)"
        onPaste={(event) => {
          event.preventDefault();
          document.execCommand("insertText", false, event.clipboardData.getData("text/plain"));
        }}
        onKeyDown={(event) => {
          if (event.key === "Escape") onDone(null);
          if (event.key === "Enter" && (event.ctrlKey || event.metaKey)) done();
        }}
      />
      <span className="flex w-[96px] flex-col gap-1">
        <Button kind="main" onClick={done}>
          Keep
        </Button>
        <Button kind="quiet" onClick={() => onDone(null)}>
          Leave as it was
        </Button>
      </span>
    </div>
  );
}
