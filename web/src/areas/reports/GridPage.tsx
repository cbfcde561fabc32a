import { type KeyboardEvent, useMemo, useRef } from "react";
import { GridLayout, getCompactor } from "react-grid-layout";
import { createScaledStrategy } from "react-grid-layout/core";
import "react-grid-layout/css/styles.css";
import type { Item, Page } from "./edit";
import { box, COLUMNS, GAP, measures, type Place, ROWS } from "./geometry";
import { ItemBox } from "./ItemBox";
import type { Shown, ShownPage } from "./queries";

type Props = {
  page: Page;
  shown?: ShownPage;
  words: Shown["words"];
  scale: number;
  chosen: string[];
  isEditable: boolean;
  picture: (asset: number) => string;
  /** isMore: to those that are chosen already, or out of them. */
  onChoose: (id: string, isMore: boolean) => void;
  onFocus: (id: string) => void;
  onPlace: (places: (Place & { id: string })[]) => void;
  onKey: (event: KeyboardEvent, item: Item) => void;
};

// Nothing is pushed away: a figure goes where there is room, or stays.
const NO_PUSHING = getCompactor(null, false, true);

/** The figures of a page where they can be moved and sized, by pointer and by keyboard. */
export function GridPage({
  page,
  shown,
  words,
  scale,
  chosen,
  isEditable,
  picture,
  onChoose,
  onFocus,
  onPlace,
  onKey,
}: Props) {
  const m = measures(page.has_words);
  const isPressed = useRef(false);
  // Without the package's own reckoning of where a drag is: it leaves out where the page itself begins.
  const strategy = useMemo(() => ({ ...createScaledStrategy(scale), calcDragPosition: undefined }), [scale]);
  const layout = page.items.map(({ id, x, y, w, h }) => ({ i: id, x, y, w, h }));
  return (
    <GridLayout
      width={m.width}
      layout={layout}
      gridConfig={{ cols: COLUMNS, rowHeight: m.row, margin: [GAP, GAP], containerPadding: [0, 0], maxRows: ROWS }}
      dragConfig={{ enabled: isEditable, bounded: true, cancel: "button, input, [contenteditable]", threshold: 4 }}
      resizeConfig={{ enabled: isEditable, handles: ["se"] }}
      positionStrategy={strategy}
      compactor={NO_PUSHING}
      autoSize={false}
      style={{ height: m.height }}
      onDragStop={(next) => onPlace(placesOf(next))}
      onResizeStop={(next) => onPlace(placesOf(next))}
    >
      {page.items.map((item) => {
        const at = box(item, page.has_words);
        const own = shown?.items.find((one) => one.id === item.id);
        const isChosen = chosen.includes(item.id);
        return (
          <div
            key={item.id}
            role="group"
            tabIndex={0}
            aria-label={`${own?.title || item.title || item.kind}${isEditable ? ": arrow keys move it, with Shift they size it" : ""}`}
            aria-current={isChosen || undefined}
            data-item={item.id}
            onFocus={(event) => {
              // A press with Shift adds to what is chosen: it comes as a press, too.
              if (!isPressed.current && event.target === event.currentTarget) onFocus(item.id);
            }}
            onPointerDown={() => {
              isPressed.current = true;
            }}
            onPointerUp={() => {
              isPressed.current = false;
            }}
            onPointerCancel={() => {
              isPressed.current = false;
            }}
            onClick={(event) => {
              onChoose(item.id, event.shiftKey || event.ctrlKey || event.metaKey);
            }}
            onKeyDown={(event) => event.target === event.currentTarget && onKey(event, item)}
            className={`${isEditable ? "cursor-move" : ""} ${isChosen ? "outline-2 outline-offset-4 outline-(--berry)" : "hover:outline hover:outline-offset-4 hover:outline-(--sheet-rule)"}`}
          >
            <ItemBox
              item={item}
              shown={own}
              words={words}
              width={at.width}
              height={at.height}
              picture={picture}
              isOpen
            />
          </div>
        );
      })}
    </GridLayout>
  );
}

const placesOf = (layout: readonly { i: string; x: number; y: number; w: number; h: number }[]) =>
  layout.map(({ i, x, y, w, h }) => ({ id: i, x, y, w, h }));
