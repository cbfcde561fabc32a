import { useEffect, useState } from "react";
import { Link } from "react-router";
import { moment } from "../../lib/days";
import { networkNamed, useBrand } from "../../study/brand";
import { Button } from "../../ui/Button";
import { CopyButton } from "../../ui/CopyButton";
import { inputLook } from "../../ui/Field";
import { StateWord } from "../../ui/Marks";
import { type Planned, useByHand, useSchedulePost, useSettle, useTakeBack } from "./queries";
import { STATE_WORDS } from "./rules";

type Version = Planned["versions"][number];

/** What became of each version, and what to do where it did not go out. */
export function Fate({ planned, isEditable }: { planned: Planned; isEditable: boolean }) {
  const { brand, networks } = useBrand();
  const soonest = planned.versions.find((v) => v.state === "scheduled");
  return (
    <ul className="mt-2 flex flex-col gap-1">
      {planned.versions.map((v) => {
        const state = STATE_WORDS[v.state] ?? { word: v.state, tone: "quiet" as const };
        return (
          <li key={v.id}>
            <div className="flex flex-wrap items-baseline gap-2">
              <span>{networkNamed(networks, v.network).name}:</span>
              <StateWord tone={state.tone}>{state.word}</StateWord>
              {v.state === "scheduled" && v.due_at && <Countdown due={v.due_at} />}
              {v.state === "scheduled" && v.due_at && isEditable && v === soonest && (
                <AtOnce planned={planned} due={v.due_at} />
              )}
              {v.published_at && <span className="text-muted">{moment(v.published_at, brand.time_zone)}</span>}
              {v.post_id && (
                <Link to={`/${brand.slug}/results/posts/${v.post_id}`} className="under hover:text-berry">
                  its results
                </Link>
              )}
              {v.error && <span className="text-down">{v.error}</span>}
              {isEditable && <Mend version={v} />}
            </div>
            {v.first_comment_state && (
              <p className="pl-4">
                First comment:{" "}
                {{ waiting: "on its way", done: "written", failed: "not written" }[v.first_comment_state]}
                {v.first_comment_error && <span className="text-down"> {v.first_comment_error}</span>}
              </p>
            )}
            {v.state === "by_hand" && isEditable && <ByHand version={v} />}
          </li>
        );
      })}
    </ul>
  );
}

const SHOWN_MS = 10 * 60_000;

/** In its last minutes: taken back in one step, or sent without waiting for the rest of the grace. */
function AtOnce({ planned, due }: { planned: Planned; due: string }) {
  const { brand } = useBrand();
  const schedule = useSchedulePost(brand.slug);
  const takeBack = useTakeBack(brand.slug);
  if (Date.parse(due) - Date.now() > SHOWN_MS) return null;
  return (
    <>
      <Button kind="quiet" isBusy={takeBack.isPending} onClick={() => takeBack.mutate(planned.id)}>
        Take it back
      </Button>
      <Button
        kind="quiet"
        isBusy={schedule.isPending}
        onClick={() => schedule.mutate({ id: planned.id, at: null, edition: planned.edition })}
      >
        Send it at once
      </Button>
      {(schedule.error ?? takeBack.error) && (
        <span role="alert" className="text-down">
          {(schedule.error ?? takeBack.error)?.message}
        </span>
      )}
    </>
  );
}

/** How long something can still be taken back before it goes out. */
function Countdown({ due }: { due: string }) {
  const [left, setLeft] = useState(() => Date.parse(due) - Date.now());
  useEffect(() => {
    const timer = setInterval(() => setLeft(Date.parse(due) - Date.now()), 500);
    return () => clearInterval(timer);
  }, [due]);
  if (left <= 0 || left > SHOWN_MS) return null;
  const seconds = Math.ceil(left / 1000);
  return (
    <span role="timer" className="font-semibold text-berry">
      goes out in {Math.floor(seconds / 60)}:{String(seconds % 60).padStart(2, "0")}
    </span>
  );
}

/** One step to what helps. */
function Mend({ version }: { version: Version }) {
  const { brand } = useBrand();
  const settle = useSettle(brand.slug);
  const isOut = version.state === "failed" || version.state === "missed";
  if (version.first_comment_state === "failed" && !isOut) {
    return (
      <Button
        kind="quiet"
        isBusy={settle.isPending}
        onClick={() => settle.mutate({ id: version.id, what: "say_again" })}
      >
        Write the first comment again
      </Button>
    );
  }
  if (!isOut) return null;
  return (
    <>
      {version.remedy === "authorise" && (
        <Link to={`/${brand.slug}/sources`} className="under hover:text-berry">
          Renew the authorisation
        </Link>
      )}
      <Button kind="quiet" isBusy={settle.isPending} onClick={() => settle.mutate({ id: version.id, what: "send" })}>
        Send it now
      </Button>
      {settle.error && <span className="text-down">{settle.error.message}</span>}
    </>
  );
}

/** A channel without a connection: words and files to take along, and the word that it is out. */
function ByHand({ version }: { version: Version }) {
  const { brand } = useBrand();
  const byHand = useByHand(brand.slug);
  const [address, setAddress] = useState("");
  return (
    <div className="mt-1 border-l-2 border-berry pl-3">
      <p>Publish it by hand now, then say that it is out.</p>
      <div className="mt-1 flex flex-wrap items-center gap-2">
        <span className="inline-flex items-center gap-1">
          text <CopyButton text={version.text} said="The text is copied." />
        </span>
        {version.first_comment && (
          <span className="inline-flex items-center gap-1">
            first comment <CopyButton text={version.first_comment} said="The first comment is copied." />
          </span>
        )}
        {version.media.map((id, i) => (
          <a
            key={id}
            className="under hover:text-berry"
            href={`/api/brands/${brand.slug}/plan/versions/${version.id}/files/${i}`}
            download
          >
            file {i + 1}
          </a>
        ))}
      </div>
      <div className="mt-1 flex max-w-[460px] gap-2">
        <input
          aria-label="Where it can be seen"
          placeholder="Address of the post, if it has one"
          className={inputLook}
          value={address}
          onChange={(event) => setAddress(event.target.value)}
        />
        <Button kind="main" isBusy={byHand.isPending} onClick={() => byHand.mutate({ id: version.id, address })}>
          It is out
        </Button>
      </div>
      {byHand.error && (
        <p role="alert" className="text-down">
          {byHand.error.message}
        </p>
      )}
    </div>
  );
}
