import { useDeferredValue, useState } from "react";
import { useForm } from "react-hook-form";
import type { ProblemError } from "../../api/client";
import { at } from "../../lib/days";
import { useBrand } from "../../study/brand";
import { useCampaigns } from "../../study/queries";
import { Button } from "../../ui/Button";
import { DateField } from "../../ui/DateField";
import { Field } from "../../ui/Field";
import { Entry, Form } from "../../ui/Form";
import { type Draft, type TrackedLink, useCheck, useMakeLink, useProposal } from "./queries";

type Props = { network?: string; campaignId?: number; onMade: (link: TrackedLink) => void; isShort?: boolean };
export const PARTS = ["source", "medium", "campaign", "term", "content"] as const;

/** Make a tracked link: the parameters are filled by the brand's rules, and can be changed. */
export function MakeLinkForm({
  network: givenNetwork = "",
  campaignId: givenCampaign,
  onMade,
  isShort = false,
}: Props) {
  const { brand, networks, today } = useBrand();
  const campaigns = useCampaigns(brand.slug);
  const form = useForm({
    defaultValues: {
      destination: "",
      name: "",
      network: givenNetwork,
      campaign_id: givenCampaign,
      code: "",
      ends_at: "",
    },
  });
  const { destination, name, network, campaign_id: campaignId, code, ends_at: ends } = form.watch();
  const [typed, setTyped] = useState<Record<string, string>>({});
  const draft: Draft = {
    destination,
    name,
    network,
    campaign_id: campaignId ?? null,
    code,
    utm: typed,
    keeps_query: true,
    ends_at: ends ? at(ends, "23:59", brand.time_zone) : null,
  };
  const asked = useDeferredValue(JSON.stringify({ ...draft, destination: destination.trim() }));
  const proposal = useProposal(brand.slug, JSON.parse(asked) as Draft, /^https?:\/\/.+/.test(destination.trim()));
  const make = useMakeLink(brand.slug);
  const check = useCheck(brand.slug);
  const problem = make.error as ProblemError | null;
  const early = proposal.error as ProblemError | null;
  const shown = early ? undefined : proposal.data;
  const wrong = (field: string) => early?.fields[field];
  return (
    <Form
      form={form}
      error={make.error}
      saidElsewhere={["utm"]}
      className="flex flex-col gap-3.5"
      onSubmit={() => {
        // Whoever names nothing knows it again by the page's own title, where it was looked at.
        make.mutate({ ...draft, name: name.trim() || (check.data?.title ?? "") }, { onSuccess: onMade });
      }}
    >
      <Entry
        form={form}
        name="destination"
        label="Leads to"
        help="The page of your site, with https://"
        error={wrong("destination")}
      >
        {(field) => (
          <input
            {...field}
            inputMode="url"
            onChange={(e) => {
              field.onChange(e);
              check.reset();
            }}
          />
        )}
      </Entry>
      {shown && (
        <div className="-mt-2 text-[12.5px]" aria-live="polite">
          {shown.host.warning && <p className="font-semibold">{shown.host.warning}</p>}
          <button
            type="button"
            className="under h-6 hover:text-berry"
            disabled={check.isPending}
            onClick={() => check.mutate(destination)}
          >
            {check.isPending ? "Calling the page …" : "See whether the page is there"}
          </button>
          {check.data && (
            <p className={check.data.is_reachable ? "" : "text-down"}>
              {check.data.is_reachable
                ? `It is there${check.data.title ? `: “${check.data.title}”` : ""}.`
                : check.data.error}
              {check.data.steps.length > 1 && ` It leads on to ${check.data.steps.at(-1)?.address}.`}
            </p>
          )}
        </div>
      )}
      {!isShort && (
        <Entry
          form={form}
          name="name"
          label="Name"
          help="How you will know it again; else the page's title, or its address in words"
        >
          {(field) => <input {...field} />}
        </Entry>
      )}
      <div className="grid grid-cols-2 gap-3">
        <Entry form={form} name="network" label="For network" error={wrong("network")}>
          {(field) => (
            <select {...field}>
              <option value="">none</option>
              {networks.map((n) => (
                <option key={n.key} value={n.key}>
                  {n.name}
                </option>
              ))}
            </select>
          )}
        </Entry>
        <Entry form={form} name="campaign_id" label="Campaign" error={wrong("campaign_id")}>
          {(field) => (
            <select
              {...field}
              value={campaignId ?? ""}
              onChange={(e) => field.onChange(Number(e.target.value) || undefined)}
            >
              <option value="">none</option>
              {campaigns.data?.map((c) => (
                <option key={c.id} value={c.id}>
                  {c.name}
                </option>
              ))}
            </select>
          )}
        </Entry>
      </div>
      {!isShort && (
        <>
          <fieldset className="border-t border-rule pt-2">
            <legend className="pr-2 text-[13px] font-semibold">UTM parameters</legend>
            <div className="grid grid-cols-2 gap-3">
              {PARTS.map((part) => (
                <Field key={part} label={part} error={problem?.fields.utm ?? wrong("utm")}>
                  {(props) => (
                    <input
                      {...props}
                      value={typed[part] ?? shown?.utm[part] ?? ""}
                      onChange={(e) => setTyped({ ...typed, [part]: e.target.value })}
                    />
                  )}
                </Field>
              ))}
            </div>
            {shown && shown.kept.length > 0 && (
              <p className="label mt-1">The page's address has {shown.kept.join(", ")} already, and keeps them.</p>
            )}
            {shown && shown.replaced.length > 0 && (
              <p className="label mt-1">
                The page's own {shown.replaced.join(", ")} are replaced, by the brand's rules.
              </p>
            )}
          </fieldset>
          <div className="grid grid-cols-2 gap-3">
            <Entry
              form={form}
              name="code"
              label="Chosen word"
              help="instead of a code, such as tickets"
              error={wrong("code")}
            >
              {(field) => <input {...field} />}
            </Entry>
            <Entry
              form={form}
              name="ends_at"
              label="Ends after"
              help="then it shows a page of yours"
              error={wrong("ends_at")}
            >
              {(field) => <DateField {...field} today={today} />}
            </Entry>
          </div>
        </>
      )}
      {shown && (
        <p className="text-[12.5px] break-all" aria-live="polite">
          <span className="label block">It will lead to</span>
          {shown.target}
        </p>
      )}
      <Button kind="main" type="submit" isBusy={make.isPending} className="self-start">
        Make the link
      </Button>
    </Form>
  );
}
