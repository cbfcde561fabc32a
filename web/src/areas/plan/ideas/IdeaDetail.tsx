import { useState } from "react";
import { Link, useNavigate } from "react-router";
import type { ProblemError } from "../../../api/client";
import { moment } from "../../../lib/days";
import { useBrand } from "../../../study/brand";
import { Button } from "../../../ui/Button";
import { StateWord } from "../../../ui/Marks";
import { Failed, Loading, Notice } from "../../../ui/States";
import { useToast } from "../../../ui/Toast";
import { useReview, useReviewing } from "../review/queries";
import { Talk } from "../review/Talk";
import { STATE_WORDS } from "../rules";
import { IdeaForm } from "./IdeaForm";
import { type Idea, type IdeaContent, useIdea, useIdeaActs } from "./queries";
import { contentOf, keptWords, originWords } from "./rules";
import { Wording } from "./Wording";

const SIDES = ["idea", "wording", "said"] as const;
const NAMES = { idea: "The idea", wording: "First wording", said: "Said" };

/** One idea: written on in place, with what was known of where it came from, what is said of it, and what came of it. */
export function IdeaDetail({ id, onGone }: { id: number; onGone: () => void }) {
  const { brand } = useBrand();
  const idea = useIdea(brand.slug, id);
  if (idea.error) return <Failed error={idea.error} onRetry={() => idea.refetch()} />;
  if (!idea.data) return <Loading what="Loading the idea" />;
  return <Opened key={id} idea={idea.data} onGone={onGone} />;
}

function Opened({ idea, onGone }: { idea: Idea; onGone: () => void }) {
  const { brand, can } = useBrand();
  const navigate = useNavigate();
  const say = useToast();
  const canChange = can("plan.write");
  const acts = useIdeaActs(brand.slug, idea.id);
  const [side, setSide] = useState<(typeof SIDES)[number]>("idea");
  // What is typed, and the edition it was typed over: a colleague's change is shown, never written over.
  const [typed, setTyped] = useState<{ content: IdeaContent; edition: number } | null>(null);
  const content = typed?.content ?? contentOf(idea);
  const change = (patch: Partial<IdeaContent>) =>
    setTyped({ content: { ...content, ...patch }, edition: typed?.edition ?? idea.edition });
  const isBehind = typed !== null && typed.edition !== idea.edition;
  const keep = async () => {
    if (!typed) return;
    await acts.change.mutateAsync({ ...typed.content, edition: typed.edition });
    setTyped(null);
  };
  const error = (acts.change.error ?? acts.write.error ?? acts.shut.error ?? acts.remove.error) as ProblemError | null;
  const fields = Object.fromEntries(Object.entries(error?.fields ?? {}).map(([name, text]) => [name, String(text)]));
  const write = async (text: string) => {
    try {
      await keep();
      const draft = await acts.write.mutateAsync(text);
      navigate(`/${brand.slug}/plan/${draft.id}`);
    } catch {
      // Told beneath, where it was asked for.
    }
  };
  return (
    <div>
      <div className="flex flex-wrap items-baseline gap-x-4 border-b border-rule">
        {SIDES.map((one) => (
          <button
            key={one}
            type="button"
            aria-pressed={side === one}
            onClick={() => setSide(one)}
            className="h-9 text-[16px] aria-pressed:border-b-2 aria-pressed:border-berry"
          >
            {NAMES[one]}
            {one === "said" && idea.remarks > 0 && ` (${idea.remarks})`}
          </button>
        ))}
        {canChange && (
          <Button kind="main" className="ml-auto" isBusy={acts.write.isPending} onClick={() => write("")}>
            Write a draft
          </Button>
        )}
      </div>
      <CameFrom idea={idea} />
      {error && Object.keys(fields).length === 0 && (
        <div className="my-2">
          <Notice kind="wrong">{error.message}</Notice>
        </div>
      )}
      {isBehind && (
        <div className="my-2">
          <Notice kind="wrong">
            Somebody has changed this idea meanwhile: “{idea.title || idea.note.slice(0, 80)}”.{" "}
            <button type="button" className="under min-h-6" onClick={() => setTyped(null)}>
              Take theirs
            </button>{" "}
            <button
              type="button"
              className="under min-h-6"
              onClick={() => {
                acts.change.reset();
                setTyped({ content, edition: idea.edition });
              }}
            >
              Go on with mine
            </button>
          </Notice>
        </div>
      )}
      {side === "wording" ? (
        <Wording
          idea={{
            title: content.title ?? "",
            page: content.page ?? "",
            wishes: content.wishes ?? [],
            origin: idea.origin,
          }}
          isBusy={acts.write.isPending}
          onWrite={write}
        />
      ) : side === "said" ? (
        <Said id={idea.id} />
      ) : (
        <>
          <IdeaForm content={content} isEditable={canChange} errors={fields} change={change} />
          {canChange && (
            <div className="mt-3 flex flex-wrap items-center gap-x-4 gap-y-2">
              <Button
                disabled={!typed}
                isBusy={acts.change.isPending}
                onClick={() => {
                  acts.change.reset();
                  keep().catch(() => undefined);
                }}
              >
                Save
              </Button>
              {typed && <span className="label">Not saved yet</span>}
              <button
                type="button"
                className="under ml-auto h-6 hover:text-berry"
                onClick={() =>
                  acts.shut.mutate(!idea.is_shut, {
                    onSuccess: () => say(idea.is_shut ? "It is among the open ones again." : "It is put away."),
                  })
                }
              >
                {idea.is_shut ? "Take it out again" : "Put it away"}
              </button>
              <button
                type="button"
                className="under h-6 hover:text-down"
                onClick={() =>
                  acts.remove.mutate(undefined, {
                    onSuccess: () => {
                      say("The idea is thrown away. What was written from it stays.");
                      onGone();
                    },
                  })
                }
              >
                Throw it away
              </button>
            </div>
          )}
        </>
      )}
      {idea.written.length > 0 && (
        <section className="mt-4" aria-labelledby="written-title">
          <h2 id="written-title" className="text-[16px]">
            Written from it
          </h2>
          <ul>
            {idea.written.map((one) => (
              <li key={one.id} className="rowline flex items-baseline gap-3 py-1">
                <Link to={`/${brand.slug}/plan/${one.id}`} className="under min-w-0 truncate hover:text-berry">
                  {one.title || "Untitled"}
                </Link>
                <span className="label ml-auto whitespace-nowrap">{one.at && moment(one.at, brand.time_zone)}</span>
                <StateWord tone={STATE_WORDS[one.state]?.tone ?? "quiet"}>
                  {STATE_WORDS[one.state]?.word ?? one.state}
                </StateWord>
              </li>
            ))}
          </ul>
        </section>
      )}
    </div>
  );
}

