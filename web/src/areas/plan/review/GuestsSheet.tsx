import { useState } from "react";
import { useForm } from "react-hook-form";
import type { Schemas } from "../../../api/client";
import { addDays, at, dayOf, shortDay } from "../../../lib/days";
import { useBrand } from "../../../study/brand";
import { useCampaigns } from "../../../study/queries";
import { Button } from "../../../ui/Button";
import { DateField } from "../../../ui/DateField";
import { ChecksEntry, Entry, Form } from "../../../ui/Form";
import { Sheet } from "../../../ui/Sheet";
import { Loading } from "../../../ui/States";
import { useToast } from "../../../ui/Toast";
import { useGuests, useInvite, useRevokeGuest } from "./queries";

type May = Schemas["GuestInputRequest"]["may"];
const MAY: Record<May, string> = {
  look: "look",
  comment: "look and comment",
  vote: "look, comment and vote",
  approve: "look, comment, vote and say yes",
};

/** Links for people without an account: what each shows and lets its guest do, until when, and taking it back. */
export function GuestsSheet({ isOpen, onClose }: { isOpen: boolean; onClose: () => void }) {
  const { brand, now } = useBrand();
  const guests = useGuests(brand.slug, isOpen);
  const revoke = useRevokeGuest(brand.slug);
  const [made, setMade] = useState<string | null>(null);
  const say = useToast();
  return (
    <Sheet isOpen={isOpen} onClose={onClose} title="Guests">
      <p>
        A guest opens a link of their own and needs no account. Who has the link, is the guest: send it to one alone.
      </p>
      {made && (
        <div className="my-3 border border-berry p-3">
          <p className="font-semibold">The link, told this once</p>
          <p className="select-all break-all">{made}</p>
          <Button
            className="mt-2"
            onClick={() =>
              navigator.clipboard?.writeText(made).then(
                () => say("Copied."),
                () => say("Mark it and copy it yourself.", "wrong"),
              )
            }
          >
            Copy it
          </Button>
        </div>
      )}
      {guests.isLoading && <Loading what="Loading the guests" />}
      <ul className="mt-2">
        {guests.data?.map((guest) => {
          const isOver = guest.revoked_at !== null || Date.parse(guest.until) < now.getTime();
          const days =
            guest.first_day && guest.last_day ? [`${shortDay(guest.first_day)} to ${shortDay(guest.last_day)}`] : [];
          return (
            <li key={guest.id} className={`rowline flex items-baseline gap-2 py-1 ${isOver ? "text-muted" : ""}`}>
              <span className="min-w-0 flex-1">
                {guest.name}
                <span className="label block">
                  may {MAY[guest.may]}; sees {[...guest.campaigns, ...days].join(", ")};{" "}
                  {guest.revoked_at
                    ? "taken back"
                    : `${isOver ? "ended" : "until"} ${shortDay(dayOf(guest.until, brand.time_zone))}`}
                  {guest.seen_at ? `; last here ${shortDay(dayOf(guest.seen_at, brand.time_zone))}` : "; never opened"}
                </span>
              </span>
              {!isOver && (
                <button
                  type="button"
                  aria-label={`Take the link of ${guest.name} back`}
                  className="label under h-6 hover:text-down"
                  onClick={() => revoke.mutate(guest.id)}
                >
                  take back
                </button>
              )}
            </li>
          );
        })}
      </ul>
      <InviteForm onMade={setMade} />
    </Sheet>
  );
}

function InviteForm({ onMade }: { onMade: (address: string) => void }) {
  const { brand, today, can } = useBrand();
  const canLetApprove = can("plan.guests");
  const campaigns = useCampaigns(brand.slug).data ?? [];
  const invite = useInvite(brand.slug);
  const form = useForm({
    defaultValues: {
      name: "",
      may: (canLetApprove ? "approve" : "vote") as May,
      campaigns: [] as number[],
      first_day: today,
      last_day: addDays(today, 28),
      until: addDays(today, 30),
    },
  });
  return (
    <Form
      form={form}
      error={invite.error}
      className="mt-4 flex flex-col gap-3 border-t border-rule pt-3"
      onSubmit={(given) => {
        invite.mutate(
          {
            ...given,
            first_day: given.first_day || null,
            last_day: given.last_day || null,
            until: at(given.until, "23:59", brand.time_zone),
          },
          { onSuccess: ({ address }) => onMade(address) },
        );
      }}
    >
      <h2 className="text-[16px]">Another guest</h2>
      <Entry form={form} name="name" label="Who it is for">
        {(field) => <input {...field} maxLength={80} />}
      </Entry>
      <Entry form={form} name="may" label="They may">
        {(field) => (
          <select {...field}>
            {(Object.keys(MAY) as May[])
              .filter((one) => one !== "approve" || canLetApprove)
              .map((one) => (
                <option key={one} value={one}>
                  {MAY[one]}
                </option>
              ))}
          </select>
        )}
      </Entry>
      <div className="grid grid-cols-2 gap-3">
        <Entry form={form} name="first_day" label="Posts from">
          {(field) => <DateField {...field} today={today} />}
        </Entry>
        <Entry form={form} name="last_day" label="to">
          {(field) => <DateField {...field} today={today} />}
        </Entry>
      </div>
      {campaigns.length > 0 && (
        <fieldset className="flex flex-col">
          <legend className="text-[13px] font-semibold">and all posts of these campaigns</legend>
          <ChecksEntry
            form={form}
            name="campaigns"
            options={campaigns.map((one) => ({ value: one.id, label: one.name }))}
          />
        </fieldset>
      )}
      <Entry form={form} name="until" label="The link is good until">
        {(field) => <DateField {...field} today={today} />}
      </Entry>
      <div>
        <Button kind="main" type="submit" disabled={!form.watch("name").trim()} isBusy={invite.isPending}>
          Make the link
        </Button>
      </div>
    </Form>
  );
}
