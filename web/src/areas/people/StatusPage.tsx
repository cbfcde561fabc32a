import { Link } from "react-router";
import type { Schemas } from "../../api/client";
import { moment } from "../../lib/days";
import { useBrand } from "../../study/brand";
import { Button } from "../../ui/Button";
import { StateWord } from "../../ui/Marks";
import { Failed, Loading } from "../../ui/States";
import { useStatus } from "./queries";
import { statusTitle } from "./rules";

type Part = Schemas["InstallationPart"];

/** How the installation runs, part by part, and what to do where one does not. */
export function StatusPage() {
  const { brand } = useBrand();
  const found = useStatus(brand.slug);
  if (found.error) return <Failed error={found.error} onRetry={() => found.refetch()} />;
  if (!found.data) return <Loading what="Looking at the installation" />;
  const { parts, at, version } = found.data;
  // What does not do its work stands first.
  const rank = (one: Part) => (one.is_down ? 0 : one.is_well ? 2 : 1);
  const sorted = [...parts].sort((a, b) => rank(a) - rank(b));
  return (
    <section className="min-h-0 flex-1 overflow-y-auto px-5 py-3" aria-labelledby="status-title">
      <Link to={`/${brand.slug}/team`} className="label under inline-flex h-6 items-center hover:text-berry">
        The team
      </Link>
      <div className="flex flex-wrap items-baseline gap-x-4">
        <h1 id="status-title" className="text-[18px] leading-6">
          {statusTitle(parts)}
        </h1>
        <Button kind="quiet" isBusy={found.isFetching} onClick={() => found.refetch()}>
          Look again
        </Button>
      </div>
      <p className="label">
        Looked at {moment(at, brand.time_zone)}, and again every quarter of a minute. Version {version}. Machines ask
        for the same at /ready and, with a token that is set, at /metrics.
      </p>
      <table className="mt-3 w-full max-w-5xl table-fixed">
        <thead className="label text-left">
          <tr className="rowline h-7">
            <th className="w-[120px] font-normal">Part</th>
            <th className="w-[150px] font-normal">How it stands</th>
            <th className="font-normal">What is seen, and what to do</th>
          </tr>
        </thead>
        <tbody>
          {sorted.map((one) => (
            <tr key={one.name} className="rowline align-baseline">
              <th scope="row" className="py-2 text-left font-semibold">
                {one.words}
              </th>
              <td className="py-2">
                <StateWord tone={one.is_down ? "wrong" : one.is_well ? "good" : "busy"}>
                  {one.is_down ? "does not work" : one.is_well ? "works" : "wants looking at"}
                </StateWord>
              </td>
              <td className="py-2">
                {one.told}
                {one.advice && <p className="label">{one.advice}</p>}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}
