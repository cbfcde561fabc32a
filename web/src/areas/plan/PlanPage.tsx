import { ChevronLeft, ChevronRight } from "lucide-react";
import { useEffect, useRef } from "react";
import { Link, useNavigate, useSearchParams } from "react-router";
import { addDays, at, shortDay, spanText, timeOf, WEEKDAYS, weekday } from "../../lib/days";
import { figure, plural, short } from "../../lib/format";
import { networkNamed, useBrand } from "../../study/brand";
import { MinuteLine } from "../../study/line/MinuteLine";
import { Cut } from "../../ui/Cut";
import { NetworkMark, StateWord } from "../../ui/Marks";
import { Failed, Loading } from "../../ui/States";
import { expectationWords, useExpectedPlan, weekWords } from "../foresight";
import { type Planned, usePlan } from "./queries";
import { onDay, place, STATE_WORDS, weekDays } from "./rules";

const HOUR = 34;

/** The week: what is planned, and beside it what was published and how it did. A click on an hour starts a post. */
export function PlanPage() {
  const { brand, today, can } = useBrand();
  const canChange = can("plan.write");
  const [params, setParams] = useSearchParams();
  const given = params.get("week");
  const days = weekDays(given && /^\d{4}-\d\d-\d\d$/.test(given) ? given : today, brand.first_weekday);
  const [first, last] = [days[0] as string, days[6] as string];
  const plan = usePlan(brand.slug, first, last);
  const go = (by: number) => setParams({ week: addDays(first, by) });
  const expected = useExpectedPlan(brand.slug, first, last).data;
  const planned = plan.data?.planned ?? [];
  const waiting = planned.filter((p) => p.state === "scheduled").length;
  const wrong = planned.filter((p) => p.state === "failed" || p.state === "missed");
  return (
    <>
      <MinuteLine turned="future" hasBrush={false} />
      <div className="flex h-[34px] items-center gap-3 border-b border-rule px-5 narrow:h-auto narrow:flex-wrap narrow:px-3 narrow:py-1">
        <button type="button" aria-label="The week before" onClick={() => go(-7)} className="p-1 hover:text-berry">
          <ChevronLeft size={16} />
        </button>
        <h1 className="text-[16px]">{spanText(first, last)}</h1>
        <button type="button" aria-label="The week after" onClick={() => go(7)} className="p-1 hover:text-berry">
          <ChevronRight size={16} />
        </button>
        <button type="button" onClick={() => setParams({})} className="under h-6 hover:text-berry">
          this week
        </button>
        <span className="text-muted">
          {plural(waiting, "post")} scheduled, hours of {brand.time_zone}
        </span>
        {wrong.length > 0 && (
          <span className="font-semibold text-down">
            {plural(wrong.length, "post")} not published: open it to see why
          </span>
        )}
        {expected?.weeks.map((week) => (
          <span key={week.monday} className="min-w-0 truncate" title="Expected by seven days after each, 80 %">
            {weekWords(week)}
          </span>
        ))}
        {canChange && (
          <Link
            to={`/${brand.slug}/plan/new`}
            className="ml-auto inline-flex h-7 items-center rounded-[2px] bg-berry px-3 font-semibold text-on-berry hover:opacity-90"
          >
            Write a post
          </Link>
        )}
      </div>
      {plan.error ? (
        <Failed error={plan.error} onRetry={() => plan.refetch()} />
      ) : !plan.data ? (
        <Loading what="Loading the plan" />
      ) : (
        <div className="grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)_216px]">
          <Week days={days} planned={planned} published={plan.data.published} expected={expected?.posts ?? []} />
          <section className="min-w-0 overflow-y-auto border-l border-rule px-4 py-2" aria-labelledby="drafts-title">
            <h2 id="drafts-title" className="text-[16px]">
              Drafts without a time
            </h2>
            {plan.data.drafts.length === 0 && (
              <p className="label mt-1">None. What is saved without a time waits here.</p>
            )}
            {plan.data.drafts.map((p) => (
              <Link key={p.id} to={`/${brand.slug}/plan/${p.id}`} className="rowline block py-1.5 hover:text-berry">
                <Cut className="font-semibold">{p.title || "Untitled"}</Cut>
                <span className="label line-clamp-2">
                  {p.state === "idea" && <span className="text-berry">idea{p.note && ": "}</span>}
                  {p.versions[0]?.text || p.note}
                </span>
              </Link>
            ))}
          </section>
        </div>
      )}
    </>
  );
}

