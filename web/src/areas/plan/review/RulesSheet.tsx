import { useState } from "react";
import type { ProblemError } from "../../../api/client";
import { useBrand } from "../../../study/brand";
import { Button } from "../../../ui/Button";
import { Check } from "../../../ui/Check";
import { Field } from "../../../ui/Field";
import { Sheet } from "../../../ui/Sheet";
import { Loading } from "../../../ui/States";
import { useToast } from "../../../ui/Toast";
import { type Rules, useReviewRules, useSetReviewRules } from "./queries";

type Step = Rules["steps"][number];
const ROLES: Record<Step, string> = {
  analyst: "an analyst, an approver or an admin",
  approver: "an approver or an admin",
  admin: "an admin",
  guest: "a guest with a link, an approver or an admin",
};

/** Who has to say yes before posts go out: nobody, one, or two after each other. */
export function RulesSheet({ isOpen, onClose }: { isOpen: boolean; onClose: () => void }) {
  const { brand } = useBrand();
  const rules = useReviewRules(brand.slug);
  return (
    <Sheet isOpen={isOpen} onClose={onClose} title="Who says yes before posts go out" form="dialog">
      {rules.data ? <RulesForm rules={rules.data} onDone={onClose} /> : <Loading what="Loading the rules" />}
    </Sheet>
  );
}

function RulesForm({ rules, onDone }: { rules: Rules; onDone: () => void }) {
  const { brand } = useBrand();
  const set = useSetReviewRules(brand.slug);
  const say = useToast();
  const [given, setGiven] = useState(rules);
  const error = set.error as ProblemError | null;
  const put = (at: number, step: string) => {
    const steps = [...given.steps];
    if (step) steps[at] = step as Step;
    else steps.splice(at);
    setGiven({ ...given, steps });
  };
  return (
    <form
      className="flex flex-col gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        set.mutate(given, {
          onSuccess: (kept) => {
            say(kept.steps.length ? "Posts wait for a yes from now on." : "Posts need nobody's yes.");
            onDone();
          },
        });
      }}
    >
      <p>What is scheduled already stands. A post that is changed after the last yes waits for it anew.</p>
      {[0, 1].map(
        (at) =>
          (at === 0 || given.steps.length > 0) && (
            <Field key={at} label={at === 0 ? "First" : "Then"} error={at === 0 ? error?.fields.steps : undefined}>
              {(props) => (
                <select {...props} value={given.steps[at] ?? ""} onChange={(event) => put(at, event.target.value)}>
                  <option value="">nobody</option>
                  {(Object.keys(ROLES) as Step[])
                    .filter((role) => role === given.steps[at] || !given.steps.includes(role))
                    .map((role) => (
                      <option key={role} value={role}>
                        {ROLES[role]}
                      </option>
                    ))}
                </select>
              )}
            </Field>
          ),
      )}
      {given.steps.length > 0 && (
        <>
          <Check
            isOn={given.may_approve_own}
            onChange={(may_approve_own) => setGiven({ ...given, may_approve_own })}
            help="Else whoever asks for a yes cannot say it."
          >
            Who asks may say yes as well
          </Check>
          <Field label="Remind so many hours before the minute">
            {(props) => (
              <input
                {...props}
                inputMode="numeric"
                maxLength={3}
                value={given.remind_hours}
                onChange={(event) =>
                  setGiven({ ...given, remind_hours: Number(event.target.value.replace(/\D/g, "")) || 1 })
                }
              />
            )}
          </Field>
        </>
      )}
      {error && !error.fields.steps && (
        <p role="alert" className="text-down">
          {error.message}
        </p>
      )}
      <div>
        <Button kind="main" type="submit" isBusy={set.isPending}>
          Keep it
        </Button>
      </div>
    </form>
  );
}
