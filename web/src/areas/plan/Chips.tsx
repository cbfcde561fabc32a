import type { KeyboardEvent } from "react";
import { Link } from "react-router";
import type { Schemas } from "../../api/client";
import { timeOf } from "../../lib/days";
import { figure, short } from "../../lib/format";
import { networkNamed, useBrand } from "../../study/brand";
import { Cut } from "../../ui/Cut";
import { NetworkMark, StateWord } from "../../ui/Marks";
import { expectationWords, type useExpectedPlan } from "../foresight";
import type { Entry, Out } from "./queries";
import { STATE_WORDS } from "./rules";
import type { Moving } from "./useMoving";

export type Expected = NonNullable<ReturnType<typeof useExpectedPlan>["data"]>["posts"];
type Props = {
  entry: Entry;
  expected?: Expected[number];
  moving: Moving;
  /** Minutes that the up and down arrows move it by; days where the view has no hours. */
  step?: { minutes: number } | { days: number };
  isLine?: boolean;
};

/** A planned post where it stands; dragged, or moved by Alt and the arrow keys. */
export function PlannedChip({ entry, expected, moving, step = { days: 7 }, isLine = false }: Props) {
  const { brand, networks } = useBrand();
  const state = STATE_WORDS[entry.state] ?? { word: entry.state, tone: "quiet" as const };
  const edge =
    entry.state === "draft"
      ? "border-dashed border-rule-strong"
      : state.tone === "wrong"
        ? "border-down"
        : state.tone === "good"
          ? "border-up"
          : "border-berry";
  const keys = (event: KeyboardEvent) => {
    if (!event.altKey) return;
    const across = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
    const along = { ArrowUp: -1, ArrowDown: 1 }[event.key];
    if (across === undefined && along === undefined) return;
    event.preventDefault();
    if (across) moving.by(entry, across);
    else if (along) "days" in step ? moving.by(entry, along * step.days) : moving.by(entry, 0, along * step.minutes);
  };
  const isMovable = moving.canMove(entry);
  const sum = sumOf(expected);
  const name = `${entry.at ? `${timeOf(entry.at, brand.time_zone)} ` : ""}${entry.title || entry.text || "untitled"}`;
  return (
    <Link
      to={`/${brand.slug}/plan/${entry.id}`}
      draggable={isMovable}
      onDragStart={(event) => {
        event.dataTransfer.effectAllowed = "move";
        event.dataTransfer.setData("text/plain", name);
        moving.grab({ entry });
      }}
      onDragEnd={() => moving.let()}
      onKeyDown={keys}
      aria-keyshortcuts={isMovable ? "Alt+ArrowLeft Alt+ArrowRight Alt+ArrowUp Alt+ArrowDown" : undefined}
      className={`block overflow-hidden border border-l-[3px] bg-panel px-1 text-[12px] leading-[15px] hover:bg-wash ${isLine ? "h-6 py-1" : "h-[33px]"} ${edge}`}
      title={[entry.text, ...expectedLines(expected, entry, networks)].filter(Boolean).join("\n")}
    >
      <Cut className={isLine ? "" : "font-semibold"}>{name}</Cut>
      {!isLine && (
        <span className="flex items-center gap-1 truncate">
          {entry.versions.map((v) => (
            <span key={v.id} className="text-muted">
              {networkNamed(networks, v.network).monogram}
            </span>
          ))}
          <span className="min-w-0 truncate">
            <StateWord tone={state.tone}>{state.word}</StateWord>
          </span>
          {sum !== null && <span className="ml-auto shrink-0 text-muted">≈ {short(sum)}</span>}
        </span>
      )}
    </Link>
  );
}

/** The middles of what each of its profiles is expected to bring, added up; null where none is known. */
export function sumOf(expected: Expected[number] | undefined): number | null {
  const known = (expected?.profiles ?? []).map((p) => p.expected.interactions?.value).filter((v) => v !== undefined);
  return known.length ? known.reduce((a, b) => a + b, 0) : null;
}

function expectedLines(expected: Expected[number] | undefined, entry: Entry, networks: Schemas["Network"][]): string[] {
  return (expected?.profiles ?? []).map((p) => {
    const version = entry.versions.find((v) => v.profile === p.profile);
    const network = version ? networkNamed(networks, version.network).name : "";
    return `${network}: ${expectationWords(p.expected.interactions)} interactions expected`;
  });
}

/** A post that is out, with how it did. */
export function PublishedChip({ post }: { post: Out }) {
  const { brand, networks } = useBrand();
  const network = networkNamed(networks, post.network);
  return (
    <Link
      to={`/${brand.slug}/results/posts/${post.id}`}
      className="flex h-6 items-center gap-1 overflow-hidden bg-paper text-[12px] text-muted hover:text-ink"
      title={`${post.text}${post.index === null ? "" : ` · index ${figure(post.index, "index")}`}`}
    >
      <NetworkMark network={network} />
      <Cut>{post.index === null ? post.text : `${figure(post.index, "index")} ${post.text}`}</Cut>
    </Link>
  );
}
