import { type DragEvent, type ReactNode, useState } from "react";
import type { ProblemError } from "../../../api/client";
import { useBrand } from "../../../study/brand";
import { useIdeaGroups } from "../../../study/queries";
import { Button } from "../../../ui/Button";
import { inputLook } from "../../../ui/Field";
import { useGroupActs } from "./queries";

type Props = {
  /** Which is shown: undefined is all, 0 is those in none. */
  chosen: number | undefined;
  onChosen: (group: number | undefined) => void;
  /** Ideas that were dropped on a group; null takes them out of theirs. */
  onDrop: (ideas: number[], group: number | null) => void;
};

/** What an idea that is dragged carries: the numbers of those that are chosen, or its own. */
export const DRAGGED = "application/x-dakika-ideas";

/** Groups of ideas with how many open ones each has; ideas are dragged onto them. */
export function Groups({ chosen, onChosen, onDrop }: Props) {
  const { brand, can } = useBrand();
  const groups = useIdeaGroups(brand.slug).data;
  const acts = useGroupActs(brand.slug);
  const [name, setName] = useState("");
  const [renamed, setRenamed] = useState<string | null>(null);
  const canChange = can("plan.write");
  const error = (acts.add.error ?? acts.rename.error) as ProblemError | null;
  const current = groups?.groups.find((one) => one.id === chosen);
  const row = (key: number | undefined, words: ReactNode, count: number, to?: number | null) => (
    <li
      key={key ?? "all"}
      onDragOver={(event) => to !== undefined && canChange && event.preventDefault()}
      onDrop={(event) => to !== undefined && canChange && onDrop(draggedIn(event), to)}
    >
      <button
        type="button"
        aria-pressed={chosen === key}
        onClick={() => onChosen(key)}
        className="flex min-h-8 w-full items-baseline gap-2 px-2 py-1 text-left hover:bg-wash aria-pressed:border-l-[5px] aria-pressed:border-l-berry aria-pressed:bg-panel"
      >
        <span className="min-w-0 break-words">{words}</span>
        <span className="label ml-auto">{count}</span>
      </button>
    </li>
  );
  return (
    <nav aria-label="Groups of ideas">
      <ul>
        {row(undefined, "All ideas", groups?.open ?? 0)}
        {groups?.groups.map((one) => row(one.id, one.name, one.ideas, one.id))}
        {(groups?.groups.length ?? 0) > 0 && row(0, "In no group", groups?.in_none ?? 0, null)}
      </ul>
      {canChange && (
        <form
          className="mt-3 flex flex-col gap-2"
          onSubmit={(event) => {
            event.preventDefault();
            acts.add.mutate(name, { onSuccess: () => setName("") });
          }}
        >
          <input
            aria-label="Name of another group"
            placeholder="Another group"
            className={inputLook}
            maxLength={80}
            value={name}
            onChange={(event) => setName(event.target.value)}
          />
          {name.trim() && (
            <Button type="submit" isBusy={acts.add.isPending} className="self-start">
              Add it
            </Button>
          )}
        </form>
      )}
      {canChange && current && (
        <form
          className="mt-3 flex flex-col items-start gap-1 border-t border-rule pt-2"
          onSubmit={(event) => {
            event.preventDefault();
            if (renamed !== null)
              acts.rename.mutate({ id: current.id, name: renamed }, { onSuccess: () => setRenamed(null) });
          }}
        >
          {renamed === null ? (
            <>
              <button type="button" className="under h-6 hover:text-berry" onClick={() => setRenamed(current.name)}>
                Rename “{current.name}”
              </button>
              <button
                type="button"
                className="under h-6 hover:text-down"
                onClick={() => acts.remove.mutate(current.id, { onSuccess: () => onChosen(undefined) })}
              >
                Remove it, ideas stay
              </button>
            </>
          ) : (
            <>
              <input
                aria-label={`New name of ${current.name}`}
                className={inputLook}
                maxLength={80}
                value={renamed}
                onChange={(event) => setRenamed(event.target.value)}
              />
              <span className="flex gap-2">
                <Button type="submit" disabled={!renamed.trim()} isBusy={acts.rename.isPending}>
                  Rename
                </Button>
                <Button onClick={() => setRenamed(null)}>Leave it</Button>
              </span>
            </>
          )}
        </form>
      )}
      {error && (
        <p role="alert" className="mt-1 text-down">
          {error.fields.name ?? error.message}
        </p>
      )}
    </nav>
  );
}

function draggedIn(event: DragEvent): number[] {
  event.preventDefault();
  return event.dataTransfer
    .getData(DRAGGED)
    .split(",")
    .map(Number)
    .filter((one) => Number.isSafeInteger(one) && one > 0);
}
