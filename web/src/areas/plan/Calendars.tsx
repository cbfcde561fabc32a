import { useState } from "react";
import { useForm } from "react-hook-form";
import type { Schemas } from "../../api/client";
import { useBrand } from "../../study/brand";
import { Button } from "../../ui/Button";
import { Entry, Form } from "../../ui/Form";
import { Sheet } from "../../ui/Sheet";
import { useToast } from "../../ui/Toast";
import { useFollowCalendar, useLeaveCalendar } from "./queries";

type Props = { calendars: Schemas["FollowedCalendar"][]; canChange: boolean };

/** Calendars of others that stand beside the plan, and following another. */
export function Calendars({ calendars, canChange }: Props) {
  const { brand } = useBrand();
  const [isOpen, setOpen] = useState(false);
  const leave = useLeaveCalendar(brand.slug);
  if (calendars.length === 0 && !canChange) return null;
  return (
    <>
      <h2 className="mt-4 text-[16px]">Calendars of others</h2>
      {calendars.length === 0 && (
        <p className="label mt-1">None. A house's programme or school holidays, shown beside the posts.</p>
      )}
      <ul>
        {calendars.map((one) => (
          <li key={one.id} className="rowline flex items-baseline gap-2 py-1">
            <span className="min-w-0 flex-1 break-words">
              {one.name}
              {one.message && <span className="block text-[12px] text-down">{one.message}</span>}
            </span>
            {canChange && (
              <button
                type="button"
                className="label under h-6 hover:text-down"
                aria-label={`Take the calendar ${one.name} away`}
                onClick={() => leave.mutate(one.id)}
              >
                take away
              </button>
            )}
          </li>
        ))}
      </ul>
      {canChange && (
        <button type="button" className="under min-h-6 text-left hover:text-berry" onClick={() => setOpen(true)}>
          Follow a calendar
        </button>
      )}
      <FollowSheet isOpen={isOpen} onClose={() => setOpen(false)} />
    </>
  );
}

function FollowSheet({ isOpen, onClose }: { isOpen: boolean; onClose: () => void }) {
  const { brand } = useBrand();
  const follow = useFollowCalendar(brand.slug);
  const say = useToast();
  const form = useForm({ defaultValues: { address: "", name: "" } });
  const asked = form.watch();
  return (
    <Sheet isOpen={isOpen} onClose={onClose} title="Follow a calendar" form="dialog">
      <Form
        form={form}
        error={follow.error}
        className="flex flex-col gap-3"
        onSubmit={() => {
          follow.mutate(asked, {
            onSuccess: (made) => {
              say(`${made.name} stands beside the plan now.`);
              form.reset();
              onClose();
            },
          });
        }}
      >
        <p>Its events are shown in this brand's calendar, to who may see the plan; nothing of the plan goes there.</p>
        <Entry
          form={form}
          name="address"
          label="Its address"
          help="An iCalendar address, such as https://... or webcal://..."
        >
          {(field) => <input {...field} inputMode="url" maxLength={2000} />}
        </Entry>
        <Entry form={form} name="name" label="What to call it" help="Empty: as it calls itself">
          {(field) => <input {...field} maxLength={200} />}
        </Entry>
        <div>
          <Button kind="main" type="submit" disabled={!asked.address.trim()} isBusy={follow.isPending}>
            Follow it
          </Button>
        </div>
      </Form>
    </Sheet>
  );
}
