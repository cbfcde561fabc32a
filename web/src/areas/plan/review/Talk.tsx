import { ThumbsDown, ThumbsUp } from "lucide-react";
import { useState } from "react";
import type { ProblemError } from "../../../api/client";
import { moment } from "../../../lib/days";
import { Button } from "../../../ui/Button";
import { inputLook } from "../../../ui/Field";
import type { RemarkInput, Review, VerdictInput } from "./queries";
import { aboutWords, inOrder, standingWords } from "./rules";
import type { About } from "./SeenPost";

type Acting<T> = {
  mutate: (given: T, options?: { onSuccess?: () => void }) => void;
  isPending: boolean;
  error: Error | null;
  reset: () => void;
};
type Props = {
  review: Review;
  zone: string;
  /** Names of networks by their keys. */
  networks: Record<string, string>;
  about: About | null;
  onAbout: (about: About | null) => void;
  say: Acting<VerdictInput>;
  /** None where one may only look. */
  remark?: Acting<RemarkInput>;
  vote?: Acting<number>;
  settle?: Acting<{ remark: number; is_settled: boolean }>;
};

/** What was said about a post, and what oneself has to say: yes, a change, a remark, for or against. */
export function Talk({ review, zone, networks, about, onAbout, say, remark, vote, settle }: Props) {
  const [text, setText] = useState("");
  const [words, setWords] = useState<string | null>(null);
  const error = (say.error ?? remark?.error ?? vote?.error ?? settle?.error) as ProblemError | null | undefined;
  const send = (is_yes: boolean) =>
    say.mutate({ is_yes, words: words ?? "", digest: review.digest }, { onSuccess: () => setWords(null) });
  return (
    <div>
      <p role="status" className={review.may_say ? "font-semibold text-berry" : "text-muted"}>
        {standingWords(review)}
        {review.asked_by && review.state === "in_review" && ` Asked for by ${review.asked_by}.`}
      </p>
      {review.may_say && (
        <div className="my-2 flex flex-col gap-2">
          {words === null ? (
            <div className="flex flex-wrap gap-2">
              <Button kind="main" isBusy={say.isPending} onClick={() => send(true)}>
                Yes, as it is
              </Button>
              <Button onClick={() => setWords("")}>Ask for a change</Button>
            </div>
          ) : (
            <form
              className="flex flex-col gap-2"
              onSubmit={(event) => {
                event.preventDefault();
                send(false);
              }}
            >
              <label className="flex flex-col gap-1">
                <span className="text-[13px] font-semibold">What is to be changed</span>
                <textarea
                  rows={3}
                  maxLength={4000}
                  className={`${inputLook} h-auto py-1`}
                  value={words}
                  onChange={(event) => setWords(event.target.value)}
                />
              </label>
              <div className="flex flex-wrap gap-2">
                <Button kind="main" type="submit" disabled={!words.trim()} isBusy={say.isPending}>
                  Send it back
                </Button>
                <Button onClick={() => setWords(null)}>Leave it</Button>
              </div>
            </form>
          )}
        </div>
      )}
      {error && (
        <p role="alert" className="text-down">
          {Object.values(error.fields ?? {})[0] ?? error.message}
        </p>
      )}
      {vote && (
        <fieldset className="my-2 flex items-center gap-3">
          <legend className="sr-only">For or against it</legend>
          {([1, -1] as const).map((value) => {
            const Icon = value > 0 ? ThumbsUp : ThumbsDown;
            const count = value > 0 ? review.votes.for_it : review.votes.against;
            const isMine = review.votes.mine === value;
            return (
              <button
                key={value}
                type="button"
                aria-pressed={isMine}
                className={`flex h-7 items-center gap-1 hover:text-berry ${isMine ? "font-semibold text-berry" : ""}`}
                onClick={() => vote.mutate(isMine ? 0 : value)}
              >
                <Icon size={15} /> {count} {value > 0 ? "for it" : "against"}
              </button>
            );
          })}
        </fieldset>
      )}
      <ol className="mt-2">
        {inOrder(review).map(({ kind, at, one }) => (
          <li key={`${kind} ${at} ${one.name}`} className="rowline py-1.5">
            <span className="label">
              {one.name}
              {kind === "remark" && one.is_guest && " (guest)"}, {moment(at, zone)}
            </span>
            {kind === "verdict" ? (
              <p className={one.is_yes ? "text-up" : "text-down"}>
                {one.is_yes ? "Yes" : "A change"}
                {one.is_yes && !one.is_of_this && <span className="text-muted"> (to what it was then)</span>}
                {one.words && `: ${one.words}`}
              </p>
            ) : (
              <div className={one.is_settled ? "text-muted" : ""}>
                {one.quote && <q className="block border-l-2 border-rule-strong pl-2 text-muted">{one.quote}</q>}
                {aboutWords(review, one, networks) && (
                  <span className="label block">{aboutWords(review, one, networks)}</span>
                )}
                <p className="whitespace-pre-wrap break-words">{one.text}</p>
                {settle && (
                  <button
                    type="button"
                    className="label under h-6 hover:text-berry"
                    onClick={() => settle.mutate({ remark: one.id, is_settled: !one.is_settled })}
                  >
                    {one.is_settled ? "done; open it again" : "take as done"}
                  </button>
                )}
              </div>
            )}
          </li>
        ))}
      </ol>
      {remark && (
        <form
          className="mt-3 flex flex-col gap-2"
          onSubmit={(event) => {
            event.preventDefault();
            remark.mutate(
              { text, quote: about?.quote ?? "", asset: about?.asset, profile_id: about?.profile_id },
              {
                onSuccess: () => {
                  setText("");
                  onAbout(null);
                },
              },
            );
          }}
        >
          <label className="flex flex-col gap-1">
            <span className="text-[13px] font-semibold">
              {about?.quote
                ? "About the marked words"
                : about
                  ? `Say something ${aboutWords(review, about, networks)}`
                  : "Say something"}
            </span>
            {about?.quote && <q className="border-l-2 border-berry pl-2 text-muted">{about.quote}</q>}
            <textarea
              rows={2}
              maxLength={4000}
              className={`${inputLook} h-auto py-1`}
              value={text}
              onChange={(event) => setText(event.target.value)}
            />
          </label>
          <div className="flex gap-2">
            <Button type="submit" disabled={!text.trim()} isBusy={remark.isPending}>
              Say it
            </Button>
            {about && <Button onClick={() => onAbout(null)}>About all of it</Button>}
          </div>
        </form>
      )}
    </div>
  );
}