type Expected = NonNullable<ReturnType<typeof useExpectedPlan>["data"]>["posts"];
type Published = { id: number; at: string; network: string; text: string; index: number | null };

type WeekProps = { days: string[]; planned: Planned[]; published: Published[]; expected: Expected };

function Week({ days, planned, published, expected }: WeekProps) {
  const { brand, now, today, can } = useBrand();
  const canChange = can("plan.write");
  const zone = brand.time_zone;
  const navigate = useNavigate();
  const scroll = useRef<HTMLDivElement>(null);
  useEffect(() => {
    if (scroll.current) scroll.current.scrollTop = 7.5 * HOUR;
  }, []);
  const start = (day: string, hour: number) => {
    const time = `${String(Math.floor(hour)).padStart(2, "0")}:${hour % 1 >= 0.5 ? "30" : "00"}`;
    const when = at(day, time, zone);
    if (canChange && Date.parse(when) > now.getTime())
      navigate(`/${brand.slug}/plan/new?at=${encodeURIComponent(when)}`);
  };
  return (
    <div
      ref={scroll}
      className="scrolls relative min-w-0 overflow-y-auto narrow:h-[75vh] narrow:overflow-x-auto"
      role="region"
      aria-label="Week"
      tabIndex={0}
    >
      <div className="stays sticky top-0 z-10 grid grid-cols-[44px_repeat(7,minmax(0,1fr))] narrow:min-w-[820px] border-b border-rule-strong bg-paper">
        <span />
        {days.map((day) => (
          <div
            key={day}
            className={`border-l border-rule px-2 py-1 ${day === today ? "font-semibold text-berry" : ""}`}
          >
            {WEEKDAYS[weekday(day) - 1]} {shortDay(day)}
          </div>
        ))}
      </div>
      <div
        className="stays relative grid grid-cols-[44px_repeat(7,minmax(0,1fr))] narrow:min-w-[820px]"
        style={{ height: 24 * HOUR }}
      >
        <div className="relative">
          {Array.from({ length: 23 }, (_, i) => i + 1).map((hour) => (
            <span key={hour} className="label absolute right-2 -translate-y-1/2" style={{ top: hour * HOUR }}>
              {String(hour).padStart(2, "0")}
            </span>
          ))}
        </div>
        {days.map((day) => {
          const entries = [
            ...onDay<Planned | Published>(planned, (p) => ("versions" in p ? p.scheduled_at : null), day, zone),
            ...onDay<Planned | Published>(published, (p) => ("at" in p ? p.at : null), day, zone),
          ];
          return (
            // biome-ignore lint/a11y/noStaticElementInteractions: "Write a post" offers the same by keyboard
            // biome-ignore lint/a11y/useKeyWithClickEvents: "Write a post" offers the same by keyboard
            <div
              key={day}
              className={`relative border-l border-rule ${day < today ? "bg-panel/50" : "cursor-copy"}`}
              style={{
                backgroundImage: `repeating-linear-gradient(to bottom, transparent 0 ${HOUR - 1}px, var(--rule) ${HOUR - 1}px ${HOUR}px)`,
              }}
              onClick={(event) => {
                if (event.target === event.currentTarget)
                  start(day, (event.clientY - event.currentTarget.getBoundingClientRect().top) / HOUR);
              }}
            >
              {day === today && (
                <div
                  className="pointer-events-none absolute inset-x-0 z-[5] border-t-2 border-berry"
                  style={{
                    top:
                      (Number(timeOf(now.toISOString(), zone).slice(0, 2)) +
                        Number(timeOf(now.toISOString(), zone).slice(3)) / 60) *
                      HOUR,
                  }}
                />
              )}
              {place(entries, zone, HOUR).map(({ item, top, column, columns }) => (
                <div
                  key={"versions" in item ? `p${item.id}` : `x${item.id}`}
                  className="absolute px-0.5"
                  style={{ top, left: `${(column / columns) * 100}%`, width: `${100 / columns}%` }}
                >
                  {"versions" in item ? (
                    <PlannedChip
                      planned={item}
                      zone={zone}
                      slug={brand.slug}
                      expected={expected.find((e) => e.id === item.id)}
                    />
                  ) : (
                    <PublishedChip post={item} slug={brand.slug} />
                  )}
                </div>
              ))}
            </div>
          );
        })}
      </div>
    </div>
  );
}

