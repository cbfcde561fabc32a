import { Plus, X } from "lucide-react";
import { type ReactNode, useState } from "react";
import { Link } from "react-router";
import type { ProblemError } from "../../../api/client";
import { plural, short } from "../../../lib/format";
import { useSettled } from "../../../lib/useSettled";
import { networkNamed, useBrand } from "../../../study/brand";
import { Button } from "../../../ui/Button";
import { inputLook } from "../../../ui/Field";
import { Failed, Loading } from "../../../ui/States";
import { type Hashtag, useHashtagProposals, useHashtagSets, useKeepHashtags } from "./queries";
import { moodWords, tagsIn, timesWords, toneOf, usesWords, warnings } from "./rules";

type Props = {
  text: string;
  profiles: number[];
  /** The network that is written for; sets of others are left out. None: for all. */
  network: string | null;
  isEditable: boolean;
  tray: string[];
  onTray: (tray: string[]) => void;
  onText: (tags: string[]) => void;
  /** Where no network takes one, none is offered. */
  onComment?: (tags: string[]) => void;
};

const WHY = {
  text: "Fit the text",
  own: "Yours, the best first",
  field: "The field’s, the best first",
  similar: "Go with those in the tray",
} as const;

/** Hashtags gathered while one writes: proposed with why, put in in one step, kept as a set. */
export function Tray({ text, profiles, network, isEditable, tray, onTray, onText, onComment }: Props) {
  const { brand, networks } = useBrand();
  const asked = useSettled({ text: text.slice(0, 5000), profiles, chosen: tray });
  const found = useHashtagProposals(brand.slug, asked);
  const sets = (useHashtagSets(brand.slug).data ?? []).filter(
    (one) => !one.network || network === null || one.network === network,
  );
  const keep = useKeepHashtags(brand.slug);
  const [typed, setTyped] = useState("");
  const [name, setName] = useState<string | null>(null);
  const nameOf = (key: string) => networkNamed(networks, key).name;
  const add = (tags: string[]) => onTray([...new Set([...tray, ...tags.map((tag) => tag.toLowerCase())])].slice(0, 60));
  const drop = (tag: string) => onTray(tray.filter((one) => one !== tag));
  const details = new Map((found.data?.tags ?? []).map((one) => [one.tag, one]));
  const error = keep.error as ProblemError | null;
  return (
    <div>
      <h2 className="text-[16px]">The tray</h2>
      {tray.length === 0 ? (
        <p className="label">Empty. Take hashtags from below, from a set, or type them.</p>
      ) : (
        <ul className="flex flex-wrap gap-1">
          {tray.map((tag) => {
            const known = details.get(tag);
            const beware = known ? warnings(known, nameOf) : [];
            return (
              <li key={tag} className="flex items-center border border-rule-strong bg-panel pl-2">
                <span className={beware.length > 0 ? "text-down" : ""} title={beware.join("; ") || undefined}>
                  #{tag}
                </span>
                <button
                  type="button"
                  aria-label={`Take #${tag} out`}
                  className="flex h-6 w-6 items-center justify-center hover:text-down"
                  onClick={() => drop(tag)}
                >
                  <X size={13} />
                </button>
              </li>
            );
          })}
        </ul>
      )}
      {isEditable && (
        <form
          className="mt-2 flex gap-2"
          onSubmit={(event) => {
            event.preventDefault();
            add(tagsIn(typed));
            setTyped("");
          }}
        >
          <input
            aria-label="Hashtags for the tray"
            placeholder="Type some"
            className={inputLook}
            value={typed}
            onChange={(event) => setTyped(event.target.value)}
          />
          <Button type="submit" disabled={tagsIn(typed).length === 0}>
            Add
          </Button>
        </form>
      )}
      {tray.length > 0 && isEditable && (
        <div className="mt-2 flex flex-wrap items-center gap-2">
          <Button kind="main" onClick={() => onText(tray)}>
            Into the text
          </Button>
          {onComment && <Button onClick={() => onComment(tray)}>Into the first comment</Button>}
          {name === null ? (
            <button type="button" className="under h-6 hover:text-berry" onClick={() => setName("")}>
              keep as a set
            </button>
          ) : (
            <form
              className="flex w-full gap-2"
              onSubmit={(event) => {
                event.preventDefault();
                keep.mutate({ name, tags: tray, network: network ?? "" }, { onSuccess: () => setName(null) });
              }}
            >
              <input
                aria-label={network ? `Name of the set for ${nameOf(network)}` : "Name of the set"}
                placeholder={network ? `Its name, for ${nameOf(network)}` : "Its name"}
                className={inputLook}
                maxLength={60}
                value={name}
                onChange={(event) => setName(event.target.value)}
              />
              <Button type="submit" disabled={!name.trim()} isBusy={keep.isPending}>
                Keep
              </Button>
            </form>
          )}
        </div>
      )}
      {error && <p className="mt-1 text-down">{Object.values(error.fields)[0] ?? error.message}</p>}
      {sets.length > 0 && (
        <>
          <h3 className="mt-3 text-[13px] font-semibold">Sets</h3>
          <ul className="flex flex-wrap gap-x-3">
            {sets.map((set) => (
              <li key={set.id}>
                <button
                  type="button"
                  disabled={!isEditable}
                  className="under min-h-6 hover:text-berry"
                  title={set.tags.map((tag) => `#${tag}`).join(" ")}
                  onClick={() => add(set.tags)}
                >
                  {set.name} ({set.tags.length})
                </button>
              </li>
            ))}
          </ul>
        </>
      )}
      {found.error ? (
        <Failed error={found.error} onRetry={() => found.refetch()} />
      ) : !found.data ? (
        <Loading what="Looking through hashtags" />
      ) : (
        <>
          {(Object.keys(WHY) as (keyof typeof WHY)[]).map((why) => {
            const tags = (found.data?.by_why[why] ?? []).flatMap((tag) => details.get(tag) ?? []);
            return (
              tags.length > 0 && (
                <Section key={why} title={WHY[why]}>
                  {tags.map((one) => (
                    <Row
                      key={one.tag}
                      tag={one}
                      nameOf={nameOf}
                      isIn={tray.includes(one.tag)}
                      onTake={isEditable ? () => add([one.tag]) : undefined}
                    />
                  ))}
                </Section>
              )
            );
          })}
          <p className="label mt-2">
            Times the other posts of the same profile and format, 95 %: of {plural(found.data.posts, "post")} of yours
            with hashtags and {short(found.data.posts_of_field)} of the field in {found.data.days} days.
            {found.data.is_asked && " Networks are being asked how much they are used."}{" "}
            <Link to={`/${brand.slug}/plan/hashtags`} className="under hover:text-berry">
              Followed ones and sets
            </Link>
          </p>
        </>
      )}
    </div>
  );
}

