import { ChevronLeft, ChevronRight } from "lucide-react";
import { useState } from "react";
import { Link, useSearchParams } from "react-router";
import { SaveAs } from "../../figures/SaveAs";
import { addDays, daysBetween, monthName, nextMonth, spanText } from "../../lib/days";
import { plural } from "../../lib/format";
import { networkNamed, useBrand } from "../../study/brand";
import { MinuteLine } from "../../study/line/MinuteLine";
import { useProfiles } from "../../study/queries";
import { Failed, Loading } from "../../ui/States";
import { useExpectedPlan, weekWords } from "../foresight";
import { useSlots } from "../timing";
import { Aside } from "./Aside";
import { DayGrid } from "./DayGrid";
import { Filters } from "./Filters";
import { GoingOut } from "./GoingOut";
import { ListView } from "./ListView";
import { MonthView } from "./MonthView";
import { usePlan } from "./queries";
import { useToReview } from "./review/queries";
import { chosenIn, daysOf, VIEWS, type View, weekDays } from "./rules";
import { SlotsView } from "./SlotsView";
import { useMoving } from "./useMoving";

const NAMES: Record<View, string> = { month: "month", week: "week", day: "day", list: "list", slots: "slots" };
const isDay = (told: string | null): told is string => told !== null && /^\d{4}-\d\d-\d\d$/.test(told);

