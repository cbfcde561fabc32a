import { useState } from "react";
import { Link } from "react-router";
import { moment } from "../../lib/days";
import { plural } from "../../lib/format";
import { networkNamed, useBrand } from "../../study/brand";
import { useProfiles } from "../../study/queries";
import { Button } from "../../ui/Button";
import { Check } from "../../ui/Check";
import { Field } from "../../ui/Field";
import { Sheet } from "../../ui/Sheet";
import { useToast } from "../../ui/Toast";
import { useEndPause, useGoingOut, usePause, useSettle } from "./queries";

const SHOWN = 3;

/** On top of the plan until it is settled: what did not go out and what to do about it, and what is held back. */
export function GoingOut() {
  const { brand, can } = useBrand();
  const told = useGoingOut(brand.slug).data;
  const [isAll, setAll] = useState(false);
  const [isPausing, setPausing] = useState(false);
  const canPublish = can("plan.publish");
  const rows = told?.to_settle ?? [];
  const pauses = told?.pauses ?? [];
  if (rows.length === 0 && pauses.length === 0 && !canPublish) return null;
  return (
    <div className="border-b border-rule px-5 narrow:px-3">
      {pauses.map((pause) => (
        <Paused key={pause.profile ?? "all"} pause={pause} canPublish={canPublish} />
      ))}
      {rows.slice(0, isAll ? undefined : SHOWN).map((row) => (
        <Row key={row.id} row={row} canPublish={canPublish} />
      ))}
      {rows.length > SHOWN && (
        <button type="button" className="under h-6 hover:text-berry" onClick={() => setAll(!isAll)}>
          {isAll ? "fewer" : `${rows.length - SHOWN} more that did not go out`}
        </button>
      )}
      {canPublish && !pauses.some((one) => one.profile === null) && (rows.length > 0 || pauses.length > 0) && (
        <button type="button" className="under ml-3 h-6 hover:text-berry" onClick={() => setPausing(true)}>
          Pause
        </button>
      )}
      <PauseSheet isOpen={isPausing} onClose={() => setPausing(false)} />
    </div>
  );
}

type Told = NonNullable<ReturnType<typeof useGoingOut>["data"]>;

function Row({ row, canPublish }: { row: Told["to_settle"][number]; canPublish: boolean }) {
  const { brand, networks } = useBrand();
  const settle = useSettle(brand.slug);
  const isByHand = row.state === "by_hand";
  const go = (what: "send" | "say_again" | "leave") => settle.mutate({ id: row.id, what });
  return (
    <div className="flex flex-wrap items-baseline gap-x-3 py-1">
      <span className={isByHand ? "font-semibold text-berry" : "font-semibold text-down"}>
        {isByHand
          ? "By hand now"
          : row.is_first_comment
            ? "First comment missing"
            : row.state === "missed"
              ? "Missed"
              : "Not published"}
      </span>
      <Link to={`/${brand.slug}/plan/${row.planned}`} className="under min-w-0 max-w-[340px] truncate hover:text-berry">
        {row.title || "Untitled"}
      </Link>
      <span className="text-muted">
        {networkNamed(networks, row.network).name}
        {row.at && `, ${moment(row.at, brand.time_zone)}`}
      </span>
      <span className="min-w-0">{row.error}</span>
      {canPublish && (
        <span className="flex flex-wrap gap-x-2">
          {row.is_first_comment ? (
            <Button kind="quiet" isBusy={settle.isPending} onClick={() => go("say_again")}>
              Write it again
            </Button>
          ) : isByHand ? (
            <Link to={`/${brand.slug}/plan/${row.planned}`} className="under h-7 hover:text-berry">
              Take text and files
            </Link>
          ) : row.remedy === "change" ? (
            <Link to={`/${brand.slug}/plan/${row.planned}`} className="under h-7 hover:text-berry">
              Change it
            </Link>
          ) : row.remedy === "authorise" ? (
            <Link to={`/${brand.slug}/sources`} className="under h-7 hover:text-berry">
              Renew the authorisation
            </Link>
          ) : (
            <Button kind="quiet" isBusy={settle.isPending} onClick={() => go("send")}>
              Send it now
            </Button>
          )}
          <Button kind="quiet" isBusy={settle.isPending} onClick={() => go("leave")}>
            {row.is_first_comment ? "Leave it" : "Make it a draft"}
          </Button>
        </span>
      )}
      {settle.error && (
        <span role="alert" className="text-down">
          {settle.error.message}
        </span>
      )}
    </div>
  );
}

