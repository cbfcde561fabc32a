import { useState } from "react";
import { dayOf, shortDay } from "../../../lib/days";
import { figure, formatNames, plural } from "../../../lib/format";
import { networkNamed, useBrand } from "../../../study/brand";
import { useCampaigns, useTags } from "../../../study/queries";
import { Button } from "../../../ui/Button";
import { Cut } from "../../../ui/Cut";
import { Field, inputLook } from "../../../ui/Field";
import { NetworkMark } from "../../../ui/Marks";
import { Sheet } from "../../../ui/Sheet";
import { Empty } from "../../../ui/States";
import { useToast } from "../../../ui/Toast";
import {
  type Rule,
  type Tag,
  useAddRule,
  useMergeTag,
  useRemoveRule,
  useRemoveTag,
  useSaveTag,
  useTriedRule,
} from "../queries";
import { TAG_COLOURS, TagMark } from "./TagMark";

/** All tags: names, colours, rules, and two that became one. */
export function ManageTags({ isOpen, onClose }: { isOpen: boolean; onClose: () => void }) {
  const { brand } = useBrand();
  const tags = useTags(brand.slug).data ?? [];
  const [open, setOpen] = useState<number | null>(null);
  const [name, setName] = useState("");
  const save = useSaveTag(brand.slug);
  const say = useToast();
  const add = () =>
    save.mutate(
      { id: null, name, colour: 1 + (tags.length % TAG_COLOURS) },
      {
        onSuccess: (made) => {
          setName("");
          setOpen(made?.id ?? null);
        },
        onError: (error) => say(error.message, "wrong"),
      },
    );
  return (
    <Sheet isOpen={isOpen} onClose={onClose} title="Tags and their rules">
      <div className="mb-3 flex gap-2">
        <input
          value={name}
          onChange={(e) => setName(e.target.value)}
          onKeyDown={(e) => e.key === "Enter" && name.trim() && add()}
          placeholder="Name of a new tag"
          aria-label="Name of a new tag"
          maxLength={60}
          className={inputLook}
        />
        <Button onClick={add} disabled={!name.trim()} isBusy={save.isPending}>
          Make it
        </Button>
      </div>
      {tags.length === 0 && (
        <Empty title="No tag yet">Tags group posts your own way: by subject, series, or mood.</Empty>
      )}
      <ul aria-label="Tags">
        {tags.map((tag) => (
          <li key={tag.id} className="rowline py-1.5">
            <button
              type="button"
              aria-expanded={open === tag.id}
              onClick={() => setOpen(open === tag.id ? null : tag.id)}
              className="flex h-7 w-full items-center justify-between hover:text-berry"
            >
              <TagMark name={tag.name} colour={tag.colour} />
              <span className="label">
                {plural(tag.posts, "post")}
                {tag.rules.length > 0 && `, ${plural(tag.rules.length, "rule")}`}
              </span>
            </button>
            {open === tag.id && <OneTag tag={tag} others={tags.filter((t) => t.id !== tag.id)} />}
          </li>
        ))}
      </ul>
    </Sheet>
  );
}

function OneTag({ tag, others }: { tag: Tag; others: Tag[] }) {
  const { brand } = useBrand();
  const [name, setName] = useState(tag.name);
  const [isSure, setSure] = useState(false);
  const save = useSaveTag(brand.slug);
  const remove = useRemoveTag(brand.slug);
  const merge = useMergeTag(brand.slug);
  const say = useToast();
  const wrong = (error: Error) => say(error.message, "wrong");
  const rename = () => {
    if (name.trim() && name.trim() !== tag.name)
      save.mutate({ id: tag.id, name, colour: tag.colour }, { onError: wrong });
  };
  return (
    <div className="flex flex-col gap-3 border-l-2 border-rule-strong py-2 pl-3">
      <Field label="Name">
        {(props) => (
          <input
            {...props}
            value={name}
            maxLength={60}
            onChange={(e) => setName(e.target.value)}
            onBlur={rename}
            onKeyDown={(e) => e.key === "Enter" && rename()}
          />
        )}
      </Field>
      <fieldset className="flex items-center gap-1.5">
        <legend className="sr-only">Colour</legend>
        {Array.from({ length: TAG_COLOURS }, (_, i) => i + 1).map((colour) => (
          <button
            key={colour}
            type="button"
            aria-label={`Colour ${colour}`}
            aria-pressed={tag.colour === colour}
            onClick={() => save.mutate({ id: tag.id, name: tag.name, colour }, { onError: wrong })}
            className={`h-6 w-6 border-2 ${tag.colour === colour ? "border-ink" : "border-transparent"}`}
            style={{ background: `var(--tag-${colour})` }}
          />
        ))}
      </fieldset>
      <Rules tag={tag} />
      <div className="flex flex-wrap items-center gap-3">
        {others.length > 0 && (
          <select
            aria-label={`Merge ${tag.name} into`}
            value=""
            onChange={(e) =>
              merge.mutate(
                { id: tag.id, into: Number(e.target.value) },
                { onSuccess: (kept) => say(`${tag.name} is part of ${kept?.name} now.`), onError: wrong },
              )
            }
            className={`${inputLook} w-auto`}
          >
            <option value="">Merge into …</option>
            {others.map((other) => (
              <option key={other.id} value={other.id}>
                {other.name}
              </option>
            ))}
          </select>
        )}
        {isSure ? (
          <Button kind="danger" onClick={() => remove.mutate(tag.id, { onError: wrong })}>
            Take it off {plural(tag.posts, "post")} and remove it
          </Button>
        ) : (
          <Button kind="quiet" onClick={() => setSure(true)}>
            Remove the tag
          </Button>
        )}
      </div>
    </div>
  );
}