/** What is planned, and beside it what was published and how it did: by month, week, day, or as a list. */
export function PlanPage() {
  const { brand, networks, today, can } = useBrand();
  const canChange = can("plan.write");
  const [params, setParams] = useSearchParams();
  const given = params.get("day") ?? params.get("week");
  const anchor = isDay(given) ? given : today;
  const [isNarrow] = useState(() => window.matchMedia?.("(max-width: 999px)").matches ?? false);
  const asked = params.get("view");
  const view: View = VIEWS.find((one) => one === asked) ?? (isNarrow ? "list" : "week");
  const days = daysOf(view, anchor, brand.first_weekday);
  const [first, last] = [days[0] as string, days.at(-1) as string];
  const chosen = chosenIn(params);
  // What takes a slot takes it, whatever else is chosen to be shown: slots are filtered by their profile alone.
  const plan = usePlan(brand.slug, first, last, view === "slots" ? {} : chosen);
  const [weekFirst, weekLast] = [
    weekDays(anchor, brand.first_weekday)[0] as string,
    weekDays(anchor, brand.first_weekday)[6] as string,
  ];
  const isWeek = view === "week" || view === "day";
  const expected = useExpectedPlan(brand.slug, isWeek ? weekFirst : first, isWeek ? weekLast : last).data;
  const moving = useMoving();
  const toReview = useToReview(brand.slug).data;
  const own = (useProfiles(brand.slug).data?.profiles ?? []).filter((p) => p.kind === "own");
  const slots = useSlots(
    brand.slug,
    isWeek && last >= today ? own.map((p) => p.id) : [],
    Math.min(60, Math.max(1, daysBetween(today, last) + 1)),
  ).data;
  const free = (slots ?? [])
    .filter((slot) => !slot.is_taken)
    .map((slot) => {
      const profile = own.find((p) => p.id === slot.profile);
      return { at: slot.at, profile: slot.profile, name: profile ? networkNamed(networks, profile.network).name : "" };
    });
  const put = (patch: Record<string, string | null>) =>
    setParams((old) => {
      const next = new URLSearchParams(old);
      next.delete("week");
      for (const [name, value] of Object.entries(patch)) {
        if (value === null) next.delete(name);
        else next.set(name, value);
      }
      return next;
    });
  const go = (by: 1 | -1) => put({ day: stepped(view, anchor, by) });
  const planned = plan.data?.planned ?? [];
  const waiting = planned.filter((p) => p.state === "scheduled").length;
  const title = view === "month" ? monthName(anchor) : spanText(first, last);
  const drawn = {
    days,
    planned,
    plan: plan.data,
    expected: expected?.posts ?? [],
    moving,
    onDay: (day: string) => put({ view: "day", day }),
  };
  return (
    <>
      <MinuteLine turned="future" hasBrush={false} />
      <div className="flex min-h-[34px] flex-wrap items-center gap-x-3 border-b border-rule px-5 narrow:px-3">
        <button
          type="button"
          aria-label={`The ${NAMES[view]} before`}
          onClick={() => go(-1)}
          className="p-1 hover:text-berry"
        >
          <ChevronLeft size={16} />
        </button>
        <h1 className="min-w-[118px] text-[16px]">{title}</h1>
        <button
          type="button"
          aria-label={`The ${NAMES[view]} after`}
          onClick={() => go(1)}
          className="p-1 hover:text-berry"
        >
          <ChevronRight size={16} />
        </button>
        <button type="button" onClick={() => put({ day: null })} className="under h-6 hover:text-berry">
          today
        </button>
        <div className="flex">
          {VIEWS.map((one) => (
            <button
              key={one}
              type="button"
              aria-pressed={view === one}
              onClick={() => put({ view: one })}
              className="h-7 px-2 aria-pressed:border-b-2 aria-pressed:border-berry"
            >
              {NAMES[one]}
            </button>
          ))}
        </div>
        <Filters chosen={chosen} onChange={put} />
        <span className="text-muted">{plural(waiting, "post")} scheduled</span>
        {isWeek &&
          expected?.weeks.map((week) => (
            <span key={week.monday} className="min-w-0 truncate" title="Expected by seven days after each, 80 %">
              {weekWords(week)}
            </span>
          ))}
        <span className="ml-auto flex flex-wrap items-center gap-x-3 gap-y-1 whitespace-nowrap">
          {(toReview?.length ?? 0) > 0 && (
            <Link to={`/${brand.slug}/plan/review`} className="under font-semibold text-berry">
              {plural(toReview?.length ?? 0, "post")} for your yes
            </Link>
          )}
          <SaveAs
            name="plan"
            table={{ kind: "plan.calendar", params: { ahead: "four_weeks" } }}
            report={{ kind: "plan.calendar", params: { ahead: "two_weeks" }, drawing: "calendar" }}
          />
          <Link to={`/${brand.slug}/plan/ideas`} className="under hover:text-berry">
            Ideas
          </Link>
          <Link to={`/${brand.slug}/plan/tasks`} className="under hover:text-berry">
            To do
          </Link>
          <Link to={`/${brand.slug}/timing/rhythm`} className="under hover:text-berry">
            Rhythm
          </Link>
          <Link to={`/${brand.slug}/plan/hashtags`} className="under hover:text-berry">
            Hashtags
          </Link>
          <Link to={`/${brand.slug}/plan/campaigns`} className="under hover:text-berry">
            Campaigns
          </Link>
          <Link to={`/${brand.slug}/plan/many`} className="under hover:text-berry">
            Many
          </Link>
          <Link to={`/${brand.slug}/plan/rules`} className="under hover:text-berry">
            By rule
          </Link>
          <Link to={`/${brand.slug}/plan/feed`} className="under hover:text-berry">
            Own feed
          </Link>
          <Link to={`/${brand.slug}/plan/files`} className="under hover:text-berry">
            Files
          </Link>
          {canChange && (
            <Link
              to={`/${brand.slug}/plan/new`}
              className="inline-flex h-7 items-center rounded-[2px] bg-berry px-3 font-semibold text-on-berry hover:opacity-90"
            >
              Write a post
            </Link>
          )}
        </span>
      </div>
      <GoingOut />
      {plan.error ? (
        <Failed error={plan.error} onRetry={() => plan.refetch()} />
      ) : !plan.data ? (
        <Loading what="Loading the plan" />
      ) : (
        <div className="grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)_216px]">
          {view === "month" ? (
            <MonthView {...drawn} anchor={anchor} />
          ) : view === "slots" ? (
            <SlotsView days={days} plan={plan.data} profiles={own.filter((p) => isChosen(p, chosen))} />
          ) : view === "list" ? (
            <ListView {...drawn} />
          ) : (
            <DayGrid {...drawn} slots={canChange ? free : []} />
          )}
          <Aside plan={plan.data} today={today} first={first} last={last} moving={moving} />
        </div>
      )}
    </>
  );
}

const isChosen = (p: { id: number; network: string }, { profiles = [], networks = [] }: ReturnType<typeof chosenIn>) =>
  (profiles.length === 0 || profiles.includes(p.id)) && (networks.length === 0 || networks.includes(p.network));

/** The day that the view stands at one step on. */
function stepped(view: View, anchor: string, by: 1 | -1): string {
  if (view === "month") return by === 1 ? nextMonth(anchor) : addDays(`${anchor.slice(0, 7)}-01`, -1);
  if (view === "list") return addDays(anchor, by * 28);
  return addDays(anchor, by * (view === "day" ? 1 : 7));
}
