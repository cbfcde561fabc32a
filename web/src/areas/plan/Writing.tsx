import { useCallback, useRef } from "react";
import type { Schemas } from "../../api/client";
import { useBrand, useNetwork } from "../../study/brand";
import { Field } from "../../ui/Field";
import { NetworkMark } from "../../ui/Marks";
import { WordDiff } from "../../ui/WordDiff";
import { type Asset, useBringing } from "../media";
import { Advice } from "./Advice";
import { Attached } from "./Attached";
import { LinkCard } from "./LinkCard";
import { type Check, useOptions } from "./queries";
import { audienceWords, type Draft, type Part, partOf, withoutAddresses } from "./rules";
import { Words } from "./Words";

type Profile = Schemas["Profile"];
type Props = {
  draft: Draft;
  /** The version that is written in; null is what is common. */
  scope: Profile | null;
  profiles: Profile[];
  check?: Check;
  isEditable: boolean;
  change: (patch: Partial<Draft>) => void;
  onPart: <P extends Part>(part: P, value: Draft[P]) => void;
  onLink?: () => void;
  onHashtags: () => void;
};

/** The one field in which all versions are written: what is common, or one version where it must differ. */
export function Writing({ draft, scope, profiles, check, isEditable, change, onPart, onLink, onHashtags }: Props) {
  const { networks } = useBrand();
  const part = <P extends Part>(name: P): Draft[P] => (scope ? partOf(draft, scope.id, name) : draft[name]);
  const isOwn = (name: Part) => scope !== null && draft.own[scope.id]?.[name] !== undefined;
  const back = (name: Part) => {
    if (!scope) return;
    const { [name]: _, ...rest } = draft.own[scope.id] ?? {};
    change({ own: { ...draft.own, [scope.id]: rest } });
  };
  const media = part("media");
  const latest = useRef({ media, onPart });
  latest.current = { media, onPart };
  const bringing = useBringing(
    useCallback((asset: Asset) => {
      const { media: now, onPart: put } = latest.current;
      if (!now.includes(asset.id)) put("media", [...now, asset.id]);
    }, []),
  );
  const of = scope ? [scope] : profiles;
  const rules = of.map((one) => networks.find((network) => network.key === one.network));
  const hasTitle = rules.some((rule) => (rule?.title_limit ?? 0) > 0);
  const hasComment = rules.some((rule) => rule?.offer.has_first_comment) || part("comment") !== "";
  const text = part("text");
  const common = scope ? partOf({ ...draft, own: {} }, scope.id, "text") : draft.text;
  return (
    <div className="mt-3 flex flex-col gap-4">
      <div>
        <Words
          label={scope ? `${scope.name} on ${networkName(networks, scope.network)}` : "Text for all"}
          text={text}
          rows={scope ? 7 : 8}
          isEditable={isEditable}
          isInvalid={check ? check.count > check.limit : undefined}
          describedBy="text-count"
          network={scope?.network}
          onText={(value) => onPart("text", value)}
          onLink={isEditable ? onLink : undefined}
          onFiles={(files) => void bringing.go(files)}
          onHashtags={onHashtags}
          onTemplate={
            scope
              ? undefined
              : (told) =>
                  // What is written already stays before it.
                  change({
                    text: [draft.text.trimEnd(), told.text].filter(Boolean).join("\n\n"),
                    headline: draft.headline || told.headline,
                    comment: draft.comment || told.comment,
                  })
          }
        >
          {scope && <OwnOrNot isOwn={isOwn("text")} what="text" isEditable={isEditable} onBack={() => back("text")} />}
        </Words>
        {scope && check && <Counted check={check} />}
        {isOwn("text") && common.trim() !== "" && <Difference before={common} after={text} />}
        {scope && isEditable && <Advice profile={scope} />}
        {scope && check && (
          <Said check={check} onLinksOut={isEditable ? () => onPart("text", withoutAddresses(text)) : undefined} />
        )}
      </div>
      {hasTitle && (
        <Field label="Title" help="Where a network shows one">
          {(props) => (
            <input
              {...props}
              disabled={!isEditable}
              maxLength={300}
              value={part("headline")}
              onChange={(event) => onPart("headline", event.target.value)}
            />
          )}
        </Field>
      )}
      <div>
        <div className="mb-1 flex items-end gap-3">
          <h2 className="text-[13px] font-semibold">Files</h2>
          {scope && (
            <OwnOrNot isOwn={isOwn("media")} what="files" isEditable={isEditable} onBack={() => back("media")} />
          )}
        </div>
        <Attached media={media} isEditable={isEditable} onMedia={(next) => onPart("media", next)} bringing={bringing} />
      </div>
      {scope && <Options key={scope.id} profile={scope} draft={draft} isEditable={isEditable} change={change} />}
      {scope && (
        <LinkCard key={`card ${scope.id}`} profile={scope} draft={draft} isEditable={isEditable} change={change} />
      )}
      {hasComment && (
        <Words
          label="First comment"
          text={part("comment")}
          rows={2}
          isEditable={isEditable}
          network={scope?.network}
          onHashtags={onHashtags}
          onText={(value) => onPart("comment", value)}
        >
          {scope ? (
            <OwnOrNot
              isOwn={isOwn("comment")}
              what="first comment"
              isEditable={isEditable}
              onBack={() => back("comment")}
            />
          ) : (
            <span className="label">written under the post where a network takes one</span>
          )}
        </Words>
      )}
    </div>
  );
}

const networkName = (networks: Schemas["Network"][], key: string) =>
  networks.find((one) => one.key === key)?.name ?? key.replaceAll("-", " ");

