import { useState } from "react";
import { useForm } from "react-hook-form";
import { Link } from "react-router";
import { ProblemError } from "../../../api/client";
import { addDays, at, shortDay } from "../../../lib/days";
import { figure } from "../../../lib/format";
import { useBrand } from "../../../study/brand";
import { Button } from "../../../ui/Button";
import { DateField } from "../../../ui/DateField";
import { Field } from "../../../ui/Field";
import { Entry, Form } from "../../../ui/Form";
import { Sheet } from "../../../ui/Sheet";
import { Failed, Loading } from "../../../ui/States";
import { useToast } from "../../../ui/Toast";
import { type BoostTerms, useBoostActs, useBoostTerms } from "./queries";
import { centsIn, money } from "./rules";

const regions = new Intl.DisplayNames(["en-GB"], { type: "region" });

/** Showing a post to more people for money: how much, until when, to whom, and where it leads. */
export function BoostSheet({ post, isOpen, onClose }: { post: number; isOpen: boolean; onClose: () => void }) {
  const { brand } = useBrand();
  const terms = useBoostTerms(brand.slug, post, isOpen);
  return (
    <Sheet isOpen={isOpen} onClose={onClose} title="Boost this post">
      {terms.error ? (
        <Failed error={terms.error} onRetry={() => terms.refetch()} />
      ) : !terms.data ? (
        <Loading what="Asking what its network takes" />
      ) : terms.data.reason ? (
        <p>{terms.data.reason}</p>
      ) : terms.data.limit.cents === null ? (
        <p>
          Nobody has said what a month may cost.{" "}
          <Link to={`/${brand.slug}/results/paid`} className="under hover:text-berry">
            Say it first
          </Link>
          : nothing is boosted without a limit.
        </p>
      ) : (
        <Asking post={post} terms={terms.data} onDone={onClose} />
      )}
    </Sheet>
  );
}

function Asking({ post, terms, onDone }: { post: number; terms: BoostTerms; onDone: () => void }) {
  const { brand, today } = useBrand();
  const say = useToast();
  const { ask } = useBoostActs(brand.slug);
  const form = useForm({ defaultValues: { amount: "20.00", page: terms.page } });
  const { amount, page } = form.watch();
  const [last, setLast] = useState(addDays(today, 4));
  const [countries, setCountries] = useState<string[]>([]);
  const [ages, setAges] = useState<string[]>([]);
  const error = ask.error instanceof ProblemError ? ask.error : null;
  const fields = error?.fields ?? {};
  const cents = centsIn(amount);
  const { currency, limit } = terms;
  const toggle = (chosen: string[], one: string) =>
    chosen.includes(one) ? chosen.filter((other) => other !== one) : [...chosen, one];
  return (
    <Form
      form={form}
      error={null}
      className="flex flex-col gap-3"
      onSubmit={() => {
        if (cents === null) return;
        // The form goes as soon as the post is being boosted: what is said afterwards hangs on nothing that is shown.
        ask
          .mutateAsync({
            post,
            cents,
            starts_at: new Date().toISOString(),
            ends_at: at(last, "23:59", brand.time_zone),
            countries,
            ages,
            page,
          })
          .then(
            () => {
              say(`Its network is told. It spends no more than ${money(cents, currency)}.`);
              onDone();
            },
            () => undefined,
          );
      }}
    >
      <Entry
        form={form}
        name="amount"
        label={`Budget in ${currency}, never more in all`}
        help={`${money(limit.left, currency)} left of this month; from ${figure((terms.least_cents ?? 0) / 100, "money")}`}
        error={fields.cents ?? (cents === null ? "An amount such as 20 or 12.50." : undefined)}
      >
        {(field) => <input {...field} inputMode="decimal" />}
      </Entry>
      <Field
        label="Until the end of"
        help={`From now on, ${terms.most_days} days at most`}
        error={fields.ends_at ?? fields.starts_at}
      >
        {(props) => <DateField {...props} value={last} today={today} onChange={(day) => day && setLast(day)} />}
      </Field>
      <Boxes
        legend="People in"
        none="every country"
        options={(terms.countries ?? []).map((code) => ({ key: code, name: regions.of(code) ?? code }))}
        chosen={countries}
        onToggle={(one) => setCountries(toggle(countries, one))}
        error={fields.countries}
      />
      <Boxes
        legend="Of age"
        none="every age"
        options={(terms.ages ?? []).map((age) => ({ key: age, name: age }))}
        chosen={ages}
        onToggle={(one) => setAges(toggle(ages, one))}
        error={fields.ages}
      />
      <Entry
        form={form}
        name="page"
        label="Leads to"
        help="By a tracked link of its own, so that who came for money is counted apart. Empty: nowhere."
        error={fields.page}
      >
        {(field) => <input {...field} type="url" maxLength={2000} />}
      </Entry>
      {error && Object.keys(fields).length === 0 && (
        <p className="text-down" role="alert">
          {error.message}
        </p>
      )}
      <Button type="submit" kind="main" disabled={cents === null} isBusy={ask.isPending}>
        {cents === null ? "Boost it" : `Spend up to ${money(cents, currency)} until ${shortDay(last)}`}
      </Button>
    </Form>
  );
}

type BoxesProps = {
  legend: string;
  none: string;
  options: { key: string; name: string }[];
  chosen: string[];
  onToggle: (key: string) => void;
  error?: string;
};

function Boxes({ legend, none, options, chosen, onToggle, error }: BoxesProps) {
  if (options.length === 0) return null;
  return (
    <fieldset>
      <legend className="text-[13px] font-semibold">
        {legend} {chosen.length === 0 && <span className="label font-normal">{none}</span>}
      </legend>
      <div className="flex flex-wrap gap-x-4">
        {options.map((one) => (
          <label key={one.key} className="flex min-h-6 items-center gap-1.5">
            <input
              type="checkbox"
              className="h-4 w-4 accent-(--berry)"
              checked={chosen.includes(one.key)}
              onChange={() => onToggle(one.key)}
            />
            {one.name}
          </label>
        ))}
      </div>
      {error && <p className="text-down">{error}</p>}
    </fieldset>
  );
}
