import { ThumbsDown, ThumbsUp } from "lucide-react";
import { since } from "../../../lib/format";
import { useBrand } from "../../../study/brand";
import { useProfiles } from "../../../study/queries";
import { Cut } from "../../../ui/Cut";
import { NetworkMark } from "../../../ui/Marks";
import { Thumb, useAssetsOf } from "../../media";
import { DRAGGED } from "./Groups";
import type { Idea } from "./queries";
import { keptWords, originWords, writtenWords } from "./rules";

type Props = {
  ideas: Idea[];
  open: number | undefined;
  onOpen: (idea: number) => void;
  chosen: Set<number>;
  onChosen: (chosen: Set<number>) => void;
};

/** Ideas, a line or two each: what it is, where it comes from with its strongest figure, who is for it, what came of it. */
export function IdeaList({ ideas, open, onOpen, chosen, onChosen }: Props) {
  const { brand, networks, now, can } = useBrand();
  const profiles = useProfiles(brand.slug).data?.profiles ?? [];
  const pictures = ideas.map((idea) => idea.media[0] ?? 0);
  const assets = useAssetsOf(
    brand.slug,
    pictures.filter((one) => one > 0),
  );
  const canChange = can("plan.write");
  const toggle = (id: number) => {
    const next = new Set(chosen);
    if (!next.delete(id)) next.add(id);
    onChosen(next);
  };
  return (
    <ul aria-label="Ideas">
      {ideas.map((idea) => {
        const wished = [...new Set(profiles.filter((p) => idea.wishes.includes(p.id)).map((p) => p.network))];
        const figure = idea.figures[0];
        const came = writtenWords(idea.written);
        return (
          <li
            key={idea.id}
            className={`rowline flex items-start gap-2 py-1.5 ${open === idea.id ? "bg-panel" : ""}`}
            draggable={canChange}
            onDragStart={(event) => {
              event.dataTransfer.effectAllowed = "move";
              const carried = chosen.has(idea.id) ? [...chosen] : [idea.id];
              event.dataTransfer.setData(DRAGGED, carried.join(","));
            }}
          >
            {canChange && (
              <label className="flex h-6 w-6 shrink-0 items-center justify-center">
                <input
                  type="checkbox"
                  aria-label={`Choose ${idea.title || "an idea"}`}
                  className="h-4 w-4 accent-(--berry)"
                  checked={chosen.has(idea.id)}
                  onChange={() => toggle(idea.id)}
                />
              </label>
            )}
            <button
              type="button"
              aria-expanded={open === idea.id}
              className="flex min-w-0 flex-1 items-start gap-3 text-left hover:text-berry"
              onClick={() => onOpen(idea.id)}
            >
              {idea.media[0] !== undefined && (
                <span className="w-[52px] shrink-0">
                  <Thumb brand={brand.slug} asset={assets.find((one) => one?.id === idea.media[0])} shape={1} />
                </span>
              )}
              <span className="min-w-0 flex-1">
                <Cut className="font-semibold">{idea.title || idea.note}</Cut>
                {idea.title && idea.note && <Cut className="text-muted">{idea.note}</Cut>}
                <span className="label flex flex-wrap items-center gap-x-2">
                  {originWords(idea)}
                  {figure && <span className="text-ink">{keptWords(figure)}</span>}
                  {wished.map((key) => {
                    const network = networks.find((one) => one.key === key);
                    return network && <NetworkMark key={key} network={network} />;
                  })}
                  {came && <span className="text-up">{came}</span>}
                </span>
              </span>
            </button>
            <span className="label flex w-[104px] shrink-0 flex-col items-end">
              <span className="flex items-center gap-2">
                <span className="flex items-center gap-0.5">
                  <ThumbsUp size={13} aria-label="for it" /> {idea.for_it}
                </span>
                <span className="flex items-center gap-0.5">
                  <ThumbsDown size={13} aria-label="against" /> {idea.against}
                </span>
              </span>
              {idea.remarks > 0 && <span>{idea.remarks} said</span>}
              <span>{since(idea.kept_at, now)}</span>
            </span>
          </li>
        );
      })}
    </ul>
  );
}
