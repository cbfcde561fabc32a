import { useState } from "react";
import { Link, useNavigate } from "react-router";
import { shortDay } from "../../../lib/days";
import { useBrand } from "../../../study/brand";
import { MinuteLine } from "../../../study/line/MinuteLine";
import { useCampaigns } from "../../../study/queries";
import { Button } from "../../../ui/Button";
import { Empty, Failed, Loading } from "../../../ui/States";
import { CampaignSheet } from "./CampaignSheet";
import { GOALS, shareOver } from "./rules";

/** All campaigns: when they run, and what each is for. */
export function CampaignsPage() {
  const { brand, today, can } = useBrand();
  const campaigns = useCampaigns(brand.slug);
  const navigate = useNavigate();
  const [isNew, setNew] = useState(false);
  return (
    <>
      <MinuteLine turned="future" hasBrush={false} />
      <div className="flex min-h-[34px] items-center gap-3 border-b border-rule px-5 narrow:px-3">
        <Link to={`/${brand.slug}/plan`} className="under hover:text-berry">
          Calendar
        </Link>
        <h1 className="text-[16px]">Campaigns</h1>
        {can("brand.campaigns") && (
          <span className="ml-auto">
            <Button kind="main" onClick={() => setNew(true)}>
              A new campaign
            </Button>
          </span>
        )}
      </div>
      <section className="min-h-0 flex-1 overflow-y-auto px-5 py-3 narrow:px-3" aria-label="Campaigns">
        {campaigns.error ? (
          <Failed error={campaigns.error} onRetry={() => campaigns.refetch()} />
        ) : !campaigns.data ? (
          <Loading what="Loading the campaigns" />
        ) : campaigns.data.length === 0 ? (
          <Empty title="There is no campaign yet">
            A campaign groups posts over networks, with dates, a colour and what it is to reach.
          </Empty>
        ) : (
          <ul className="max-w-[760px]">
            {campaigns.data.map((one) => {
              const over = shareOver(one, today);
              const goal = GOALS[one.goal_metric ?? ""];
              return (
                <li key={one.id} className="rowline">
                  <Link
                    to={`/${brand.slug}/plan/campaigns/${one.id}`}
                    className="flex items-baseline gap-3 py-2 hover:text-berry"
                  >
                    <span
                      className="h-[3px] w-6 shrink-0 self-center"
                      style={{ background: `var(--tag-${one.colour}, var(--berry))` }}
                    />
                    <span className="min-w-0 flex-1">
                      <span className="font-semibold">{one.name}</span>
                      <span className="label block">
                        {shortDay(one.first_day)} to {shortDay(one.last_day)}
                        {over === 0 ? ", to come" : over === 1 ? ", over" : ", running"}
                      </span>
                    </span>
                    <span className="label">
                      {goal && one.goal_amount
                        ? `to reach ${Math.round(one.goal_amount).toLocaleString("en-GB")} ${goal.name}`
                        : "no goal"}
                    </span>
                  </Link>
                </li>
              );
            })}
          </ul>
        )}
      </section>
      <CampaignSheet
        isOpen={isNew}
        onClose={() => setNew(false)}
        onKept={(made) => navigate(`/${brand.slug}/plan/campaigns/${made.id}`)}
      />
    </>
  );
}
