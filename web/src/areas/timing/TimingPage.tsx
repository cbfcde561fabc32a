import { Link, useNavigate, useSearchParams } from "react-router";
import { FigureValue } from "../../figures/FigureValue";
import { SaveAs } from "../../figures/SaveAs";
import { moment, nextHourOfWeek } from "../../lib/days";
import { figure, plural } from "../../lib/format";
import { useSize } from "../../lib/useSize";
import { networkNamed, useBrand, useNetwork } from "../../study/brand";
import { MinuteLine } from "../../study/line/MinuteLine";
import { ageName } from "../../study/study";
import { useAsTable } from "../../study/useAddress";
import { Choice } from "../../ui/Choice";
import { NetworkMark } from "../../ui/Marks";
import { Empty, Failed, Loading } from "../../ui/States";
import { FormSwitch, TableForm } from "../../ui/TableForm";
import { DayStrip } from "./DayStrip";
import { useWeek, type Week } from "./queries";
import { axisReach, headline, hourName, missedHours, ownWay, postsBehind } from "./rules";

export function TimingPage() {
  const { brand, networks } = useBrand();
  const [params, setParams] = useSearchParams();
  const profile = Number(params.get("profile")) || undefined;
  const zone = params.get("zone") ?? undefined;
  const found = useWeek(brand.slug, profile, zone);
  const set = (name: string, value: string) =>
    setParams((old) => {
      const next = new URLSearchParams(old);
      next.set(name, value);
      return next;
    });
  const week = found.data;
  const nameOf = (key: string) => networkNamed(networks, key).name;
  return (
    <>
      <MinuteLine hasBrush={false} turned="future" />
      <div className="flex h-[34px] items-center border-b border-rule px-5 narrow:h-auto narrow:px-3 narrow:py-1.5">
        {week && (
          <p className="truncate narrow:whitespace-normal">
            The week of{" "}
            <Choice
              label="Profile"
              value={String(week.profile.id)}
              options={week.profiles.map((p) => ({
                value: String(p.id),
                label: p.name,
                hint: `${nameOf(p.network)}${p.is_own ? ", us" : ""}`,
              }))}
              onChoose={(value) => set("profile", value)}
            >
              {week.profile.name} on {nameOf(week.profile.network)}
            </Choice>
            , hours of{" "}
            <Choice
              label="Time zone"
              value={week.zone}
              options={[
                { value: week.brand_zone, label: week.brand_zone, hint: "the brand's" },
                ...week.zones
                  .filter((z) => z.zone !== week.brand_zone)
                  .map((z) => ({
                    value: z.zone,
                    label: z.zone,
                    hint: `${Math.round(z.share * 100)} % of the audience`,
                  })),
              ]}
              onChoose={(value) => set("zone", value)}
            >
              {week.zone}
            </Choice>
            , posts of half a year {ageName(week.age_hours)}
            {week.untimed > 0 && `; ${plural(week.untimed, "post")} left out, whose time of day is not known`}
          </p>
        )}
      </div>
      {found.error ? (
        <Failed error={found.error} onRetry={() => found.refetch()} />
      ) : !week ? (
        <Loading what="Working out the week" lines={8} />
      ) : (
        <WeekView week={week} />
      )}
    </>
  );
}

