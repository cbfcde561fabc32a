import { useEffect, useRef, useState } from "react";
import { FigureValue } from "../../figures/FigureValue";
import type { Numbers } from "../../lib/numbers";
import { Button } from "../../ui/Button";
import type { Page, Segment } from "./edit";
import type { ReadSegment, ShownPage } from "./queries";
import { ReadWords } from "./ReadWords";
import { number, read, written } from "./segments";

// Of a table with thousands of figures the first are offered.
const MOST_OFFERED = 60;

type Props = {
  page: Page;
  shown?: ShownPage;
  isEditable: boolean;
  /** How the report's language writes numbers. */
  numbers: Numbers;
  onChange: (words: Segment[][] | null) => void;
};

/** A page's words: made by rule until somebody edits them; their numbers open their basis and renew either way. */
export function PageWords({ page, shown, isEditable, numbers, onChange }: Props) {
  const [isEditing, setEditing] = useState(false);
  const words = (shown?.words ?? []) as ReadSegment[][];
  if (isEditing)
    return (
      <WordsEditor
        words={words}
        shown={shown}
        numbers={numbers}
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

type EditorProps = {
  words: ReadSegment[][];
  shown?: ShownPage;
  numbers: Numbers;
  onDone: (words: Segment[][] | null) => void;
};

function WordsEditor({ words, shown, numbers, onDone }: EditorProps) {
  const at = useRef<HTMLDivElement>(null);
  // Where the caret was when the list of numbers was opened.
  const caret = useRef<Range | null>(null);
  const put = (key: string) => {
    const [id = "", index = ""] = key.split("/");
    const item = shown?.items.find((one) => one.id === id);
    const cell = item?.cells[Number(index)];
    if (!item || !cell || !at.current) return;
    const text = numbers.figure(cell.now.value, cell.unit);
    const piece = number({
      text,
      item: item.id,
      cell: cell.key,
      what: "now",
      said: null,
      is_gone: false,
      has_turned: false,
    });
    const range = caret.current ?? document.createRange();
    if (!caret.current) range.selectNodeContents(at.current.lastElementChild ?? at.current);
    if (!caret.current) range.collapse(false);
    range.deleteContents();
    range.insertNode(piece);
    range.setStartAfter(piece);
    range.collapse(true);
    at.current.focus();
    document.getSelection()?.removeAllRanges();
    document.getSelection()?.addRange(range);
  };
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
        onBlur={() => {
          const selection = document.getSelection();
          const range = selection?.rangeCount ? selection.getRangeAt(0) : null;
          caret.current = range && at.current?.contains(range.startContainer) ? range.cloneRange() : null;
        }}
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
        <select
          aria-label="Put a number in"
          className="min-h-6 w-full text-[12px]"
          value=""
          onChange={(e) => put(e.target.value)}
        >
          <option value="">a number …</option>
          {(shown?.items ?? [])
            .filter((item) => item.cells.length > 0)
            .map((item) => (
              <optgroup key={item.id} label={item.title || item.name}>
                {item.cells.slice(0, MOST_OFFERED).map((cell, i) => (
                  <option key={cell.key} value={`${item.id}/${i}`}>
                    {[cell.row, cell.row ? cell.column : cell.name, numbers.figure(cell.now.value, cell.unit)]
                      .filter(Boolean)
                      .join(", ")}
                  </option>
                ))}
              </optgroup>
            ))}
        </select>
      </span>
    </div>
  );
}
