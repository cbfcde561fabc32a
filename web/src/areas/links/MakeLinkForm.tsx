import { useState } from "react";
import type { ProblemError } from "../../api/client";
import { useBrand } from "../../app/brand";
import { useCampaigns } from "../../app/queries";
import { Button } from "../../ui/Button";
import { Field } from "../../ui/Field";
import { Notice } from "../../ui/States";
import { type TrackedLink, useMakeLink, useUtm } from "./queries";

type Props = { network?: string; campaignId?: number; onMade: (link: TrackedLink) => void; isShort?: boolean };
const PARTS = ["source", "medium", "campaign", "term", "content"] as const;

/** Make a tracked link: the parameters are filled from network and campaign, and can be changed. */
export function MakeLinkForm({
  network: givenNetwork = "",
  campaignId: givenCampaign,
  onMade,
  isShort = false,
}: Props) {
  const { brand, networks } = useBrand();
  const campaigns = useCampaigns(brand.slug);
  const [destination, setDestination] = useState("");
  const [name, setName] = useState("");
  const [network, setNetwork] = useState(givenNetwork);
  const [campaignId, setCampaignId] = useState<number | undefined>(givenCampaign);
  const [typed, setTyped] = useState<Record<string, string>>({});
  const utm = useUtm(brand.slug, network, campaignId);
  const make = useMakeLink(brand.slug);
  const problem = make.error as ProblemError | null;
  return (
    <form
      className="flex flex-col gap-3.5"
      onSubmit={(event) => {
        event.preventDefault();
        event.stopPropagation();
        make.mutate({ destination, name, network, campaign_id: campaignId ?? null, utm: typed }, { onSuccess: onMade });
      }}
    >
      {problem && Object.keys(problem.fields).length === 0 && <Notice kind="wrong">{problem.message}</Notice>}
      <Field label="Leads to" help="The page of your site, with https://" error={problem?.fields.destination}>
        {(props) => (
          <input {...props} inputMode="url" value={destination} onChange={(e) => setDestination(e.target.value)} />
        )}
      </Field>
      {!isShort && (
        <Field label="Name" help="How you will know it again; the address if left empty">
          {(props) => <input {...props} value={name} onChange={(e) => setName(e.target.value)} />}
        </Field>
      )}
      <div className="grid grid-cols-2 gap-3">
        <Field label="For network">
          {(props) => (
            <select {...props} value={network} onChange={(e) => setNetwork(e.target.value)}>
              <option value="">none</option>
              {networks.map((n) => (
                <option key={n.key} value={n.key}>
                  {n.name}
                </option>
              ))}
            </select>
          )}
        </Field>
        <Field label="Campaign">
          {(props) => (
            <select
              {...props}
              value={campaignId ?? ""}
              onChange={(e) => setCampaignId(Number(e.target.value) || undefined)}
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
      </div>
      {!isShort && (
        <fieldset className="border-t border-rule pt-2">
          <legend className="pr-2 text-[13px] font-semibold">UTM parameters</legend>
          <div className="grid grid-cols-2 gap-3">
            {PARTS.map((part) => (
              <Field key={part} label={part} error={problem?.fields.utm}>
                {(props) => (
                  <input
                    {...props}
                    value={typed[part] ?? utm.data?.[part] ?? ""}
                    onChange={(e) => setTyped({ ...typed, [part]: e.target.value })}
                  />
                )}
              </Field>
            ))}
          </div>
          <p className="label mt-1">Parameters that the page's address has already are left as they are.</p>
        </fieldset>
      )}
      <Button kind="main" type="submit" isBusy={make.isPending} className="self-start">
        Make the link
      </Button>
    </form>
  );
}
