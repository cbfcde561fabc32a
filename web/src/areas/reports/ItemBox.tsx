import { type DrawingProps, FigureDrawing } from "../../figures/drawing/FigureDrawing";
import { FigureValue } from "../../figures/FigureValue";
import { numbersIn } from "../../lib/numbers";
import type { Item } from "./edit";
import type { ReadSegment, Shown, ShownItem } from "./queries";
import { ReadWords } from "./ReadWords";

const [HEAD, NOTE] = [22, 17];

type Props = {
  item: Item;
  shown?: ShownItem;
  words: Shown["words"];
  width: number;
  height: number;
  /** Whether figures open their basis: on the team's screens, not on paper and not for people outside. */
  isOpen?: boolean;
  picture?: (asset: number) => string;
};

/** A figure, a text or a picture at its size; the same on the screen, on paper and for people outside. */
export function ItemBox({ item, shown, words, width, height, isOpen = false, picture }: Props) {
  if (item.kind === "picture")
    return item.asset && picture ? (
      <img src={picture(item.asset)} alt={item.title} className="h-full w-full object-contain" />
    ) : (
      <p className="label">{item.title}</p>
    );
  if (item.kind === "text") return <ReadWords words={(shown?.words ?? []) as ReadSegment[][]} size={15} />;
  if (!shown) return <p className="label late">…</p>;
  const hasNote = shown.note !== "" && height > 110;
  const hasTitle = shown.title !== "" && !(item.drawing === "tiles" && item.title === "");
  const inside = height - (hasTitle ? HEAD : 0) - (hasNote ? NOTE : 0);
  const opened: DrawingProps["shown"] = (cell, text) =>
    isOpen ? (
      <FigureValue kind={item.kind} cell={cell.key} params={shown.query} label={cell.name}>
        {text}
      </FigureValue>
    ) : (
      text
    );
  return (
    <figure className="flex h-full flex-col overflow-hidden" style={{ margin: 0 }}>
      {hasTitle && (
        <figcaption className="truncate text-[14px] font-semibold" style={{ height: HEAD }} title={shown.title}>
          {shown.title}
          {shown.days !== "" && shown.days !== words.days && (
            <span className="ml-2 text-[11px] font-normal" style={{ color: "var(--sheet-muted)" }}>
              {shown.days}
            </span>
          )}
        </figcaption>
      )}
      <div style={{ height: inside }}>
        {shown.error ? (
          <p role="alert" className="text-[13px]" style={{ color: "var(--sheet-down)" }}>
            {shown.error}
          </p>
        ) : (
          <FigureDrawing
            drawing={item.drawing}
            set={shown}
            numbers={numbersIn(words.locale)}
            words={words}
            rows={item.rows}
            width={width}
            height={inside}
            shown={opened}
          />
        )}
      </div>
      {hasNote && (
        <p className="truncate text-[11px]" style={{ color: "var(--sheet-muted)" }} title={shown.note}>
          {shown.note}
        </p>
      )}
    </figure>
  );
}
