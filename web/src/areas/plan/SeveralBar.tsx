import { useState } from "react";
import type { ProblemError } from "../../api/client";
import { plural } from "../../lib/format";
import { useBrand } from "../../study/brand";
import { useCampaigns, useTags } from "../../study/queries";
import { Button } from "../../ui/Button";
import { inputLook } from "../../ui/Field";
import type { Entry } from "./queries";
import { type SeveralChange, useChangeSeveral, useUndoSeveral } from "./queries";

type Props = { chosen: Entry[]; onNone: () => void };

const DONE: Record<SeveralChange["what"], string> = {
  move: "moved",
  campaign: "put to the campaign",
  tags: "tagged",
  say_yes: "said yes to",
  delete: "thrown away",
};

/** What is done with many posts at once; what was done stands here with its undo, until something else is. */
export function SeveralBar({ chosen, onNone }: Props) {
  const { brand } = useBrand();
  const change = useChangeSeveral(brand.slug);
  const undo = useUndoSeveral(brand.slug);
  const campaigns = useCampaigns(brand.slug).data ?? [];
  const tags = useTags(brand.slug).data ?? [];
  const [days, setDays] = useState(1);
  const act = (asked: Omit<SeveralChange, "posts">) => {
    undo.reset();
    const posts = chosen.map(({ id, edition }) => ({ id, edition }));
    change.mutate({ ...asked, posts }, { onSuccess: onNone });
  };
  const done = change.data;
  const error = (change.error ?? undo.error) as ProblemError | null;
  if (chosen.length === 0 && !done && !error) return null;
  return (
    <div className="sticky top-0 z-10 flex flex-wrap items-center gap-x-3 gap-y-1 bg-wash px-2 py-1" role="status">
      {chosen.length > 0 ? (
        <>
          <span className="font-semibold">{plural(chosen.length, "post")} chosen</span>
          <span className="flex items-center gap-1">
            <input
              type="number"
              aria-label="By how many days"
              className={`${inputLook} !h-7 !w-[62px]`}
              min={-366}
              max={366}
              value={days || ""}
              onChange={(event) => setDays(Math.trunc(Number(event.target.value)))}
            />
            <Button disabled={!days} isBusy={change.isPending} onClick={() => act({ what: "move", days, minutes: 0 })}>
              {`days ${days < 0 ? "earlier" : "later"}`}
            </Button>
          </span>
          <select
            aria-label="Put them to a campaign"
            className={`${inputLook} !h-7 !w-auto`}
            value=""
            onChange={(event) =>
              act({
                what: "campaign",
                campaign: event.target.value === "none" ? null : Number(event.target.value),
                days: 0,
                minutes: 0,
              })
            }
          >
            <option value="">campaign …</option>
            {campaigns.map((one) => (
              <option key={one.id} value={one.id}>
                {one.name}
              </option>
            ))}
            <option value="none">none</option>
          </select>
          {tags.length > 0 && (
            <select
              aria-label="Tag them"
              className={`${inputLook} !h-7 !w-auto`}
              value=""
              onChange={(event) => act({ what: "tags", tags: [Number(event.target.value)], days: 0, minutes: 0 })}
            >
              <option value="">tag …</option>
              {tags.map((one) => (
                <option key={one.id} value={one.id}>
                  {one.name}
                </option>
              ))}
            </select>
          )}
          {chosen.some((one) => one.state === "in_review") && (
            <Button isBusy={change.isPending} onClick={() => act({ what: "say_yes", days: 0, minutes: 0 })}>
              Say yes
            </Button>
          )}
          <Button kind="danger" isBusy={change.isPending} onClick={() => act({ what: "delete", days: 0, minutes: 0 })}>
            Throw away
          </Button>
          <button type="button" className="under h-6" onClick={onNone}>
            choose none
          </button>
        </>
      ) : undo.data ? (
        <span>
          {plural(undo.data.undone, "post")} as before.
          {undo.data.left > 0 && ` ${plural(undo.data.left, "post")} changed since stay as they are.`}
        </span>
      ) : (
        done && (
          <span>
            {plural(done.changed, "post")} {DONE[change.variables?.what ?? "move"]}.{" "}
            {done.id !== null && (
              <button
                type="button"
                className="under h-6 font-semibold hover:text-berry"
                disabled={undo.isPending}
                onClick={() => undo.mutate(done.id ?? 0)}
              >
                Undo
              </button>
            )}
          </span>
        )
      )}
      {error && (
        <span role="alert" className="text-down">
          {Object.values(error.fields)[0] ?? error.message}
        </span>
      )}
      {done && done.refused.length > 0 && chosen.length === 0 && (
        <ul className="w-full text-down">
          {done.refused.map((one) => (
            <li key={one.id}>
              {one.title || "A post"}: {one.why}
            </li>
          ))}
        </ul>
      )}
    </div>
  );
}
