import { useState } from "react";
import type { ProblemError, Schemas } from "../../../api/client";
import { addDays, at, dayOf, shortDay } from "../../../lib/days";
import { useBrand } from "../../../study/brand";
import { useCampaigns } from "../../../study/queries";
import { Button } from "../../../ui/Button";
import { Check } from "../../../ui/Check";
import { DateField } from "../../../ui/DateField";
import { Field } from "../../../ui/Field";
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
  const error = invite.error as ProblemError | null;
  const [given, setGiven] = useState({
    name: "",
    may: (canLetApprove ? "approve" : "vote") as May,
    campaigns: [] as number[],
    first_day: today,
    last_day: addDays(today, 28),
    until: addDays(today, 30),
  });
  const put = (patch: Partial<typeof given>) => setGiven({ ...given, ...patch });
  return (
    <form
      className="mt-4 flex flex-col gap-3 border-t border-rule pt-3"
      onSubmit={(event) => {
        event.preventDefault();
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
      <Field label="Who it is for" error={error?.fields.name}>
        {(props) => (
          <input {...props} maxLength={80} value={given.name} onChange={(event) => put({ name: event.target.value })} />
        )}
      </Field>
      <Field label="They may">
        {(props) => (
          <select {...props} value={given.may} onChange={(event) => put({ may: event.target.value as May })}>
            {(Object.keys(MAY) as May[])
              .filter((one) => one !== "approve" || canLetApprove)
              .map((one) => (
                <option key={one} value={one}>
                  {MAY[one]}
                </option>
              ))}
          </select>
        )}
      </Field>
      <div className="grid grid-cols-2 gap-3">
        <Field label="Posts from" error={error?.fields.first_day}>
          {(props) => (
            <DateField {...props} today={today} value={given.first_day} onChange={(first_day) => put({ first_day })} />
          )}
        </Field>
        <Field label="to" error={error?.fields.last_day}>
          {(props) => (
            <DateField {...props} today={today} value={given.last_day} onChange={(last_day) => put({ last_day })} />
          )}
        </Field>
      </div>
      {campaigns.length > 0 && (
        <fieldset className="flex flex-col">
          <legend className="text-[13px] font-semibold">and all posts of these campaigns</legend>
          {campaigns.map((one) => (
            <Check
              key={one.id}
              isOn={given.campaigns.includes(one.id)}
              onChange={(on) =>
                put({ campaigns: on ? [...given.campaigns, one.id] : given.campaigns.filter((id) => id !== one.id) })
              }
            >
              {one.name}
            </Check>
          ))}
        </fieldset>
      )}
      <Field label="The link is good until" error={error?.fields.until}>
        {(props) => <DateField {...props} today={today} value={given.until} onChange={(until) => put({ until })} />}
      </Field>
      {error && Object.keys(error.fields).length === 0 && (
        <p role="alert" className="text-down">
          {error.message}
        </p>
      )}
      <div>
        <Button kind="main" type="submit" disabled={!given.name.trim()} isBusy={invite.isPending}>
          Make the link
        </Button>
      </div>
    </form>
  );
}