type ChipProps = { planned: Planned; zone: string; slug: string; expected?: Expected[number] };

function PlannedChip({ planned, zone, slug, expected }: ChipProps) {
  const { networks } = useBrand();
  const state = STATE_WORDS[planned.state] ?? { word: planned.state, tone: "quiet" as const };
  const edge =
    planned.state === "draft"
      ? "border-dashed border-rule-strong"
      : state.tone === "wrong"
        ? "border-down"
        : state.tone === "good"
          ? "border-up"
          : "border-berry";
  return (
    <Link
      to={`/${slug}/plan/${planned.id}`}
      className={`block h-[33px] overflow-hidden border border-l-[3px] bg-panel px-1 text-[12px] leading-[15px] hover:bg-wash ${edge}`}
      title={[planned.versions[0]?.text, ...expectedLines(expected, planned, networks)].filter(Boolean).join("\n")}
    >
      <Cut className="font-semibold">
        {planned.scheduled_at && timeOf(planned.scheduled_at, zone)} {planned.title || planned.versions[0]?.text}
      </Cut>
      <span className="flex items-center gap-1 truncate">
        {planned.versions.map((v) => (
          <span key={v.id} className="text-muted">
            {networkNamed(networks, v.network).monogram}
          </span>
        ))}
        <StateWord tone={state.tone}>{state.word}</StateWord>
        {sumOf(expected) !== null && <span className="ml-auto text-muted">≈ {short(sumOf(expected) ?? 0)}</span>}
      </span>
    </Link>
  );
}

/** The middles of what each of its profiles is expected to bring, added up; null where none is known. */
function sumOf(expected: Expected[number] | undefined): number | null {
  const known = (expected?.profiles ?? []).map((p) => p.expected.interactions?.value).filter((v) => v !== undefined);
  return known.length ? known.reduce((a, b) => a + b, 0) : null;
}

function expectedLines(
  expected: Expected[number] | undefined,
  planned: Planned,
  networks: Parameters<typeof networkNamed>[0],
): string[] {
  return (expected?.profiles ?? []).map((p) => {
    const version = planned.versions.find((v) => v.profile_id === p.profile);
    const network = version ? networkNamed(networks, version.network).name : "";
    return `${network}: ${expectationWords(p.expected.interactions)} interactions expected`;
  });
}

function PublishedChip({ post, slug }: { post: Published; slug: string }) {
  const { networks } = useBrand();
  const network = networkNamed(networks, post.network);
  return (
    <Link
      to={`/${slug}/results/posts/${post.id}`}
      className="flex h-6 items-center gap-1 overflow-hidden bg-paper text-[12px] text-muted hover:text-ink"
      title={`${post.text}${post.index === null ? "" : ` · index ${figure(post.index, "index")}`}`}
    >
      <NetworkMark network={network} />
      <Cut>{post.index === null ? post.text : `${figure(post.index, "index")} ${post.text}`}</Cut>
    </Link>
  );
}
