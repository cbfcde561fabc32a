import { useState } from "react";
import type { ProblemError } from "../../../api/client";
import { addDays } from "../../../lib/days";
import { networkNamed, useBrand } from "../../../study/brand";
import { usePeople, useProfiles } from "../../../study/queries";
import { Button } from "../../../ui/Button";
import { Check } from "../../../ui/Check";
import { DateField } from "../../../ui/DateField";
import { Field } from "../../../ui/Field";
import { Sheet } from "../../../ui/Sheet";
import { useToast } from "../../../ui/Toast";
import { type Campaign, type CampaignInput, useKeepCampaign } from "./queries";
import { GOALS } from "./rules";

type Props = { isOpen: boolean; onClose: () => void; campaign?: Campaign; onKept?: (kept: Campaign) => void };
const COLOURS = [1, 2, 3, 4, 5, 6, 7, 8];

/** A campaign's name, days, colour, goal, profiles and owner. */
export function CampaignSheet({ isOpen, onClose, campaign, onKept }: Props) {
  return (
    <Sheet isOpen={isOpen} onClose={onClose} title={campaign ? campaign.name : "A new campaign"} form="dialog">
      {isOpen && <CampaignForm campaign={campaign} onClose={onClose} onKept={onKept} />}
    </Sheet>
  );
}

function CampaignForm({ campaign, onClose, onKept }: Omit<Props, "isOpen">) {
  const { brand, networks, today } = useBrand();
  const keep = useKeepCampaign(brand.slug);
  const own = (useProfiles(brand.slug).data?.profiles ?? []).filter((p) => p.kind === "own");
  const people = usePeople(brand.slug).data ?? [];
  const say = useToast();
  const error = keep.error as ProblemError | null;
  const [given, setGiven] = useState<Required<CampaignInput>>({
    name: campaign?.name ?? "",
    first_day: campaign?.first_day ?? today,
    last_day: campaign?.last_day ?? addDays(today, 27),
    colour: campaign?.colour ?? 1,
    goal_metric: campaign?.goal_metric ?? "",
    goal_amount: campaign?.goal_amount ?? null,
    profiles: campaign?.profiles ?? [],
    utm_campaign: campaign?.utm_campaign ?? "",
    owner: campaign?.owner ?? null,
  });
  const put = (patch: Partial<CampaignInput>) => setGiven({ ...given, ...patch });
  return (
    <form
      className="flex flex-col gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        keep.mutate(
          { id: campaign?.id, body: given },
          {
            onSuccess: (kept) => {
              say(`${kept.name} is kept.`);
              onClose();
              onKept?.(kept);
            },
          },
        );
      }}
    >
      <Field label="Name" error={error?.fields.name}>
        {(props) => (
          <input
            {...props}
            maxLength={120}
            value={given.name}
            onChange={(event) => put({ name: event.target.value })}
          />
        )}
      </Field>
      <div className="grid grid-cols-2 gap-3">
        <Field label="From">
          {(props) => (
            <DateField {...props} today={today} value={given.first_day} onChange={(first_day) => put({ first_day })} />
          )}
        </Field>
        <Field label="To" error={error?.fields.last_day}>
          {(props) => (
            <DateField {...props} today={today} value={given.last_day} onChange={(last_day) => put({ last_day })} />
          )}
        </Field>
      </div>
      <fieldset className="flex gap-1">
        <legend className="text-[13px] font-semibold">Colour</legend>
        {COLOURS.map((one) => (
          <button
            key={one}
            type="button"
            aria-label={`Colour ${one}`}
            aria-pressed={given.colour === one}
            onClick={() => put({ colour: one })}
            className="h-7 w-7 border-2 border-paper aria-pressed:border-ink"
            style={{ background: `var(--tag-${one}, var(--berry))` }}
          />
        ))}
      </fieldset>
      <div className="grid grid-cols-2 gap-3">
        <Field label="What it is to reach">
          {(props) => (
            <select
              {...props}
              value={given.goal_metric}
              onChange={(event) => put({ goal_metric: event.target.value as CampaignInput["goal_metric"] })}
            >
              <option value="">no goal</option>
              {Object.entries(GOALS).map(([key, { name }]) => (
                <option key={key} value={key}>
                  {name}
                </option>
              ))}
            </select>
          )}
        </Field>
        {given.goal_metric && (
          <Field label="How much" error={error?.fields.goal_amount}>
            {(props) => (
              <input
                {...props}
                inputMode="numeric"
                maxLength={12}
                value={given.goal_amount ?? ""}
                onChange={(event) => put({ goal_amount: Number(event.target.value.replace(/\D/g, "")) || null })}
              />
            )}
          </Field>
        )}
      </div>
      <Field label="In its links' parameters" help="Empty: its name (utm_campaign)">
        {(props) => (
          <input
            {...props}
            maxLength={100}
            value={given.utm_campaign}
            onChange={(event) => put({ utm_campaign: event.target.value })}
          />
        )}
      </Field>
      <Field label="Who looks after it" error={error?.fields.owner}>
        {(props) => (
          <select
            {...props}
            value={given.owner ?? ""}
            onChange={(event) => put({ owner: Number(event.target.value) || null })}
          >
            <option value="">nobody in particular</option>
            {people.map((one) => (
              <option key={one.id} value={one.id}>
                {one.name}
              </option>
            ))}
          </select>
        )}
      </Field>
      <fieldset>
        <legend className="text-[13px] font-semibold">On these profiles; none chosen are all</legend>
        {own.map((p) => (
          <Check
            key={p.id}
            isOn={given.profiles.includes(p.id)}
            onChange={(on) =>
              put({ profiles: on ? [...given.profiles, p.id] : given.profiles.filter((id) => id !== p.id) })
            }
          >
            {networkNamed(networks, p.network).name}
          </Check>
        ))}
      </fieldset>
      {error && Object.keys(error.fields).length === 0 && (
        <p role="alert" className="text-down">
          {error.message}
        </p>
      )}
      <div>
        <Button kind="main" type="submit" disabled={!given.name.trim()} isBusy={keep.isPending}>
          {campaign ? "Keep it" : "Make it"}
        </Button>
      </div>
    </form>
  );
}
