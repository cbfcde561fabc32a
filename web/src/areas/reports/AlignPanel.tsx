import { Button } from "../../ui/Button";
import type { Alignment } from "./edit";

const WAYS: [Alignment, string][] = [
  ["left", "Left edges"],
  ["right", "Right edges"],
  ["top", "Upper edges"],
  ["bottom", "Lower edges"],
  ["width", "Same width"],
  ["height", "Same height"],
];

/** Several figures put in line with the one that was chosen first. */
export function AlignPanel(props: { count: number; onAlign: (how: Alignment) => void; onNone: () => void }) {
  return (
    <div className="flex flex-col gap-2">
      <h2 className="text-[15px]">{props.count} chosen</h2>
      <p className="label">
        {props.count < 2 ? "Go to others and press Space on each." : "As the first one that was chosen"}
      </p>
      <div className="grid stays grid-cols-2 gap-2">
        {WAYS.map(([how, words]) => (
          <Button key={how} disabled={props.count < 2} onClick={() => props.onAlign(how)}>
            {words}
          </Button>
        ))}
      </div>
      <Button kind="quiet" onClick={props.onNone}>
        Choose none
      </Button>
    </div>
  );
}
