import { useState } from "react";
import { Link, useSearchParams } from "react-router";
import { SaveAs } from "../../figures/SaveAs";
import { plural } from "../../lib/format";
import { AreaFrame } from "../../study/AreaFrame";
import { useBrand } from "../../study/brand";
import { useCampaigns } from "../../study/queries";
import { StudySet } from "../../study/StudySet";
import { useStudy } from "../../study/study";
import { Button } from "../../ui/Button";
import { CopyButton } from "../../ui/CopyButton";
import { Sheet } from "../../ui/Sheet";
import { Empty, Failed, Loading } from "../../ui/States";
import { useToast } from "../../ui/Toast";
import { LikeNames } from "../results";
import { ClickCourse } from "./ClickCourse";
import { HourStrips } from "./HourStrips";
import { LinkTable } from "./LinkTable";
import { MakeLinkForm } from "./MakeLinkForm";
import { MakeMany } from "./MakeMany";
import { useLinks } from "./queries";
import { clicksTitle } from "./rules";
import { Spread } from "./Spread";

/** Which links bring people, from where, and when; made here one at a time or many. */
export function LinksPage() {
  const { brand, can, networks } = useBrand();
  const canChange = can("links.make");
  const { study, change } = useStudy();
  const [params, setParams] = useSearchParams();
  const text = params.get("text") ?? "";
  const [typed, setTyped] = useState(text);
  const find = (said: string) => {
    setTyped(said);
    // Kept in the address, so that a colleague sees the same; a letter is no step to go back to.
    setParams(
      (old) => {
        const next = new URLSearchParams(old);
        if (said) next.set("text", said);
        else next.delete("text");
        return next;
      },
      { replace: true },
    );
  };
  const { first, last, compare, network, campaign } = study;
  const found = useLinks(brand.slug, { first, last, compare, network, campaign, text: text || undefined });
  const campaigns = useCampaigns(brand.slug).data ?? [];
  const say = useToast();
  const [made, setMade] = useState<{ id: number; name: string; short: string; target: string } | null>(null);
  const opened = canChange ? params.get("new") : null;
  const open = (what: string | null) =>
    setParams((old) => {
      const next = new URLSearchParams(old);
      if (what) next.set("new", what);
      else next.delete("new");
      return next;
    });
  const query = params.toString() ? `?${params}` : "";
  const data = found.data;
  const asked = { text: text || undefined };
  const isNarrow = Boolean(network || campaign || text);
  const buttons = canChange && (
    <>
      <button type="button" className="under hover:text-berry" onClick={() => open("many")}>
        Make many
      </button>
      <Button kind="main" onClick={() => open("1")} className="!h-7">
        Make a link
      </Button>
    </>
  );
  return (
    <AreaFrame
      area="links"
      actions={
        <>
          <input
            aria-label="Search the links"
            placeholder="Search the links"
            value={typed}
            onChange={(e) => find(e.target.value)}
            className="h-7 w-[170px] border border-rule-strong bg-panel px-2"
          />
          <SaveAs name="links" table={{ kind: "links.links", params: asked }} />
          {buttons}
        </>
      }
    >
      {made && (
        <section
          aria-label="The link just made"
          className="flex flex-wrap items-center gap-x-4 gap-y-1 border-b border-rule bg-panel px-5 py-2"
        >
          <b>{made.short}</b>
          <CopyButton text={made.short} said="The short address is copied." />
          <Link to={`/${brand.slug}/links/${made.id}`} className="under hover:text-berry">
            {made.name}
          </Link>
          <span className="label min-w-0 break-all">leads to {made.target}</span>
          <button type="button" className="label under ml-auto h-6 hover:text-berry" onClick={() => setMade(null)}>
            put away
          </button>
        </section>
      )}
      {found.error ? (
        <Failed error={found.error} onRetry={() => found.refetch()} />
      ) : !data ? (
        <Loading what="Loading the links" />
      ) : data.links.length === 0 && !isNarrow ? (
        <Empty title="No link is tracked yet" action={<span className="flex items-center gap-4">{buttons}</span>}>
          A tracked link tells which post brought people to your site. Likes are not visits.
        </Empty>
      ) : (
        <div className="min-h-0 flex-1 overflow-y-auto px-5 py-3">
          <div className="grid grid-cols-[minmax(0,1fr)_310px] gap-8">
            <section aria-labelledby="links-title" className="min-w-0">
              <h1 id="links-title" className="text-[18px] leading-6">
                {clicksTitle(data.figures)}
              </h1>
              <p className="label">
                Clicks of people on the links listed.{" "}
                <LikeNames
                  metric="tracked_clicks"
                  study={{ first, last, compare, network, campaign }}
                  title="Clicks, counted otherwise"
                  here="clicks of people on the links listed, in these days"
                >
                  Counted otherwise elsewhere
                </LikeNames>
              </p>
              <ClickCourse
                first={data.period.first}
                firstBefore={data.compared.first}
                figures={data.figures}
                params={asked}
              />
            </section>
            <HourStrips hours={data.figures.hours} zone={brand.time_zone} params={asked} />
          </div>
          <div className="mt-4 grid grid-cols-[minmax(0,1fr)_310px] gap-8">
            <section aria-label="Links" className="min-w-0">
              <p>
                {plural(data.links.length, "link")} for{" "}
                <StudySet
                  field="network"
                  label="Networks of the links"
                  none="any network"
                  options={networks.map((n) => ({ value: n.key, label: n.name }))}
                />{" "}
                and{" "}
                <StudySet
                  field="campaign"
                  label="Campaigns of the links"
                  none="any campaign"
                  options={campaigns.map((c) => ({ value: String(c.id), label: c.name }))}
                />
                , most clicked first
              </p>
              {data.links.length === 0 ? (
                <p className="label mt-2">No link fits. Take a filter or the search out.</p>
              ) : (
                <LinkTable links={data.links} query={query} />
              )}
            </section>
            <Spread
              figures={data.figures}
              params={asked}
              onChoose={(by, name, id) => change(by === "network" ? { network: name } : { campaign: id ?? undefined })}
            />
          </div>
        </div>
      )}
      <Sheet isOpen={opened === "1"} onClose={() => open(null)} title="Make a tracked link">
        <MakeLinkForm
          onMade={async (link) => {
            open(null);
            setMade(link);
            // Copied, so that it can be put where it is for; browsers that forbid that leave the button.
            const isCopied = await navigator.clipboard?.writeText(link.short).then(
              () => true,
              () => false,
            );
            say(isCopied ? `${link.short} is ready, and copied.` : `${link.short} is ready.`);
          }}
        />
      </Sheet>
      <Sheet isOpen={opened === "many"} onClose={() => open(null)} title="Make many links" form="dialog">
        <MakeMany
          onMade={(count) => {
            open(null);
            say(`${plural(count, "link")} made.`);
          }}
        />
      </Sheet>
    </AreaFrame>
  );
}