const KINDS: Record<Rule["kind"], string> = {
  text: "The text holds the words",
  hashtag: "It has the hashtag",
  format: "Its format is",
  campaign: "It belongs to",
};

function Rules({ tag }: { tag: Tag }) {
  const { brand, networks } = useBrand();
  const campaigns = useCampaigns(brand.slug).data ?? [];
  const [kind, setKind] = useState<Rule["kind"]>("text");
  const [value, setValue] = useState("");
  const tried = useTriedRule(brand.slug, kind, value);
  const add = useAddRule(brand.slug);
  const remove = useRemoveRule(brand.slug);
  const say = useToast();
  const wordsOf = (rule: { kind: string; value: string }) =>
    rule.kind === "format"
      ? formatNames[rule.value]
      : rule.kind === "campaign"
        ? (campaigns.find((c) => String(c.id) === rule.value)?.name ?? "a campaign that is gone")
        : rule.kind === "hashtag"
          ? `#${rule.value}`
          : `“${rule.value}”`;
  return (
    <div className="flex flex-col gap-2">
      <h3 className="text-[14px] font-semibold">Rules</h3>
      {tag.rules.map((rule) => (
        <p key={rule.id} className="flex items-baseline justify-between gap-2">
          <span>
            {KINDS[rule.kind]} <b>{wordsOf(rule)}</b>
          </span>
          <Button
            kind="quiet"
            onClick={() =>
              remove.mutate(
                { id: tag.id, rule: rule.id, keeps_posts: true },
                { onSuccess: () => say("The rule is gone; the posts keep the tag.") },
              )
            }
          >
            take away
          </Button>
        </p>
      ))}
      <div className="grid grid-cols-2 gap-2">
        <select
          aria-label="What the rule looks at"
          value={kind}
          onChange={(e) => {
            setKind(e.target.value as Rule["kind"]);
            setValue("");
          }}
          className={inputLook}
        >
          {Object.entries(KINDS).map(([key, words]) => (
            <option key={key} value={key}>
              {words}
            </option>
          ))}
        </select>
        {kind === "format" || kind === "campaign" ? (
          <select
            aria-label="What the rule looks for"
            value={value}
            onChange={(e) => setValue(e.target.value)}
            className={inputLook}
          >
            <option value="">Choose …</option>
            {(kind === "format"
              ? Object.entries(formatNames)
              : campaigns.map((c): [string, string] => [String(c.id), c.name])
            ).map(([key, words]) => (
              <option key={key} value={key}>
                {words}
              </option>
            ))}
          </select>
        ) : (
          <input
            aria-label="What the rule looks for"
            value={value}
            maxLength={200}
            onChange={(e) => setValue(e.target.value)}
            placeholder={kind === "hashtag" ? "#skytonight" : "words, whole"}
            className={inputLook}
          />
        )}
      </div>
      {value.trim() && tried.error && (
        <p role="alert" className="text-down">
          {tried.error.message}
        </p>
      )}
      {tried.data && (
        <div aria-live="polite">
          <p>
            It would catch <b>{plural(tried.data.caught, "post")}</b> of {figure(tried.data.of)}.
          </p>
          <ul className="mt-1 max-h-[180px] overflow-y-auto" aria-label="Posts that the rule would catch" tabIndex={0}>
            {tried.data.posts.map((post) => {
              const network = networkNamed(networks, post.network);
              return (
                <li key={post.id} className="rowline flex items-center gap-2 py-1">
                  <NetworkMark network={network} />
                  <Cut className="flex-1">{post.text}</Cut>
                  <span className="label">{shortDay(dayOf(post.published_at, brand.time_zone))}</span>
                </li>
              );
            })}
          </ul>
          <Button
            className="mt-2"
            isBusy={add.isPending}
            onClick={() =>
              add.mutate(
                { id: tag.id, kind, value },
                {
                  onSuccess: (done) => {
                    say(`${plural(done?.changed ?? 0, "post")} tagged; new ones will be as they come.`);
                    setValue("");
                  },
                  onError: (error) => say(error.message, "wrong"),
                },
              )
            }
          >
            Add the rule and tag them
          </Button>
        </div>
      )}
    </div>
  );
}
