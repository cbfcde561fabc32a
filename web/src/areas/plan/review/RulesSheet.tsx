import { useForm } from "react-hook-form";
import { useBrand } from "../../../study/brand";
import { Button } from "../../../ui/Button";
import { Field } from "../../../ui/Field";
import { CheckEntry, Entry, Form } from "../../../ui/Form";
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
  const form = useForm({ defaultValues: rules });
  const steps = form.watch("steps");
  const put = (at: number, step: string) => {
    const next = [...steps];
    if (step) next[at] = step as Step;
    else next.splice(at);
    form.setValue("steps", next);
  };
  return (
    <Form
      form={form}
      error={set.error}
      className="flex flex-col gap-3"
      onSubmit={(given) => {
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
          (at === 0 || steps.length > 0) && (
            <Field key={at} label={at === 0 ? "First" : "Then"}>
              {(props) => (
                <select {...props} value={steps[at] ?? ""} onChange={(event) => put(at, event.target.value)}>
                  <option value="">nobody</option>
                  {(Object.keys(ROLES) as Step[])
                    .filter((role) => role === steps[at] || !steps.includes(role))
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
      {steps.length > 0 && (
        <>
          <CheckEntry form={form} name="may_approve_own" help="Else whoever asks for a yes cannot say it.">
            Who asks may say yes as well
          </CheckEntry>
          <Entry form={form} name="remind_hours" label="Remind so many hours before the minute">
            {(field) => (
              <input
                {...field}
                inputMode="numeric"
                maxLength={3}
                onChange={(event) => field.onChange(Number(event.target.value.replace(/\D/g, "")) || 1)}
              />
            )}
          </Entry>
        </>
      )}
      <div>
        <Button kind="main" type="submit" isBusy={set.isPending}>
          Keep it
        </Button>
      </div>
    </Form>
  );
}
