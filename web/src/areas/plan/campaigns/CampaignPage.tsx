import { useEffect, useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import { RatioPlot } from "../../../charts/RatioPlot";
import { FigureValue } from "../../../figures/FigureValue";
import { SaveAs } from "../../../figures/SaveAs";
import { moment, shortDay } from "../../../lib/days";
import { figure, formatNames, plural } from "../../../lib/format";
import { networkNamed, useBrand } from "../../../study/brand";
import { MinuteLine } from "../../../study/line/MinuteLine";
import { useCampaigns } from "../../../study/queries";
import { useStudy } from "../../../study/study";
import { Button } from "../../../ui/Button";
import { Sheet } from "../../../ui/Sheet";
import { Empty, Failed, Loading } from "../../../ui/States";
import { useToast } from "../../../ui/Toast";
import { costWords, money, useGroups, useSummary } from "../../results";
import { CampaignSheet } from "./CampaignSheet";
import { type Campaign, type Counts, useCampaignPlan, useRemoveCampaign } from "./queries";
import { byKind, GOALS, progressWords } from "./rules";
import { Weeks } from "./Weeks";

const SHOWN = ["posts", "interactions", "reach", "tracked_clicks", "visits", "conversions", "value"];

/** A campaign as a whole: what of it is planned and out, how it stands against its goal and against the others. */
export function CampaignPage() {
  const { brand, today } = useBrand();
  const id = Number(useParams().campaign);
  const campaigns = useCampaigns(brand.slug);
  const campaign = campaigns.data?.find((one) => one.id === id);
  const { study, change } = useStudy();
  const last = campaign && campaign.last_day > today ? today : campaign?.last_day;
  const hasBegun = campaign !== undefined && campaign.first_day <= today;
  const isAsked = study.campaign === String(id) && study.first === campaign?.first_day && study.last === last;
  useEffect(() => {
    // The address carries what is studied, so that every figure's basis is of this campaign and its days.
    if (campaign && hasBegun && !isAsked) change({ campaign: id, first: campaign.first_day, last }, true);
  }, [campaign, hasBegun, isAsked, change, id, last]);
  if (campaigns.error) return <Failed error={campaigns.error} onRetry={() => campaigns.refetch()} />;
  if (!campaigns.data) return <Loading what="Loading the campaign" />;
  if (!campaign) return <Empty title="There is no such campaign">It was removed; its posts are still there.</Empty>;
  return <One campaign={campaign} isStudied={hasBegun && isAsked} />;
}

function One({ campaign, isStudied }: { campaign: Campaign; isStudied: boolean }) {
  const { brand, today, can } = useBrand();
  const counts = useCampaignPlan(brand.slug, campaign.id);
  const { study } = useStudy();
  const summary = useSummary(brand.slug, study, SHOWN, isStudied);
  const kinds = useGroups(brand.slug, study, "format", "index", isStudied);
  const { campaign: _, ...all } = study;
  const others = useGroups(brand.slug, all, "campaign", "index", isStudied);
  const [opened, setOpened] = useState<"change" | "remove" | null>(null);
  const figures = isStudied ? (summary.data?.metrics ?? []) : [];
  const goal = GOALS[campaign.goal_metric ?? ""];
  const reached = figures.find((one) => one.key === goal?.metric)?.now.value ?? null;
  return (
    <>
      <MinuteLine turned="future" hasBrush={false} />
      <div className="flex min-h-[34px] flex-wrap items-center gap-3 border-b border-rule px-5 narrow:px-3">
        <Link to={`/${brand.slug}/plan/campaigns`} className="under inline-block min-h-6 hover:text-berry">
          Campaigns
        </Link>
        <h1 className="text-[18px]">
          <span
            className="mr-2 inline-block h-[3px] w-6 align-middle"
            style={{ background: `var(--tag-${campaign.colour}, var(--berry))` }}
          />
          {campaign.name}
        </h1>
        <span className="text-muted">
          {shortDay(campaign.first_day)} to {shortDay(campaign.last_day)}
        </span>
        <span role="status" className="font-semibold">
          {progressWords(campaign, isStudied ? reached : null, today)}
        </span>
        <span className="ml-auto">
          <SaveAs name="campaign" table={{ kind: "plan.campaign", params: { of_campaign: campaign.id } }} />
        </span>
        {can("brand.campaigns") && (
          <span className="flex gap-2">
            <Button onClick={() => setOpened("change")}>Change it</Button>
            <Button kind="danger" onClick={() => setOpened("remove")}>
              Remove it
            </Button>
          </span>
        )}
      </div>
      <div className="scrolls flex h-[58px] shrink-0 border-b border-rule narrow:overflow-x-auto">
        {figures.map((one) => (
          <div key={one.key} className="stays min-w-0 flex-1 border-r border-rule px-4 py-1 narrow:min-w-[140px]">
            <span className="label block truncate">{one.name}</span>
            <FigureValue
              kind="results.course"
              cell={one.key}
              params={{ metrics: one.key }}
              label={one.name}
              className="text-[19px] font-semibold"
            >
              {figure(one.now.value, one.unit)}
            </FigureValue>
          </div>
        ))}
        {!isStudied && <p className="label px-5 py-3">It has not begun: results stand here once its posts are out.</p>}
      </div>
      {counts.error ? (
        <Failed error={counts.error} onRetry={() => counts.refetch()} />
      ) : !counts.data ? (
        <Loading what="Counting its posts" />
      ) : (
        <div className="grid min-h-0 flex-1 grid-cols-[minmax(0,3fr)_minmax(0,2fr)]">
          <section
            className="min-w-0 overflow-y-auto border-r border-rule px-5 py-3 narrow:px-3"
            aria-label="Its posts"
            tabIndex={0}
          >
            <Weeks weeks={counts.data.weeks} withoutTime={counts.data.without_time} />
            <Kinds counts={counts.data} />
            <div className="mt-5 flex items-baseline justify-between gap-4">
              <h2 className="text-[16px]">What each kind brought</h2>
              <SaveAs
                name="kinds"
                table={{ kind: "results.groups", params: { by: "format", metric: "index" } }}
                report={{ kind: "results.groups", params: { by: "format", metric: "index" }, drawing: "bars" }}
              />
            </div>
            <Against
              groups={isStudied ? kinds.data?.groups : []}
              name={(g) => formatNames[g.key as keyof typeof formatNames] ?? g.name}
              none="Nothing of it is out yet."
            />
          </section>
          <section className="min-w-0 overflow-y-auto px-5 py-3 narrow:px-3" aria-label="What is to come" tabIndex={0}>
            <h2 className="text-[16px]">Going out next</h2>
            {counts.data.to_come.length === 0 && <p className="label mt-1">Nothing of it is planned ahead.</p>}
            <ul>
              {counts.data.to_come.map((entry) => (
                <li key={entry.id} className="rowline">
                  <Link to={`/${brand.slug}/plan/${entry.id}`} className="block py-1.5 hover:text-berry">
                    <span className="block truncate font-semibold">{entry.title || entry.text || "Untitled"}</span>
                    <span className="label">
                      {entry.at && moment(entry.at, brand.time_zone)}, {entry.state.replace("_", " ")}
                    </span>
                  </Link>
                </li>
              ))}
            </ul>
            <p className="mt-2 flex flex-wrap gap-x-4">
              {can("plan.write") && (
                <Link
                  to={`/${brand.slug}/plan/new?campaign=${campaign.id}`}
                  className="under inline-block min-h-6 hover:text-berry"
                >
                  Write a post for it
                </Link>
              )}
              <Link
                to={`/${brand.slug}/plan?view=list&campaigns=${campaign.id}&day=${campaign.first_day}`}
                className="under inline-block min-h-6 hover:text-berry"
              >
                All of it in the calendar
              </Link>
              <Link
                to={`/${brand.slug}/results/posts?campaign=${campaign.id}&first=${study.first}&last=${study.last}`}
                className="under inline-block min-h-6 hover:text-berry"
              >
                Its posts in Results
              </Link>
              <Link
                to={`/${brand.slug}/links?campaign=${campaign.id}`}
                className="under inline-block min-h-6 hover:text-berry"
              >
                {plural(counts.data.links, "tracked link")}
              </Link>
            </p>
            {counts.data.boosted && <BoostedPart boosted={counts.data.boosted} campaign={campaign.id} />}
            <div className="mt-5 flex items-baseline justify-between gap-4">
              <h2 className="text-[16px]">Against the other campaigns of these days</h2>
              <SaveAs
                name="campaigns"
                table={{ kind: "results.groups", params: { by: "campaign", metric: "index" } }}
                report={{ kind: "results.groups", params: { by: "campaign", metric: "index" }, drawing: "bars" }}
                narrow={{ campaign: undefined }}
              />
            </div>
            <Against
              groups={isStudied ? others.data?.groups : []}
              name={(g) => g.name}
              isOurs={(g) => g.key === String(campaign.id)}
              none="Nothing is out to be held against."
            />
          </section>
        </div>
      )}
      <CampaignSheet isOpen={opened === "change"} onClose={() => setOpened(null)} campaign={campaign} />
      <Removal isOpen={opened === "remove"} onClose={() => setOpened(null)} campaign={campaign} counts={counts.data} />
    </>
  );
}

/** Posts by format and network: how many are out, and how many are to come. */
function Kinds({ counts }: { counts: Counts }) {
  const { networks } = useBrand();
  const { networks: keys, formats, at } = byKind(counts.kinds);
  if (formats.length === 0) return <p className="label mt-2">No post belongs to it yet.</p>;
  return (
    <div className="scrolls mt-3 overflow-x-auto">
      <table className="w-full min-w-[420px]">
        <caption className="text-left text-[16px]">
          By kind and network <span className="label">out + to come</span>
        </caption>
        <thead>
          <tr className="border-b border-rule-strong text-right">
            <th scope="col" className="text-left font-normal">
              Kind
            </th>
            {keys.map((key) => (
              <th key={key} scope="col" className="font-normal">
                {networkNamed(networks, key).name}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {formats.map((format) => (
            <tr key={format} className="rowline h-7 text-right">
              <th scope="row" className="text-left font-normal">
                {formatNames[format as keyof typeof formatNames] ?? format}
              </th>
              {keys.map((key) => {
                const one = at(format, key);
                return (
                  <td key={key} className="tabular-nums">
                    {one ? (
                      <>
                        {one.published}
                        {one.planned > 0 && <span className="text-berry"> + {one.planned}</span>}
                      </>
                    ) : (
                      <span className="text-muted">–</span>
                    )}
                  </td>
                );
              })}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

type Group = NonNullable<ReturnType<typeof useGroups>["data"]>["groups"][number];
type AgainstProps = {
  groups: Group[] | undefined;
  name: (group: Group) => string;
  isOurs?: (group: Group) => boolean;
  none: string;
};

/** Groups of posts against the others, with their intervals. */
function Against({ groups, name, isOurs, none }: AgainstProps) {
  if (groups === undefined) return <Loading what="Holding them against each other" />;
  const shown = groups.filter((g) => g.key);
  if (shown.length === 0) return <p className="label mt-1">{none}</p>;
  return (
    <ul className="mt-1">
      <li className="label">
        How many times the others' index: the bar as it is, the ring with profile and format held the same, 95 %.
      </li>
      {shown.map((group) => (
        <li key={group.key} className="rowline grid grid-cols-[130px_60px_minmax(0,1fr)] items-center gap-2">
          <span className={`truncate ${isOurs?.(group) ? "font-semibold text-berry" : ""}`} title={name(group)}>
            {name(group)}
          </span>
          <span className="label whitespace-nowrap text-right narrow:text-left">{plural(group.n, "post")}</span>
          {group.verdict === "few" || !group.raw ? (
            <span className="label">too few to be judged</span>
          ) : (
            <RatioPlot name={name(group)} groups={shown} group={group} isOurs={isOurs?.(group) ?? true} />
          )}
        </li>
      ))}
    </ul>
  );
}

/** What showing its posts to more people cost, and what a click and a conversion of that cost. */
function BoostedPart({ boosted, campaign }: { boosted: NonNullable<Counts["boosted"]>; campaign: number }) {
  const { brand } = useBrand();
  const { study } = useStudy();
  const { currency } = boosted;
  return (
    <>
      <h2 className="mt-5 text-[16px]">Paid for</h2>
      <p>
        <Link
          to={`/${brand.slug}/results/paid?campaign=${campaign}&first=${study.first}&last=${study.last}`}
          className="under hover:text-berry"
        >
          {money(boosted.spent, currency)} for {plural(boosted.boosts, "boost")}
        </Link>
        , shown {figure(boosted.impressions)} times.
      </p>
      <p className="label">
        {plural(boosted.clicks, "click")}, one for {costWords(boosted.per_click, boosted.per_click_interval, currency)};{" "}
        {plural(boosted.conversions, "conversion")}, one for{" "}
        {costWords(boosted.per_conversion, boosted.per_conversion_interval, currency)}. None of it is in the figures
        above.
      </p>
    </>
  );
}

type RemovalProps = { isOpen: boolean; onClose: () => void; campaign: Campaign; counts: Counts | undefined };

/** Removing a campaign keeps its posts; whether what is set to go out still does, is asked. */
function Removal({ isOpen, onClose, campaign, counts }: RemovalProps) {
  const { brand, can } = useBrand();
  const remove = useRemoveCampaign(brand.slug, campaign.id);
  const navigate = useNavigate();
  const say = useToast();
  const waiting = counts?.states.scheduled ?? 0;
  // The page goes with the campaign: what is said afterwards hangs on nothing that is shown.
  const go = (takesBack: boolean) =>
    remove.mutateAsync(takesBack).then(
      ({ posts }) => {
        say(
          `${campaign.name} is removed${posts ? `; ${plural(posts, "post")} are drafts again` : ""}. Its posts stay.`,
        );
        navigate(`/${brand.slug}/plan/campaigns`);
      },
      () => undefined,
    );
  return (
    <Sheet isOpen={isOpen} onClose={onClose} title={`Remove ${campaign.name}`} form="dialog">
      <p>Its posts stay, in no campaign; so do its links and their clicks. It cannot be brought back.</p>
      {waiting > 0 && <p className="mt-2">{plural(waiting, "version is", "versions are")} set to go out.</p>}
      {remove.error && (
        <p role="alert" className="mt-2 text-down">
          {remove.error.message}
        </p>
      )}
      <div className="mt-4 flex flex-wrap gap-2">
        <Button kind="danger" isBusy={remove.isPending} onClick={() => go(false)}>
          {waiting > 0 ? "Remove it; they still go out" : "Remove it"}
        </Button>
        {waiting > 0 && can("plan.publish") && (
          <Button kind="danger" isBusy={remove.isPending} onClick={() => go(true)}>
            Remove it and make them drafts
          </Button>
        )}
      </div>
    </Sheet>
  );
}