type OwnProps = { isOwn: boolean; what: string; isEditable: boolean; onBack: () => void };

/** Whether a part is the version's own, and the way back to what is common. */
function OwnOrNot({ isOwn, what, isEditable, onBack }: OwnProps) {
  if (!isOwn) return <span className="label">as for all; changed here it is this version's own</span>;
  return (
    <span className="flex items-baseline gap-2">
      <span className="text-berry">own {what}</span>
      {isEditable && (
        <button type="button" onClick={onBack} className="label under h-6 hover:text-berry">
          as for all again
        </button>
      )}
    </span>
  );
}

function Counted({ check }: { check: Check }) {
  const share = Math.min(1, check.count / check.limit);
  const isOver = check.count > check.limit;
  return (
    <div id="text-count" className="mt-1 flex items-center gap-3 text-[12.5px]">
      <svg width="90" height="6" aria-hidden="true">
        <rect width="90" height="6" fill="var(--rule)" />
        <rect width={90 * share} height="6" fill={isOver ? "var(--down)" : "var(--berry)"} />
      </svg>
      <span className={isOver ? "font-semibold text-down" : "text-muted"}>
        {isOver ? `${check.count - check.limit} too many` : `${check.limit - check.count} left of ${check.limit}`}
      </span>
    </div>
  );
}

/** In what own words differ from the common ones. */
function Difference({ before, after }: { before: string; after: string }) {
  return (
    <details className="mt-1 text-[12.5px]">
      <summary className="label cursor-pointer">The difference from the text for all</summary>
      <p className="mt-1 whitespace-pre-wrap break-words border-l-2 border-rule-strong pl-2">
        <WordDiff before={before} after={after} />
      </p>
    </details>
  );
}

/** What the network would refuse, and what is only advice, with the way to mend it where there is one. */
function Said({ check, onLinksOut }: { check: Check; onLinksOut?: () => void }) {
  const said = check.problems.filter((one) => one.code !== "empty");
  return (
    <ul aria-live="polite" className="mt-1 text-[12.5px]">
      {said.map((one) => (
        <li key={one.code + one.message} className={one.is_blocking ? "text-down" : "text-muted"}>
          {one.message}{" "}
          {one.code === "no_links" && onLinksOut && (
            <button type="button" className="under h-6 hover:text-berry" onClick={onLinksOut}>
              take the link out here
            </button>
          )}
        </li>
      ))}
    </ul>
  );
}

const regions = new Intl.DisplayNames(["en-GB"], { type: "region" });

type ShownToProps = {
  option: NonNullable<ReturnType<typeof useOptions>["data"]>[number];
  told: string;
  isEditable: boolean;
  onChange: (told: string) => void;
};

/** Who is to see it, of what the network lets one choose by; what part of the audience that is, where it was read. */
function ShownTo({ option, told, isEditable, onChange }: ShownToProps) {
  const chosen = told.split(",").filter(Boolean);
  const name = (choice: string) => (option.dimension === "country" ? (regions.of(choice) ?? choice) : choice);
  return (
    <fieldset disabled={!isEditable}>
      <legend className="text-[13px] font-semibold">{option.name}</legend>
      <div className="flex flex-wrap gap-x-4">
        {option.choices.map((choice) => (
          <label key={choice} className="flex min-h-6 items-center gap-1.5">
            <input
              type="checkbox"
              className="h-4 w-4 accent-(--berry)"
              checked={chosen.includes(choice)}
              onChange={() =>
                onChange(
                  // In the network's order, so that the same choice is the same words.
                  option.choices
                    .filter((one) => (one === choice ? !chosen.includes(one) : chosen.includes(one)))
                    .join(","),
                )
              }
            />
            {name(choice)}
          </label>
        ))}
      </div>
      <p className="label">{audienceWords(chosen, option.shares)}</p>
    </fieldset>
  );
}

type OptionsProps = { profile: Profile; draft: Draft; isEditable: boolean; change: (patch: Partial<Draft>) => void };

/** What the network itself asks for with a post: a board, the words on a button. */
function Options({ profile, draft, isEditable, change }: OptionsProps) {
  const { brand } = useBrand();
  const network = useNetwork(profile.network);
  const options = useOptions(brand.slug, profile.id, network.has_options === true);
  if (!network.has_options) return null;
  const chosen = draft.options[profile.id] ?? {};
  return (
    <div className="flex flex-col gap-2">
      {options.data?.map((option) =>
        option.is_many ? (
          <ShownTo
            key={option.key}
            option={option}
            told={chosen[option.key] ?? ""}
            isEditable={isEditable}
            onChange={(told) =>
              change({ options: { ...draft.options, [profile.id]: { ...chosen, [option.key]: told } } })
            }
          />
        ) : (
          <Field key={option.key} label={option.name} error={option.problem || undefined}>
            {(props) => (
              <select
                {...props}
                disabled={!isEditable}
                value={chosen[option.key] ?? ""}
                onChange={(event) =>
                  change({
                    options: { ...draft.options, [profile.id]: { ...chosen, [option.key]: event.target.value } },
                  })
                }
              >
                <option value="">{option.is_required ? "choose one" : "none"}</option>
                {option.choices.map((choice) => (
                  <option key={choice}>{choice}</option>
                ))}
              </select>
            )}
          </Field>
        ),
      )}
      {options.isLoading && (
        <p className="label">
          <NetworkMark network={network} /> is asked for what may be chosen.
        </p>
      )}
    </div>
  );
}