function WeekView({ week }: { week: Week }) {
  const { brand, now, can } = useBrand();
  const canChange = can("plan.write");
  const navigate = useNavigate();
  const [measure, { width }] = useSize<HTMLDivElement>();
  const network = useNetwork(week.profile.network);
  const mayDraft = canChange && week.profile.is_own;
  const draft = (at: string) =>
    navigate(`/${brand.slug}/plan/new?profile=${week.profile.id}&at=${encodeURIComponent(at)}`);
  const reach = axisReach(week);
  const missed = missedHours(week);
  const of = { kind: "timing.hours", params: { profile: week.profile.id, zone: week.zone } };
  const [isTable, setTable] = useAsTable();
  return (
    <div className="grid min-h-0 flex-1 grid-cols-[minmax(0,7fr)_minmax(300px,3fr)]">
      <section className="min-w-0 overflow-y-auto border-r border-rule px-5 py-3" aria-labelledby="week-title">
        <div className="flex items-baseline justify-between gap-4 narrow:flex-wrap">
          <h1 id="week-title" className="text-[18px] leading-6">
            {headline(week)}
          </h1>
          {week.hours.length > 0 && (
            <span className="flex items-baseline gap-4">
              <SaveAs name="hours" table={of} />
              <FormSwitch isTable={isTable} onChange={setTable} />
            </span>
          )}
        </div>
        <p className="label">
          Filled from 1.00, the usual: index of a post by its hour, with its 80 % band, on a log scale. Dashed: audience
          online
          {week.presence ? "" : " (not told for this profile)"}. Below: posts of half a year. Flags: proposals.
        </p>
        {isTable && (
          <TableForm
            caption={`Index by hour of the week, ${week.zone}`}
            head={["Hour", "Index", "80 % from", "to", "How sure", "Posts nearby", "Audience online"]}
            rows={week.hours.map((h, i) => [
              hourName(i),
              <FigureValue key="index" {...of} cell={String(i)} label={`index, ${hourName(i)}`}>
                {figure(h.index, "index")}
              </FigureValue>,
              figure(h.low80, "index"),
              figure(h.high80, "index"),
              h.certainty,
              h.nearby,
              week.presence ? `${Math.round((week.presence[i] ?? 0) * 100)} %` : figure(null),
            ])}
          />
        )}
        <div ref={measure} className={isTable ? "hidden" : "mt-2"}>
          {width > 0 &&
            [0, 1, 2, 3, 4, 5, 6].map((day) => (
              <DayStrip
                key={day}
                week={week}
                day={day}
                width={width}
                reach={reach}
                canChange={mayDraft}
                onHour={(hour) => draft(nextHourOfWeek(hour, week.zone, now))}
              />
            ))}
          {width > 0 && (
            <svg width={width} height="18" aria-hidden="true">
              {(width < 480 ? [0, 6, 12, 18, 24] : [0, 3, 6, 9, 12, 15, 18, 21, 24]).map((hour) => (
                <text
                  key={hour}
                  x={44 + (hour / 24) * (width - 78)}
                  y="13"
                  fontSize="12"
                  textAnchor="middle"
                  fill="var(--muted)"
                >
                  {String(hour).padStart(2, "0")}:00
                </text>
              ))}
            </svg>
          )}
        </div>
      </section>
      <section className="min-w-0 overflow-y-auto px-5 py-3" aria-labelledby="slots-title">
        <h2 id="slots-title" className="text-[18px] leading-6">
          Free hours of the coming week
        </h2>
        <p className="label mb-2">
          Best in sum, six hours apart, at most two a day, none from 23:00 to 07:00, none beside what is planned.
        </p>
        {week.proposals.length === 0 ? (
          <Empty title="No proposal">
            {week.hours.length === 0
              ? "It takes 30 posts with figures. Until then, post at different hours: that is how the week is learnt."
              : "The rules leave no free hour."}
          </Empty>
        ) : (
          <ol>
            {week.proposals.map((slot) => (
              <li key={slot.at} className="rowline flex items-center justify-between gap-3 py-1.5">
                <span>
                  <span className="font-semibold">{moment(slot.at, week.zone)}</span>
                  <span className="label block">
                    <FigureValue {...of} cell={String(Math.floor(slot.hour))} label={`index, ${hourName(slot.hour)}`}>
                      {figure(slot.index, "index")}
                    </FigureValue>{" "}
                    ({figure(slot.low80, "index")}–{figure(slot.high80, "index")}), {slot.certainty}
                  </span>
                </span>
                {mayDraft && (
                  <button
                    type="button"
                    onClick={() => draft(slot.at)}
                    className="under h-7 font-semibold hover:text-berry"
                    aria-label={`Draft for ${moment(slot.at, week.zone)}`}
                  >
                    draft
                  </button>
                )}
              </li>
            ))}
          </ol>
        )}
        <h2 className="mt-5 text-[16px]">How sure is this?</h2>
        <p className="mt-1">
          {week.hours.length === 0
            ? `${plural(week.posts_used, "post")} with figures; it takes 30.`
            : week.has_effect
              ? `From ${postsBehind(week)}. The data are ${week.odds && week.odds > 1000 ? "more than 1,000" : figure(week.odds)} times likelier with an effect of the hour than without.${ownWay(week)}`
              : `From ${postsBehind(week)}. The data are about as likely without any effect of the hour${week.presence ? ", so the curve leans on when the audience is online" : ""}. Posting at other hours than usual would tell more.`}
        </p>
        {missed.length > 0 && (
          <>
            <h2 className="mt-5 text-[16px]">Hours we never use</h2>
            <p className="mt-1">
              Many are online around {missed.map((m) => hourName(m.hour)).join(", ")}, yet no post of half a year went
              out then.
            </p>
          </>
        )}
        <p className="mt-5">
          <span className="inline-flex items-center gap-2">
            <NetworkMark network={network} />
            <Link
              to={`/${brand.slug}/results/posts?profile=${week.profile.id}&sort=-index`}
              className="under hover:text-berry"
            >
              The posts behind it
            </Link>
          </span>
        </p>
      </section>
    </div>
  );
}
