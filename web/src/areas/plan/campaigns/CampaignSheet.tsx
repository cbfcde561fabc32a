import { useForm } from "react-hook-form";
import { addDays } from "../../../lib/days";
import { networkNamed, useBrand } from "../../../study/brand";
import { usePeople, useProfiles } from "../../../study/queries";
import { Button } from "../../../ui/Button";
import { DateField } from "../../../ui/DateField";
import { ChecksEntry, Entry, Form } from "../../../ui/Form";
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
  const form = useForm<Required<CampaignInput>>({
    defaultValues: {
      name: campaign?.name ?? "",
      first_day: campaign?.first_day ?? today,
      last_day: campaign?.last_day ?? addDays(today, 27),
      colour: campaign?.colour ?? 1,
      goal_metric: campaign?.goal_metric ?? "",
      goal_amount: campaign?.goal_amount ?? null,
      profiles: campaign?.profiles ?? [],
      utm_campaign: campaign?.utm_campaign ?? "",
      owner: campaign?.owner ?? null,
    },
  });
  const given = form.watch();
  return (
    <Form
      form={form}
      error={keep.error}
      className="flex flex-col gap-3"
      onSubmit={(body) => {
        keep.mutate(
          { id: campaign?.id, body },
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
      <Entry form={form} name="name" label="Name">
        {(field) => <input {...field} maxLength={120} />}
      </Entry>
      <div className="grid grid-cols-2 gap-3">
        <Entry form={form} name="first_day" label="From">
          {(field) => <DateField {...field} today={today} />}
        </Entry>
        <Entry form={form} name="last_day" label="To">
          {(field) => <DateField {...field} today={today} />}
        </Entry>
      </div>
      <fieldset className="flex gap-1">
        <legend className="text-[13px] font-semibold">Colour</legend>
        {COLOURS.map((one) => (
          <button
            key={one}
            type="button"
            aria-label={`Colour ${one}`}
            aria-pressed={given.colour === one}
            onClick={() => form.setValue("colour", one)}
            className="h-7 w-7 border-2 border-paper aria-pressed:border-ink"
            style={{ background: `var(--tag-${one}, var(--berry))` }}
          />
        ))}
      </fieldset>
      <div className="grid grid-cols-2 gap-3">
        <Entry form={form} name="goal_metric" label="What it is to reach">
          {(field) => (
            <select {...field}>
              <option value="">no goal</option>
              {Object.entries(GOALS).map(([key, { name }]) => (
                <option key={key} value={key}>
                  {name}
                </option>
              ))}
            </select>
          )}
        </Entry>
        {given.goal_metric && (
          <Entry form={form} name="goal_amount" label="How much">
            {(field) => (
              <input
                {...field}
                inputMode="numeric"
                maxLength={12}
                value={field.value ?? ""}
                onChange={(event) => field.onChange(Number(event.target.value.replace(/\D/g, "")) || null)}
              />
            )}
          </Entry>
        )}
      </div>
      <Entry form={form} name="utm_campaign" label="In its links' parameters" help="Empty: its name (utm_campaign)">
        {(field) => <input {...field} maxLength={100} />}
      </Entry>
      <Entry form={form} name="owner" label="Who looks after it">
        {(field) => (
          <select
            {...field}
            value={field.value ?? ""}
            onChange={(event) => field.onChange(Number(event.target.value) || null)}
          >
            <option value="">nobody in particular</option>
            {people.map((one) => (
              <option key={one.id} value={one.id}>
                {one.name}
              </option>
            ))}
          </select>
        )}
      </Entry>
      <fieldset>
        <legend className="text-[13px] font-semibold">On these profiles; none chosen are all</legend>
        <ChecksEntry
          form={form}
          name="profiles"
          options={own.map((p) => ({ value: p.id, label: networkNamed(networks, p.network).name }))}
        />
      </fieldset>
      <div>
        <Button kind="main" type="submit" disabled={!given.name.trim()} isBusy={keep.isPending}>
          {campaign ? "Keep it" : "Make it"}
        </Button>
      </div>
    </Form>
  );
}