/** Where it came from, and its figures as they were on that day. */
function CameFrom({ idea }: { idea: Idea }) {
  const { brand } = useBrand();
  const way = idea.post ? `results/posts/${idea.post}` : idea.view;
  const words = `${originWords(idea)}, ${moment(idea.kept_at, brand.time_zone)}${idea.by && `, by ${idea.by}`}`;
  return (
    <div className="py-2">
      <p className="label">
        {way ? (
          <Link to={`/${brand.slug}/${way}`} className="under hover:text-berry">
            {words}
          </Link>
        ) : (
          words
        )}
      </p>
      {idea.figures.length > 0 && (
        <p title="As it was when the idea was kept">
          Then: <span className="font-semibold">{idea.figures.map(keptWords).join(", ")}</span>
        </p>
      )}
    </div>
  );
}

function Said({ id }: { id: number }) {
  const { brand, networks, can } = useBrand();
  const review = useReview(brand.slug, id);
  const doing = useReviewing(brand.slug, id);
  if (review.error) return <Failed error={review.error} onRetry={() => review.refetch()} />;
  if (!review.data) return <Loading what="Loading what was said" />;
  return (
    <Talk
      review={review.data}
      zone={brand.time_zone}
      networks={Object.fromEntries(networks.map((one) => [one.key, one.name]))}
      about={null}
      onAbout={() => undefined}
      say={doing.say}
      remark={doing.remark}
      vote={doing.vote}
      settle={can("plan.write") ? doing.settle : undefined}
    />
  );
}
