import { useDeferredValue, useState } from "react";
import { useForm } from "react-hook-form";
import { at, dayOf } from "../../lib/days";
import { useBrand } from "../../study/brand";
import { useCampaigns } from "../../study/queries";
import { Button } from "../../ui/Button";
import { DateField } from "../../ui/DateField";
import { Field } from "../../ui/Field";
import { CheckEntry, Entry, Form } from "../../ui/Form";
import { PARTS } from "./MakeLinkForm";
import { type OneLink, useChangeLink, useProposal } from "./queries";

/** What a link leads to, its parameters, its end. The short address stays; what it led to before is kept. */
export function ChangeLinkForm({ link, onDone }: { link: OneLink; onDone: () => void }) {
  const { brand, today } = useBrand();
  const campaigns = useCampaigns(brand.slug);
  const change = useChangeLink(brand.slug, link.id);
  const form = useForm({
    defaultValues: {
      destination: link.destination,
      name: link.name,
      campaign_id: link.campaign_id as number | null,
      ends_at: link.ends_at ? dayOf(link.ends_at, brand.time_zone) : "",
      keeps: link.keeps_query,
    },
  });
  const { destination, name, campaign_id: campaign, ends_at: ends, keeps } = form.watch();
  const [utm, setUtm] = useState<Record<string, string>>(link.utm);
  const asked = useDeferredValue(
    JSON.stringify({
      destination: destination.trim(),
      name,
      network: link.network,
      campaign_id: campaign,
      code: "",
      utm,
      keeps_query: keeps,
      ends_at: null,
    }),
  );
  const proposal = useProposal(brand.slug, JSON.parse(asked), /^https?:\/\/.+/.test(destination.trim()));
  return (
    <Form
      form={form}
      error={change.error}
      className="flex flex-col gap-3.5"
      onSubmit={() => {
        change.mutate(
          {
            destination,
            name,
            utm,
            campaign_id: campaign,
            ends_at: ends ? at(ends, "23:59", brand.time_zone) : null,
            keeps_query: keeps,
          },
          { onSuccess: onDone },
        );
      }}
    >
      <Entry form={form} name="destination" label="Leads to">
        {(field) => <input {...field} />}
      </Entry>
      <Entry form={form} name="name" label="Name">
        {(field) => <input {...field} />}
      </Entry>
      <Entry form={form} name="campaign_id" label="Campaign">
        {(field) => (
          <select
            {...field}
            value={field.value ?? ""}
            onChange={(e) => {
              field.onChange(Number(e.target.value) || null);
              // The parameter belongs to the campaign of before: the rules fill it from the new one.
              const { campaign: _, ...others } = utm;
              setUtm(others);
            }}
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
      <div className="grid grid-cols-2 gap-3">
        {PARTS.map((part) => (
          <Field key={part} label={part}>
            {(props) => (
              <input {...props} value={utm[part] ?? ""} onChange={(e) => setUtm({ ...utm, [part]: e.target.value })} />
            )}
          </Field>
        ))}
        <Entry form={form} name="ends_at" label="Ends after">
          {(field) => <DateField {...field} today={today} />}
        </Entry>
      </div>
      <CheckEntry form={form} name="keeps" help="Parameters added to the short address reach the page.">
        Pass on what a visitor's address brings along
      </CheckEntry>
      {proposal.data && !proposal.error && (
        <p className="text-[12.5px] break-all" aria-live="polite">
          <span className="label block">It will lead to</span>
          {proposal.data.target}
        </p>
      )}
      <Button kind="main" type="submit" isBusy={change.isPending} className="self-start">
        Keep the changes
      </Button>
    </Form>
  );
}
