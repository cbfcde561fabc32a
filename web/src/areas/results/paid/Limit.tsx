import { useState } from "react";
import { useForm } from "react-hook-form";
import { monthName } from "../../../lib/days";
import { useBrand } from "../../../study/brand";
import { Button } from "../../../ui/Button";
import { Entry, Form } from "../../../ui/Form";
import { Sheet } from "../../../ui/Sheet";
import { useToast } from "../../../ui/Toast";
import { type BoostLimit, useBoostActs } from "./queries";
import { centsIn, money } from "./rules";

/** What a month may cost, what is left of it, and another limit. */
export function Limit({ limit }: { limit: BoostLimit }) {
  const { can } = useBrand();
  const [isOpen, setOpen] = useState(false);
  return (
    <p className="flex flex-wrap items-baseline gap-x-3">
      {limit.cents === null ? (
        <span>Nobody has said what a month may cost; nothing is boosted without a limit.</span>
      ) : (
        <span>
          <strong className="font-semibold">{money(limit.left, limit.currency)}</strong> of{" "}
          {money(limit.cents, limit.currency)} left of {monthName(limit.month)}
        </span>
      )}
      {can("plan.boost") && (
        <button type="button" className="under min-h-6 hover:text-berry" onClick={() => setOpen(true)}>
          {limit.cents === null ? "Say what a month may cost" : "Another limit"}
        </button>
      )}
      <Sheet isOpen={isOpen} onClose={() => setOpen(false)} title="What a month may cost" form="dialog">
        {isOpen && <Setting limit={limit} onDone={() => setOpen(false)} />}
      </Sheet>
    </p>
  );
}

function Setting({ limit, onDone }: { limit: BoostLimit; onDone: () => void }) {
  const { brand } = useBrand();
  const say = useToast();
  const { limit: set } = useBoostActs(brand.slug);
  const form = useForm({ defaultValues: { cents: limit.cents === null ? "" : (limit.cents / 100).toFixed(2) } });
  const cents = centsIn(form.watch("cents"));
  return (
    <Form
      form={form}
      error={set.error}
      className="flex flex-col gap-3"
      onSubmit={() => {
        if (cents === null) return;
        set.mutate(
          { cents, currency: limit.currency, edition: limit.edition },
          {
            onSuccess: () => {
              say("Kept. What runs already runs on.");
              onDone();
            },
          },
        );
      }}
    >
      <Entry
        form={form}
        name="cents"
        label={`All boosts of a month together, in ${limit.currency}`}
        help="The budget of a boost counts whole in each month it may spend in, so that no month can come to more."
      >
        {(field) => <input {...field} inputMode="decimal" />}
      </Entry>
      <Button type="submit" kind="main" disabled={cents === null} isBusy={set.isPending}>
        Keep it
      </Button>
    </Form>
  );
}
