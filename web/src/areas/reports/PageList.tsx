import type { Content } from "./edit";

type Props = {
  content: Content;
  open: string | null;
  isEditable: boolean;
  onOpen: (page: string | null) => void;
  onMove: (page: string, by: number) => void;
  onCopy: (page: string) => void;
  onTakeOut: (page: string) => void;
  onAdd: () => void;
};

/** The pages of a report in their order; the open one can be moved, copied and taken out. */
export function PageList({ content, open, isEditable, onOpen, onMove, onCopy, onTakeOut, onAdd }: Props) {
  const acts = (page: string, at: number) => (
    <span className="flex flex-wrap gap-x-2 pb-1.5 text-[12px]">
      {at > 0 && <Act name="up" onClick={() => onMove(page, -1)} />}
      {at < content.pages.length - 1 && <Act name="down" onClick={() => onMove(page, 1)} />}
      <Act name="copy" onClick={() => onCopy(page)} />
      <Act name="take out" onClick={() => onTakeOut(page)} />
    </span>
  );
  return (
    <nav aria-label="Pages">
      <ol>
        {content.look.has_cover && (
          <li className="rowline">
            <Name isOpen={open === null} number="" name="Title page" onClick={() => onOpen(null)} />
          </li>
        )}
        {content.pages.map((page, i) => (
          <li key={page.id} className="rowline">
            <Name
              isOpen={open === page.id}
              number={String(i + 1)}
              name={page.title || "Without a title"}
              onClick={() => onOpen(page.id)}
            />
            {open === page.id && isEditable && acts(page.id, i)}
          </li>
        ))}
      </ol>
      {isEditable && (
        <button type="button" className="under mt-2 min-h-6 hover:text-berry" onClick={onAdd}>
          Another page
        </button>
      )}
    </nav>
  );
}

function Name(props: { isOpen: boolean; number: string; name: string; onClick: () => void }) {
  return (
    <button
      type="button"
      aria-current={props.isOpen ? "page" : undefined}
      onClick={props.onClick}
      className={`flex min-h-7 w-full gap-2 py-1 text-left hover:text-berry ${props.isOpen ? "border-l-4 border-berry pl-2 font-semibold" : "pl-3"}`}
    >
      <span className="label w-3 shrink-0">{props.number}</span>
      <span className="min-w-0 break-words">{props.name}</span>
    </button>
  );
}

const Act = ({ name, onClick }: { name: string; onClick: () => void }) => (
  <button type="button" className="under min-h-6 pl-3 hover:text-berry" onClick={onClick}>
    {name}
  </button>
);
