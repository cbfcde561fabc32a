import { useDeferredValue, useState } from "react";
import type { ProblemError } from "../../api/client";
import { at, dayOf } from "../../lib/days";
import { useBrand } from "../../study/brand";
import { useCampaigns } from "../../study/queries";
import { Button } from "../../ui/Button";
import { Check } from "../../ui/Check";
import { DateField } from "../../ui/DateField";
import { Field } from "../../ui/Field";
import { Notice } from "../../ui/States";
import { PARTS } from "./MakeLinkForm";
import { type OneLink, useChangeLink, useProposal } from "./queries";

/** What a link leads to, its parameters, its end. The short address stays; what it led to before is kept. */
export function ChangeLinkForm({ link, onDone }: { link: OneLink; onDone: () => void }) {
  const { brand, today } = useBrand();
  const campaigns = useCampaigns(brand.slug);
  const change = useChangeLink(brand.slug, link.id);
  const [destination, setDestination] = useState(link.destination);
  const [name, setName] = useState(link.name);
  const [campaign, setCampaign] = useState<number | null>(link.campaign_id);
  const [utm, setUtm] = useState<Record<string, string>>(link.utm);
  const [ends, setEnds] = useState(link.ends_at ? dayOf(link.ends_at, brand.time_zone) : "");
  const [keeps, setKeeps] = useState(link.keeps_query);
  const problem = change.error as ProblemError | null;
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
    <form
      className="flex flex-col gap-3.5"
      onSubmit={(event) => {
        event.preventDefault();
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
      {problem && Object.keys(problem.fields).length === 0 && <Notice kind="wrong">{problem.message}</Notice>}
      <Field label="Leads to" error={problem?.fields.destination}>
        {(props) => <input {...props} value={destination} onChange={(e) => setDestination(e.target.value)} />}
      </Field>
      <Field label="Name">
        {(props) => <input {...props} value={name} onChange={(e) => setName(e.target.value)} />}
      </Field>
      <Field label="Campaign" error={problem?.fields.campaign_id}>
        {(props) => (
          <select
            {...props}
            value={campaign ?? ""}
            onChange={(e) => {
              setCampaign(Number(e.target.value) || null);
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
      </Field>
      <div className="grid grid-cols-2 gap-3">
        {PARTS.map((part) => (
          <Field key={part} label={part}>
            {(props) => (
              <input {...props} value={utm[part] ?? ""} onChange={(e) => setUtm({ ...utm, [part]: e.target.value })} />
            )}
          </Field>
        ))}
        <Field label="Ends after" error={problem?.fields.ends_at}>
          {(props) => <DateField {...props} today={today} value={ends} onChange={setEnds} />}
        </Field>
      </div>
      <Check isOn={keeps} onChange={setKeeps} help="Parameters added to the short address reach the page.">
        Pass on what a visitor's address brings along
      </Check>
      {proposal.data && !proposal.error && (
        <p className="text-[12.5px] break-all" aria-live="polite">
          <span className="label block">It will lead to</span>
          {proposal.data.target}
        </p>
      )}
      <Button kind="main" type="submit" isBusy={change.isPending} className="self-start">
        Keep the changes
      </Button>
    </form>
  );
}
