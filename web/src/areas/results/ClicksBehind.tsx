import { Link, useLocation } from "react-router";
import { longDay } from "../../lib/days";
import { figure, percent, plural } from "../../lib/format";
import { useBrand } from "../../study/brand";
import { carriedAll, useStudy } from "../../study/study";
import { Cut } from "../../ui/Cut";
import { Sheet } from "../../ui/Sheet";
import { Failed, Loading } from "../../ui/States";
import { useClicksBehind } from "./queries";

/** What made a day's clicks: the links and referrers beyond what they usually bring on that weekday. */
export function ClicksBehind({ day, onClose }: { day: string | null; onClose: () => void }) {
  const { brand } = useBrand();
  const { study } = useStudy();
  const { search } = useLocation();
  const behind = useClicksBehind(brand.slug, study, day);
  const b = behind.data;
  return (
    <Sheet isOpen={day !== null} onClose={onClose} title={day ? `Clicks on ${longDay(day)}` : ""}>
      {behind.error ? (
        <Failed error={behind.error} onRetry={() => behind.refetch()} />
      ) : !b ? (
        <Loading what="Looking for what made it" lines={4} />
      ) : (
        <>
          <p>
            <b>{plural(b.value, "click")}</b>
            {b.level !== null && `, where ${figure(b.level)} would be usual for such a day`}
            {b.z !== null && ` (robust z ${b.z.toFixed(1)})`}.
          </p>
          <p className="mt-1">
            {b.value === 0
              ? "Nobody clicked."
              : b.is_spike && b.explained < 0.5
                ? "It stands out, and no few links explain it."
                : b.is_spike
                  ? `It stands out. The links marked explain ${percent(b.explained)} of what is beyond the usual.`
                  : "It does not stand out. These links were clicked most."}
          </p>
          {b.links.length > 0 && (
            <>
              <h3 className="mt-3 text-[15px]">Links</h3>
              <ul>
                {b.links.map((part) => (
                  <Row key={part.id} {...part} share={b.is_spike ? part.share : 0}>
                    <Link
                      to={`/${brand.slug}/links/${part.id}${carriedAll(search)}`}
                      className="min-w-0 leading-6 hover:text-berry"
                    >
                      <Cut>{part.name}</Cut>
                    </Link>
                  </Row>
                ))}
              </ul>
              <h3 className="mt-3 text-[15px]">From</h3>
              <ul>
                {b.referrers.map((part) => (
                  <Row key={part.name} {...part} share={b.is_spike ? part.share : 0}>
                    <Cut>{part.name || "no referrer given"}</Cut>
                  </Row>
                ))}
              </ul>
              <p className="label mt-2">Usually: the mean of that weekday over the eight weeks before.</p>
            </>
          )}
        </>
      )}
    </Sheet>
  );
}

type RowProps = { count: number; usual: number; share: number; children: React.ReactNode };

function Row({ count, usual, share, children }: RowProps) {
  return (
    <li className="rowline grid min-h-7 grid-cols-[1fr_50px_84px_48px] items-center gap-2">
      {children}
      <span className="text-right font-semibold">{figure(count)}</span>
      <span className="label text-right">usually {figure(usual)}</span>
      <span className="text-right text-berry">{share > 0.005 ? percent(share) : ""}</span>
    </li>
  );
}
