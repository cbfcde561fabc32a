import { useDeferredValue, useState } from "react";
import type { ProblemError } from "../../api/client";
import { at } from "../../lib/days";
import { useBrand } from "../../study/brand";
import { useCampaigns } from "../../study/queries";
import { Button } from "../../ui/Button";
import { DateField } from "../../ui/DateField";
import { Field } from "../../ui/Field";
import { Notice } from "../../ui/States";
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
  const [destination, setDestination] = useState("");
  const [name, setName] = useState("");
  const [network, setNetwork] = useState(givenNetwork);
  const [campaignId, setCampaignId] = useState<number | undefined>(givenCampaign);
  const [code, setCode] = useState("");
  const [ends, setEnds] = useState("");
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
  const wrong = (field: string) => problem?.fields[field] ?? early?.fields[field];
  return (
    <form
      className="flex flex-col gap-3.5"
      onSubmit={(event) => {
        event.preventDefault();
        event.stopPropagation();
        // Whoever names nothing knows it again by the page's own title, where it was looked at.
        make.mutate({ ...draft, name: name.trim() || (check.data?.title ?? "") }, { onSuccess: onMade });
      }}
    >
      {problem && Object.keys(problem.fields).length === 0 && <Notice kind="wrong">{problem.message}</Notice>}
      <Field label="Leads to" help="The page of your site, with https://" error={wrong("destination")}>
        {(props) => (
          <input
            {...props}
            inputMode="url"
            value={destination}
            onChange={(e) => {
              setDestination(e.target.value);
              check.reset();
            }}
          />
        )}
      </Field>
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
        <Field label="Name" help="How you will know it again; else the page's title, or its address in words">
          {(props) => <input {...props} value={name} onChange={(e) => setName(e.target.value)} />}
        </Field>
      )}
      <div className="grid grid-cols-2 gap-3">
        <Field label="For network" error={wrong("network")}>
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
        <Field label="Campaign" error={wrong("campaign_id")}>
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
        <>
          <fieldset className="border-t border-rule pt-2">
            <legend className="pr-2 text-[13px] font-semibold">UTM parameters</legend>
            <div className="grid grid-cols-2 gap-3">
              {PARTS.map((part) => (
                <Field key={part} label={part} error={wrong("utm")}>
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
            <Field label="Chosen word" help="instead of a code, such as tickets" error={wrong("code")}>
              {(props) => <input {...props} value={code} onChange={(e) => setCode(e.target.value)} />}
            </Field>
            <Field label="Ends after" help="then it shows a page of yours" error={wrong("ends_at")}>
              {(props) => <DateField {...props} today={today} value={ends} onChange={setEnds} />}
            </Field>
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
    </form>
  );
}
