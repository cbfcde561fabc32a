import { plural } from "../../../lib/format";
import { Button } from "../../../ui/Button";
import { Sheet } from "../../../ui/Sheet";
import type { FeedRule } from "./queries";

type Props = {
  rule: FeedRule;
  isOpen: boolean;
  isBusy: boolean;
  error: Error | null;
  onClose: () => void;
  onRemove: (takesBack: boolean) => void;
};

/** Taking a rule away: what it made stays, or what of it is not out yet goes with it. */
export function RemoveRule({ rule, isOpen, isBusy, error, onClose, onRemove }: Props) {
  return (
    <Sheet isOpen={isOpen} onClose={onClose} title="Take the rule away">
      <div className="flex flex-col items-start gap-3">
        <p>
          {rule.waiting > 0
            ? `${plural(rule.waiting, "post")} that it made ${rule.waiting === 1 ? "waits" : "wait"} to go out.`
            : "Nothing that it made waits to go out."}{" "}
          What became of the items is forgotten with it.
        </p>
        <Button kind="main" isBusy={isBusy} onClick={() => onRemove(false)}>
          {rule.waiting > 0 ? "Take the rule away, its posts go out" : "Take it away"}
        </Button>
        {rule.waiting > 0 && (
          <Button isBusy={isBusy} onClick={() => onRemove(true)}>
            Take away both
          </Button>
        )}
        {error && (
          <p className="text-down" role="alert">
            {error.message}
          </p>
        )}
      </div>
    </Sheet>
  );
}
