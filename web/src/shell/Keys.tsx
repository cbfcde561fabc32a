import { useNamedAreas } from "../study/areas";
import { Sheet } from "../ui/Sheet";

const FIRST: [string, string][] = [
  ["Ctrl K", "Go to, find, act"],
  ["?", "This list"],
];
const REST: [string, string][] = [
  ["j, k or arrows", "Move through a table"],
  ["Enter", "Open what is marked"],
  ["x", "Pick the marked post; Shift with j, k or x picks a range"],
  ["t", "Tag what is picked"],
  ["/", "Search in the table"],
  ["Left, right on the period", "Move it by a day; with Shift, its end"],
  ["Escape", "Close what is open"],
];

export function Keys({ isOpen, onClose }: { isOpen: boolean; onClose: () => void }) {
  const areas = useNamedAreas();
  const letters = areas.map((area) => area.letter).join(", ");
  const keys = [
    ...FIRST,
    [`g then ${letters}`, `Go to ${areas.map((area) => area.name).join(", ")}`] as const,
    ...REST,
  ];
  return (
    <Sheet form="dialog" isOpen={isOpen} onClose={onClose} title="Keys">
      <dl className="grid grid-cols-[auto_1fr] gap-x-6 gap-y-1.5">
        {keys.map(([key, what]) => (
          <div key={key} className="contents">
            <dt className="font-semibold">{key}</dt>
            <dd>{what}</dd>
          </div>
        ))}
      </dl>
    </Sheet>
  );
}