function Paused({ pause, canPublish }: { pause: Told["pauses"][number]; canPublish: boolean }) {
  const { brand } = useBrand();
  const end = useEndPause(brand.slug);
  const say = useToast();
  const [isEnding, setEnding] = useState(false);
  const [sendsOverdue, setSends] = useState(false);
  return (
    <div className="flex flex-wrap items-baseline gap-x-3 py-1">
      <span className="font-semibold text-down">
        {pause.profile === null ? "Everything is paused" : `${pause.name} is paused`}
      </span>
      <span className="text-muted">
        since {moment(pause.begun_at, brand.time_zone)}
        {pause.begun_by && ` by ${pause.begun_by}`}
        {pause.why && `: ${pause.why}`}
      </span>
      <span>{plural(pause.waiting, "version")} waiting</span>
      {canPublish && (
        <Button kind="quiet" onClick={() => setEnding(true)}>
          End the pause
        </Button>
      )}
      <Sheet isOpen={isEnding} onClose={() => setEnding(false)} title="End the pause" form="dialog">
        <p>
          What is still to come goes out at its minute. What had its minute in the pause is not sent unless you say so.
        </p>
        <div className="mt-3">
          <Check
            isOn={sendsOverdue}
            onChange={setSends}
            help="Otherwise it is marked as missed, and you choose one by one."
          >
            Send at once what had its minute meanwhile
          </Check>
        </div>
        <div className="mt-4">
          <Button
            kind="main"
            isBusy={end.isPending}
            onClick={() =>
              end.mutate(
                { profile: pause.profile, send_overdue: sendsOverdue },
                {
                  onSuccess: ({ overdue }) => {
                    setEnding(false);
                    say(
                      overdue
                        ? `The pause is over; ${plural(overdue, "version")} had its minute in it.`
                        : "The pause is over.",
                    );
                  },
                },
              )
            }
          >
            End it
          </Button>
        </div>
      </Sheet>
    </div>
  );
}

/** Letting nothing out any more, of all or of one profile, with the reason for the others. */
export function PauseSheet({ isOpen, onClose }: { isOpen: boolean; onClose: () => void }) {
  const { brand, networks } = useBrand();
  const pause = usePause(brand.slug);
  const profiles = (useProfiles(brand.slug).data?.profiles ?? []).filter((one) => one.kind === "own");
  const [why, setWhy] = useState("");
  const [profile, setProfile] = useState<number | null>(null);
  return (
    <Sheet isOpen={isOpen} onClose={onClose} title="Pause" form="dialog">
      <p>Nothing goes out until somebody ends the pause. What is planned stays as it is.</p>
      <div className="mt-3 flex flex-col gap-3">
        <Field label="What">
          {(props) => (
            <select
              {...props}
              value={profile ?? ""}
              onChange={(event) => setProfile(Number(event.target.value) || null)}
            >
              <option value="">everything of this brand</option>
              {profiles.map((one) => (
                <option key={one.id} value={one.id}>
                  {one.name} on {networkNamed(networks, one.network).name}
                </option>
              ))}
            </select>
          )}
        </Field>
        <Field label="Why" help="For the others who plan here">
          {(props) => <input {...props} maxLength={300} value={why} onChange={(event) => setWhy(event.target.value)} />}
        </Field>
      </div>
      {pause.error && (
        <p role="alert" className="mt-2 text-down">
          {pause.error.message}
        </p>
      )}
      <div className="mt-4">
        <Button
          kind="danger"
          isBusy={pause.isPending}
          onClick={() => pause.mutate({ profile, why }, { onSuccess: onClose })}
        >
          Pause
        </Button>
      </div>
    </Sheet>
  );
}
