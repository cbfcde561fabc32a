import { Link, useSearchParams } from "react-router";
import { useBrand } from "../../app/brand";
import { MinuteLine } from "../../app/line/MinuteLine";
import { StudySentence } from "../../app/StudySentence";
import { useStudy } from "../../app/study";
import { figure, plural, since } from "../../lib/format";
import { Button } from "../../ui/Button";
import { Sheet } from "../../ui/Sheet";
import { Empty, Failed, Loading } from "../../ui/States";
import { useToast } from "../../ui/Toast";
import { ClickChart } from "./ClickChart";
import { CopyButton } from "./CopyButton";
import { MakeLinkForm } from "./MakeLinkForm";
import { useLinks } from "./queries";

export function LinksPage() {
  const { brand, now, canChange } = useBrand();
  const { study } = useStudy();
  const [params, setParams] = useSearchParams();
  const found = useLinks(brand.slug, study);
  const say = useToast();
  const open = (isOpen: boolean) =>
    setParams((old) => {
      const next = new URLSearchParams(old);
      if (isOpen) next.set("new", "1");
      else next.delete("new");
      return next;
    });
  const query = params.toString() ? `?${params}` : "";
  const total = found.data?.breakdown.people.reduce((a, b) => a + b, 0) ?? 0;
  return (
    <>
      <MinuteLine />
      <StudySentence has={[]}>
        {canChange && (
          <Button kind="main" onClick={() => open(true)} className="!h-7">
            Make a link
          </Button>
        )}
      </StudySentence>
      {found.error ? (
        <Failed error={found.error} onRetry={() => found.refetch()} />
      ) : !found.data ? (
        <Loading what="Loading the links" />
      ) : found.data.links.length === 0 ? (
        <Empty
          title="No link is tracked yet"
          action={
            canChange && (
              <Button kind="main" onClick={() => open(true)}>
                Make a link
              </Button>
            )
          }
        >
          A tracked link tells which post brought people to your site. Likes are not visits.
        </Empty>
      ) : (
        <div className="grid min-h-0 flex-1 grid-cols-[3fr_2fr]">
          <section className="min-w-0 overflow-y-auto border-r border-rule px-5 py-3" aria-labelledby="links-title">
            <h1 id="links-title" className="text-[18px] leading-6">
              {total === 0
                ? "No clicks in these days"
                : `${plural(total, "click")} on ${plural(found.data.links.filter((l) => l.clicks_in_period > 0).length, "link")}`}
            </h1>
            <p className="label">Most clicked first. Bots are counted apart and never among people's clicks.</p>
            <table className="mt-2 w-full table-fixed">
              <thead className="label text-left">
                <tr className="h-7 border-b border-rule-strong">
                  <th className="font-normal">Link</th>
                  <th className="w-[120px] font-normal">Campaign</th>
                  <th className="w-[104px] font-normal">Short</th>
                  <th className="w-[56px] text-right font-normal">Clicks</th>
                  <th className="w-[52px] text-right font-normal">Bots</th>
                  <th className="w-[60px] text-right font-normal">Ever</th>
                  <th className="w-[76px] text-right font-normal">Last</th>
                </tr>
              </thead>
              <tbody>
                {found.data.links.map((link) => (
                  <tr key={link.id} className="rowline h-7 hover:bg-panel">
                    <td className="truncate pr-3">
                      <Link
                        to={`/${brand.slug}/links/${link.id}${query}`}
                        className="leading-6 hover:text-berry"
                        title={link.target}
                      >
                        {link.name}
                      </Link>
                    </td>
                    <td className="truncate text-muted">{link.campaign}</td>
                    <td>
                      <span className="flex items-center">
                        <span className="truncate">{link.code}</span>
                        <CopyButton text={link.short} />
                      </span>
                    </td>
                    <td className="text-right font-semibold">{figure(link.clicks_in_period)}</td>
                    <td className="text-right text-muted">{figure(link.bots_in_period)}</td>
                    <td className="text-right">{figure(link.clicks_ever)}</td>
                    <td className="text-right text-muted">{since(link.last_click_at, now)}</td>
                  </tr>
                ))}
              </tbody>
            </table>
          </section>
          <div className="min-w-0 overflow-y-auto px-5 py-3">
            <ClickChart
              first={found.data.period.first}
              breakdown={found.data.breakdown}
              title="Clicks by day, all links"
            />
          </div>
        </div>
      )}
      <Sheet isOpen={params.get("new") === "1"} onClose={() => open(false)} title="Make a tracked link">
        <MakeLinkForm
          onMade={(link) => {
            open(false);
            say(`${link.short} is ready.`);
          }}
        />
      </Sheet>
    </>
  );
}
