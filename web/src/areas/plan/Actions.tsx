import type { ReactNode } from "react";
import { useState } from "react";
import { moment } from "../../lib/days";
import { useBrand } from "../../study/brand";
import { Button } from "../../ui/Button";
import { Handing } from "./Handing";
import type { Planned } from "./queries";
import { RepeatSheet } from "./repeat/RepeatSheet";

/** How long something that goes out now can be taken back. */
const GRACE_SECONDS = 300;
/** Saved, these stay what they are, or wait for a yes anew. */
const KEPT = new Set(["scheduled", "in_review", "approved"]);

type Props = {
  planned?: Planned;
  when: string | null;
  isEditable: boolean;
  canPublish: boolean;
  isBlocked: boolean;
  isPast: boolean;
  hasProfiles: boolean;
  isSaving: boolean;
  isBusy: boolean;
  onSchedule: (next: boolean) => void;
  onSave: () => void;
  onNow: (grace: number) => void;
  onTakeBack: () => void;
  /** Somebody is asked for a yes: until then it is neither scheduled nor published. */
  isAsked?: boolean;
  /** Ask for the yes that the brand wants; none where nobody has to say it, or all have. */
  onAsk?: () => void;
  onThrowAway: () => void;
  /** Whether the brand wants a yes before posts go out. */
  asksFirst: boolean;
  children?: ReactNode;
};

/** What is done with what is written. */
export function Actions(props: Props) {
  const { planned, when, isEditable, canPublish, isBlocked, isPast, hasProfiles } = props;
  const { brand } = useBrand();
  const [isHanding, setHanding] = useState(false);
  const [isRepeating, setRepeating] = useState(false);
  return (
    <div className="flex flex-wrap items-center gap-2 border-t border-rule px-5 py-3">
      {props.children}
      {isPast && isEditable && <p className="w-full text-down">This time has passed. Choose a later one.</p>}
      {isEditable && (
        <>
          {props.isAsked ? null : props.onAsk ? (
            <Button
              kind="main"
              disabled={isBlocked || isPast || !hasProfiles}
              isBusy={props.isBusy}
              onClick={props.onAsk}
            >
              {when ? `Ask for a yes, to go out ${moment(when, brand.time_zone)}` : "Ask for a yes"}
            </Button>
          ) : canPublish ? (
            <>
              <Button
                kind="main"
                disabled={isBlocked || !when || isPast || !hasProfiles}
                isBusy={props.isBusy}
                onClick={() => props.onSchedule(false)}
              >
                {when ? `Schedule for ${moment(when, brand.time_zone)}` : "Schedule"}
              </Button>
              {!planned && (
                <Button
                  disabled={isBlocked || !when || isPast || !hasProfiles || props.isBusy}
                  onClick={() => props.onSchedule(true)}
                >
                  and write the next
                </Button>
              )}
            </>
          ) : (
            <span className="label">Keep it as a draft: somebody who may publish sets its time.</span>
          )}
          <Button disabled={props.isSaving} onClick={props.onSave}>
            {planned && KEPT.has(planned.state) ? "Save changes" : "Save as draft"}
          </Button>
          {canPublish && !props.onAsk && !props.isAsked && (
            <Button disabled={isBlocked || !hasProfiles || props.isBusy} onClick={() => props.onNow(GRACE_SECONDS)}>
              Publish in five minutes
            </Button>
          )}
        </>
      )}
      {planned && (planned.state === "in_review" || (canPublish && KEPT.has(planned.state))) && (
        <Button onClick={props.onTakeBack}>Take back</Button>
      )}
      {planned && hasProfiles && <Button onClick={() => setRepeating(true)}>Come again</Button>}
      {planned && <Button onClick={() => setHanding(true)}>Hand to other brands</Button>}
      {planned && isEditable && (
        <Button kind="danger" onClick={props.onThrowAway}>
          Throw away
        </Button>
      )}
      {planned && (
        <RepeatSheet
          planned={planned}
          canPublish={canPublish}
          needsYes={props.asksFirst}
          isOpen={isRepeating}
          onClose={() => setRepeating(false)}
        />
      )}
      {planned && <Handing planned={planned} isOpen={isHanding} onClose={() => setHanding(false)} />}
    </div>
  );
}
