import { Bell as BellIcon } from "lucide-react";
import { useState } from "react";
import { Link } from "react-router";
import { moment } from "../lib/days";
import { useBrand } from "../study/brand";
import { useNotifications, useRead } from "../study/queries";
import { Button } from "../ui/Button";
import { Sheet } from "../ui/Sheet";
import { Failed, Loading } from "../ui/States";

/** What one is told of a brand: how much is new on the bell, and the list behind it. */
export function Bell() {
  const { brand } = useBrand();
  const [isOpen, setOpen] = useState(false);
  const told = useNotifications(brand.slug);
  const unread = told.data?.unread ?? 0;
  return (
    <>
      <button
        type="button"
        onClick={() => setOpen(true)}
        aria-label={unread > 0 ? `Notices, ${unread} new` : "Notices"}
        className="relative flex h-7 w-7 items-center justify-center hover:text-shell-ink"
      >
        <BellIcon size={17} aria-hidden="true" />
        {unread > 0 && (
          <span className="absolute -top-0.5 -right-1 min-w-4 bg-berry px-1 text-center text-[11px] leading-4 font-semibold text-white">
            {unread > 99 ? "99+" : unread}
          </span>
        )}
      </button>
      <Sheet isOpen={isOpen} onClose={() => setOpen(false)} title="Notices">
        {told.error ? (
          <Failed error={told.error} onRetry={() => told.refetch()} />
        ) : !told.data ? (
          <Loading />
        ) : (
          <List told={told.data} onLeave={() => setOpen(false)} />
        )}
      </Sheet>
    </>
  );
}

type ListProps = { told: NonNullable<ReturnType<typeof useNotifications>["data"]>; onLeave: () => void };

function List({ told, onLeave }: ListProps) {
  const { brand } = useBrand();
  const read = useRead(brand.slug);
  return (
    <>
      {told.notifications.length === 0 ? (
        <p className="text-muted">
          Nothing yet. What the figures say is told here in the brand's morning, at 6:00 in {brand.time_zone}.
        </p>
      ) : (
        <ul className="flex flex-col">
          {told.notifications.map((one) => (
            <li
              key={one.id}
              className={`rowline py-2 ${one.is_read ? "" : "shadow-[inset_3px_0_0_var(--berry)] pl-3"}`}
            >
              {one.path ? (
                <Link
                  to={`/${brand.slug}/${one.path}`}
                  onClick={() => {
                    read.mutate([one.id]);
                    onLeave();
                  }}
                  className={`hover:text-berry ${one.is_read ? "" : "font-semibold"}`}
                >
                  {one.text}
                </Link>
              ) : (
                <span className={one.is_read ? "" : "font-semibold"}>{one.text}</span>
              )}
              {one.detail && <p className="label">{one.detail}</p>}
              <p className="label">
                {moment(one.at, brand.time_zone)}
                {!one.is_read && <span className="sr-only">, new</span>}
              </p>
            </li>
          ))}
        </ul>
      )}
      {told.unread > 0 && (
        <Button className="mt-3 self-start" isBusy={read.isPending} onClick={() => read.mutate(null)}>
          Take all as read
        </Button>
      )}
      <Link to={`/${brand.slug}/team/notices`} onClick={onLeave} className="under mt-5 self-start hover:text-berry">
        Which of them I get, and by mail
      </Link>
    </>
  );
}
