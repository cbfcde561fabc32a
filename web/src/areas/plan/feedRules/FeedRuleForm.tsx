import { useState } from "react";
import { ProblemError, type Schemas } from "../../../api/client";
import { useSettled } from "../../../lib/useSettled";
import { useTyped } from "../../../lib/useTyped";
import { useBrand } from "../../../study/brand";
import { IdeaGroupField } from "../../../study/KeepIdea";
import { Button } from "../../../ui/Button";
import { Check } from "../../../ui/Check";
import { Field, inputLook } from "../../../ui/Field";
import { TimeField } from "../../../ui/TimeField";
import { useToast } from "../../../ui/Toast";
import { CampaignField } from "../CampaignField";
import { useTemplates } from "../ideas/queries";
import { TemplatesSheet } from "../ideas/TemplatesSheet";
import { ProfileBoxes } from "../ProfileBoxes";
import { Became } from "./Became";
import { type FeedRule, type FeedRuleContent, useFeedRuleActs } from "./queries";
import { RemoveRule } from "./RemoveRule";
import { BECOMES, contentOf, EMPTY, wordsIn } from "./rules";
import { Tried } from "./Tried";

type Props = {
  rule?: FeedRule;
  feeds: Schemas["Feed"][];
  isEditable: boolean;
  onOpen: (id: number | null) => void;
};

