import { Link } from "react-router";
import { dayOf, shortDay } from "../../../lib/days";
import { absolute, figure, plural } from "../../../lib/format";
import { networkNamed, useBrand } from "../../../study/brand";
import { Cut } from "../../../ui/Cut";
import { NetworkMark } from "../../../ui/Marks";
import { PostLink } from "../PostLink";
import type { Decomposition } from "../queries";
import { ContributionBar } from "./ContributionBar";
import { largest } from "./rules";

const WHEN = { now: "new", before: "of before", older: "earlier", "": "" };
const TITLES: Record<string, string> = {
  posts: "Posts that hold most of it",
  profiles: "Profiles, by what each adds",
  networks: "Networks, by what each adds",
};

/** The posts, profiles or networks that hold most of the change, those of both periods, and the rest as one. */
export function Parts({ made }: { made: Decomposition }) {
  const { brand, networks } = useBrand();
  const most = largest(made.items);
  const isPosts = made.what === "posts";
  return (
    <section className="min-w-0 overflow-y-auto px-5 py-3" aria-labelledby="parts-title">
      <h2 id="parts-title" className="text-[18px] leading-6">
        {TITLES[made.what]}
      </h2>
      {isPosts && (
        <p className="label">New ones add what they brought; those of the comparison take theirs away again.</p>
      )}
      <table className="mt-1 w-full table-fixed">
        <colgroup>
          <col />
          <col className="w-[84px]" />
          <col className="w-[164px]" />
        </colgroup>
        <thead className="sr-only">
          <tr>
            <th>What</th>
            <th>Published</th>
            <th>Adds to the change</th>
          </tr>
        </thead>
        <tbody>
          {made.items.map((item) => {
            const network = networkNamed(networks, item.network);
            return (
              <tr key={`${item.id} ${item.network}`} className="rowline h-7 hover:bg-panel">
                <td className="pr-2">
                  {isPosts ? (
                    <PostLink post={{ id: item.id, text: item.name, network: item.network }} />
                  ) : (
                    <span className="flex items-center gap-2">
                      {item.network && <NetworkMark network={network} />}
                      {item.id > 0 ? (
                        <Link
                          to={`/${brand.slug}/sources/profiles/${item.id}`}
                          className="under min-w-0 hover:text-berry"
                        >
                          <Cut>{item.name}</Cut>
                        </Link>
                      ) : (
                        (item.network && network.name) || "links of no network"
                      )}
                    </span>
                  )}
                </td>
                <td className="whitespace-nowrap text-muted" title={WHEN[item.when]}>
                  {item.published_at
                    ? shortDay(dayOf(item.published_at, brand.time_zone))
                    : `was ${figure(item.before, made.unit)}`}
                </td>
                <td
                  className="w-[180px]"
                  title={`${figure(item.now, made.unit)}, was ${figure(item.before, made.unit)}`}
                >
                  <ContributionBar value={item.contribution} most={most} unit={made.unit} more={made.more_is_better} />
                </td>
              </tr>
            );
          })}
        </tbody>
        {made.rest > 0 && (
          <tfoot>
            <tr className="h-7">
              <td colSpan={2} className="text-muted">
                {plural(made.rest, isPosts ? "other post" : "other")} together
              </td>
              <td>
                <span className="inline-block w-[72px] text-right font-semibold">
                  {absolute(made.rest_contribution, made.unit)}
                </span>
              </td>
            </tr>
          </tfoot>
        )}
      </table>
    </section>
  );
}
