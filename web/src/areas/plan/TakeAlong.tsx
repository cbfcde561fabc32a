import { useState } from "react";
import { useBrand } from "../../study/brand";
import { Button } from "../../ui/Button";
import { CopyButton } from "../../ui/CopyButton";
import { Sheet } from "../../ui/Sheet";
import { useSubscribe, useUnsubscribe } from "./queries";

const FORMS = { csv: "CSV", xlsx: "workbook", ics: "calendar" } as const;

/** The days that are shown as a file, and the plan as a calendar to subscribe to. */
export function TakeAlong({ first, last }: { first: string; last: string }) {
  const { brand } = useBrand();
  const [isOpen, setOpen] = useState(false);
  return (
    <>
      <p>
        These days as{" "}
        {(Object.keys(FORMS) as (keyof typeof FORMS)[]).map((form, i) => (
          <span key={form}>
            {i > 0 && ", "}
            <a
              href={`/api/brands/${brand.slug}/plan/export?form=${form}&first=${first}&last=${last}`}
              className="under inline-block min-h-6 hover:text-berry"
              download
            >
              {FORMS[form]}
            </a>
          </span>
        ))}
      </p>
      <button type="button" className="under min-h-6 text-left hover:text-berry" onClick={() => setOpen(true)}>
        Subscribe in a calendar program
      </button>
      <SubscribeSheet isOpen={isOpen} onClose={() => setOpen(false)} />
    </>
  );
}

function SubscribeSheet({ isOpen, onClose }: { isOpen: boolean; onClose: () => void }) {
  const { brand } = useBrand();
  const subscribe = useSubscribe(brand.slug);
  const unsubscribe = useUnsubscribe(brand.slug);
  const address = subscribe.data?.address;
  return (
    <Sheet isOpen={isOpen} onClose={onClose} title="The plan in your own calendar" form="dialog">
      <p>
        An address of your own, which your calendar program asks now and then. Who has it sees this brand's plan: keep
        it to yourself. A new one ends the one before.
      </p>
      {address && !unsubscribe.isSuccess && (
        <div className="my-3 border border-berry p-3">
          <p className="font-semibold">Your address, told this once</p>
          <p className="select-all break-all">{address}</p>
          <CopyButton text={address} said="The address is copied." />
        </div>
      )}
      {unsubscribe.isSuccess && <p className="my-2">Your address opens nothing any more.</p>}
      {(subscribe.error ?? unsubscribe.error) && (
        <p role="alert" className="text-down">
          {(subscribe.error ?? unsubscribe.error)?.message}
        </p>
      )}
      <div className="mt-3 flex gap-2">
        <Button
          kind="main"
          isBusy={subscribe.isPending}
          onClick={() => {
            unsubscribe.reset();
            subscribe.mutate();
          }}
        >
          Make an address
        </Button>
        <Button isBusy={unsubscribe.isPending} onClick={() => unsubscribe.mutate()}>
          End the one I have
        </Button>
      </div>
    </Sheet>
  );
}