/** A rule as it is written, and beside it what it would do with the newest items and what it did. */
export function FeedRuleForm({ rule, feeds, isEditable, onOpen }: Props) {
  const { brand, can } = useBrand();
  const say = useToast();
  const [typed, setTyped, begin] = useTyped(`dakika.feed-rule/${brand.slug}/${rule?.id ?? "new"}`, {
    content: rule ? contentOf(rule) : { ...EMPTY, feed: feeds[0]?.id ?? 0, name: feeds[0]?.title.slice(0, 80) ?? "" },
    edition: rule?.edition,
  });
  const { content, edition } = typed;
  const [words, setWords] = useState(() => wordsOf(content));
  const [opened, setOpened] = useState<"templates" | "remove" | null>(null);
  const templates = useTemplates(brand.slug, true).data ?? [];
  const { keep, remove } = useFeedRuleActs(brand.slug);
  const error = keep.error instanceof ProblemError ? keep.error : null;
  const fields = error?.fields ?? {};
  const change = (patch: Partial<FeedRuleContent>) =>
    setTyped((now) => ({ ...now, content: { ...now.content, ...patch } }));
  const isIdea = content.becomes === "idea";
  const asked = useSettled(content);
  const isChanged = !rule || JSON.stringify(content) !== JSON.stringify(contentOf(rule));
  const save = (patch: Partial<FeedRuleContent> = {}) =>
    keep.mutate(
      { ...content, ...patch, id: rule?.id, edition },
      {
        onSuccess: (kept) => {
          begin(rule ? { content: contentOf(kept), edition: kept.edition } : { content: EMPTY, edition: undefined });
          say(kept.is_on ? "Kept. It acts on what comes from now on." : "Kept, and switched off.");
          onOpen(kept.id);
        },
      },
    );
  const number = (name: "most_a_day" | "minutes_after" | "minutes_apart", label: string, unit: string) => (
    <Field label={label} error={fields[name]}>
      {(props) => (
        <span className="flex items-baseline gap-2">
          <input
            {...props}
            type="number"
            min={name === "most_a_day" ? 1 : 0}
            max={name === "most_a_day" ? 50 : 1440}
            className={`${props.className} !w-[72px]`}
            value={content[name] ?? ""}
            onChange={(event) => change({ [name]: Math.max(0, Math.floor(Number(event.target.value))) })}
          />
          <span className="label">{unit}</span>
        </span>
      )}
    </Field>
  );
  return (
    <div className="grid min-h-0 grid-cols-[minmax(320px,400px)_minmax(0,1fr)]">
      <form
        className="min-w-0 overflow-y-auto px-5 py-3 narrow:px-3"
        onSubmit={(event) => {
          event.preventDefault();
          save();
        }}
      >
        <fieldset disabled={!isEditable} className="flex flex-col gap-3">
          {rule?.problem && (
            <p className="border-l-2 border-down pl-2 text-down" role="alert">
              {rule.problem}
            </p>
          )}
          <p className="leading-8">
            New items of{" "}
            <select
              aria-label="Of which feed"
              className={`${inputLook} !w-auto max-w-[240px]`}
              value={content.feed}
              onChange={(event) => change({ feed: Number(event.target.value) })}
            >
              {!feeds.some((one) => one.id === content.feed) && (
                <option value={content.feed}>{rule?.feed_title ?? "choose a feed"}</option>
              )}
              {feeds.map((one) => (
                <option key={one.id} value={one.id}>
                  {one.title}
                </option>
              ))}
            </select>{" "}
            become{" "}
            <select
              aria-label="What they become"
              className={`${inputLook} !w-auto`}
              value={content.becomes}
              onChange={(event) => change({ becomes: event.target.value as FeedRule["becomes"] })}
            >
              {(Object.keys(BECOMES) as (keyof typeof BECOMES)[]).map((one) => (
                <option key={one} value={one}>
                  {BECOMES[one]}
                </option>
              ))}
            </select>
          </p>
          {rule && !feeds.some((one) => one.id === rule.feed) && (
            <p className="text-down">
              This feed is not followed any more: nothing new comes of it. Choose another one.
            </p>
          )}
          {(fields.feed || fields.becomes) && <p className="text-down">{fields.feed ?? fields.becomes}</p>}
          {content.becomes === "scheduled" && !can("plan.publish") && (
            <p className="label">
              You may not publish: where nobody is asked for a yes, somebody who may has to keep it.
            </p>
          )}
          <Field label="Name of the rule" error={fields.name}>
            {(props) => (
              <input
                {...props}
                maxLength={80}
                value={content.name}
                onChange={(event) => change({ name: event.target.value })}
              />
            )}
          </Field>
          <ProfileBoxes
            legend={isIdea ? "Meant for" : "On"}
            chosen={content.profiles ?? []}
            error={fields.profiles}
            onChange={(profiles) => change({ profiles })}
          />
          <div className="grid grid-cols-2 gap-3">
            <WordsField
              label="That say"
              help="One of these; a star stands for any ending"
              value={words.any_of}
              error={fields.any_of}
              onChange={(told) => {
                setWords({ ...words, any_of: told });
                change({ any_of: wordsIn(told) });
              }}
            />
            <WordsField
              label="And say nothing of"
              help="Parted by commas: advert, job*"
              value={words.none_of}
              error={fields.none_of}
              onChange={(told) => {
                setWords({ ...words, none_of: told });
                change({ none_of: wordsIn(told) });
              }}
            />
          </div>
          {!isIdea && (
            <>
              <Field
                label="Written by"
                error={fields.template}
                help={
                  <>
                    Places: {"{title} {summary} {address} {author} {feed} {date}"}. A long summary is cut to what fits.{" "}
                    <button type="button" className="under hover:text-berry" onClick={() => setOpened("templates")}>
                      Templates
                    </button>
                  </>
                }
              >
                {(props) => (
                  <select
                    {...props}
                    value={content.template ?? ""}
                    onChange={(event) => change({ template: Number(event.target.value) || null })}
                  >
                    <option value="">its title and its page</option>
                    {templates.map((one) => (
                      <option key={one.id} value={one.id}>
                        {one.name}
                      </option>
                    ))}
                  </select>
                )}
              </Field>
              <Check isOn={content.makes_links ?? true} onChange={(makes_links) => change({ makes_links })}>
                Its page as a tracked link, one for each profile
              </Check>
            </>
          )}
          <div className="grid grid-cols-2 gap-3">
            {isIdea && (
              <IdeaGroupField
                value={content.group ?? null}
                onChange={(group) => change({ group })}
                error={fields.group}
              />
            )}
            <CampaignField
              value={content.campaign ?? null}
              onChange={(campaign) => change({ campaign })}
              error={fields.campaign}
            />
            {number("most_a_day", "At most", "a day")}
            {!isIdea && number("minutes_apart", "At least apart", "minutes")}
            {!isIdea && number("minutes_after", "Not before", "minutes after it came")}
          </div>
          {!isIdea && (
            <fieldset className="flex flex-wrap items-end gap-3">
              <legend className="text-[13px] font-semibold">Quiet hours, by the brand’s clock</legend>
              <TimeField
                aria-label="Quiet from"
                className={`${inputLook} !w-[84px]`}
                value={(content.quiet_from ?? "").slice(0, 5)}
                onChange={(time) => change({ quiet_from: time || null })}
              />
              <span>to</span>
              <TimeField
                aria-label="Quiet to"
                className={`${inputLook} !w-[84px]`}
                value={(content.quiet_to ?? "").slice(0, 5)}
                onChange={(time) => change({ quiet_to: time || null })}
              />
              <Button onClick={() => change({ quiet_from: null, quiet_to: null })}>None</Button>
              {(fields.quiet_from || fields.quiet_to) && (
                <p className="w-full text-down">{fields.quiet_from ?? fields.quiet_to}</p>
              )}
            </fieldset>
          )}
          {error && Object.keys(fields).length === 0 && (
            <p className="text-down" role="alert">
              {error.message}{" "}
              {rule && error.status === 409 && (
                <button
                  type="button"
                  className="under"
                  onClick={() => {
                    begin({ content: contentOf(rule), edition: rule.edition });
                    setWords(wordsOf(rule));
                    keep.reset();
                  }}
                >
                  Show it as it is now
                </button>
              )}
            </p>
          )}
          {isEditable && (
            <div className="flex flex-wrap items-center gap-2">
              <Button type="submit" kind="main" disabled={!isChanged && !rule?.problem} isBusy={keep.isPending}>
                {rule ? "Keep it so" : "Begin"}
              </Button>
              {rule && (
                <Button onClick={() => save({ is_on: !content.is_on })} disabled={keep.isPending}>
                  {content.is_on ? "Switch it off" : "Switch it on"}
                </Button>
              )}
              {rule && <Button onClick={() => setOpened("remove")}>Take it away</Button>}
            </div>
          )}
          {rule && (
            <p className="label">
              It acts as {rule.acts_as || "nobody"}, and only as long as they may. Whoever keeps it anew takes it over.
            </p>
          )}
        </fieldset>
      </form>
      <section className="min-w-0 overflow-y-auto border-l border-rule px-5 py-3" aria-label="What it does">
        {rule && <Became rule={rule} />}
        <Tried content={asked} />
      </section>
      <TemplatesSheet isOpen={opened === "templates"} onClose={() => setOpened(null)} />
      {rule && (
        <RemoveRule
          rule={rule}
          isOpen={opened === "remove"}
          isBusy={remove.isPending}
          error={remove.error}
          onClose={() => setOpened(null)}
          onRemove={(takes_back) =>
            // The form goes with the rule: what is said afterwards hangs on nothing that is shown.
            remove.mutateAsync({ id: rule.id, takes_back }).then(
              ({ posts }) => {
                say(posts > 0 ? `Taken away, with what was to go out: ${posts}.` : "Taken away.");
                onOpen(null);
              },
              () => undefined,
            )
          }
        />
      )}
    </div>
  );
}

const wordsOf = (content: Pick<FeedRuleContent, "any_of" | "none_of">) => ({
  any_of: (content.any_of ?? []).join(", "),
  none_of: (content.none_of ?? []).join(", "),
});

type WordsProps = { label: string; help: string; value: string; error?: string; onChange: (told: string) => void };

function WordsField({ label, help, value, error, onChange }: WordsProps) {
  return (
    <Field label={label} help={help} error={error}>
      {(props) => (
        <input {...props} maxLength={2000} value={value} onChange={(event) => onChange(event.target.value)} />
      )}
    </Field>
  );
}