function Section({ title, children }: { title: string; children: ReactNode }) {
  return (
    <section className="mt-3" aria-label={title}>
      <h3 className="text-[13px] font-semibold">{title}</h3>
      <ul>{children}</ul>
    </section>
  );
}

type RowProps = { tag: Hashtag; nameOf: (key: string) => string; isIn: boolean; onTake?: () => void };

function Row({ tag, nameOf, isIn, onTake }: RowProps) {
  const told = [usesWords(tag, nameOf), moodWords(tag, nameOf)].filter(Boolean).join("; ");
  return (
    <li className="rowline py-1">
      {onTake ? (
        <button
          type="button"
          disabled={isIn}
          aria-label={`Take #${tag.tag}`}
          className="inline-flex min-h-6 items-center gap-1 text-left break-all hover:text-berry disabled:text-muted"
          onClick={onTake}
        >
          <Plus size={13} className="shrink-0" /> #{tag.tag}
        </button>
      ) : (
        `#${tag.tag}`
      )}
      <span className="flex flex-wrap gap-x-3 text-[12.5px]">
        {tag.own && (
          <span className={toneOf(tag.own)}>
            you {timesWords(tag.own)}, {plural(tag.own.posts, "post")}
          </span>
        )}
        {tag.field && (
          <span className={toneOf(tag.field)}>
            field {timesWords(tag.field)}, {plural(tag.field.posts, "post")}
          </span>
        )}
        {told && <span className="text-muted">{told}</span>}
      </span>
      {warnings(tag, nameOf).map((words) => (
        <span key={words} className="block text-[12px] text-down">
          {words}
        </span>
      ))}
    </li>
  );
}
