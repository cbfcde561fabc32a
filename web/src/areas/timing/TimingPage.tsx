import { useRef } from "react";
import { Link, useLocation, useNavigate, useSearchParams } from "react-router";
import { ProblemError } from "../../api/client";
import { FigureValue } from "../../figures/FigureValue";
import { SaveAs } from "../../figures/SaveAs";
import { moment, nextHourOfWeek } from "../../lib/days";
import { figure, percent, plural } from "../../lib/format";
import { useSize } from "../../lib/useSize";
import { useBrand } from "../../study/brand";
import { AskForIdea } from "../../study/KeepIdea";
import { useHasProfiles } from "../../study/NothingYet";
import { useAddress, useAsTable } from "../../study/useAddress";
import { Choice } from "../../ui/Choice";
import { Empty, Failed, Loading, While } from "../../ui/States";
import { FormSwitch, TableForm } from "../../ui/TableForm";
import { useToast } from "../../ui/Toast";
import { placeOn, WeekDrawing } from "./DayDrawing";
import { DayStrip, STRIP_HEIGHT } from "./DayStrip";
import { HeldChart } from "./HeldChart";
import { QuestionSentence } from "./QuestionSentence";
import { type PlannedTick, useMovePost, useWeek, type Week } from "./queries";
import { questionIn } from "./question";
import { Ranked } from "./Ranked";
import {
  apartWords,
  axisReach,
  clockName,
  clockWords,
  groupsWords,
  headline,
  heldSentence,
  hourName,
  isByPosts,
  otherClocks,
  ownWay,
  postsBehind,
  STANDS_IN,
  stretchName,
  stretchWords,
} from "./rules";
import { NoOwnProfile, TimingFrame } from "./TimingFrame";
import { useDrag } from "./useDrag";

/** When to publish: what each hour of the week is worth, how sure that is, whether it held, and where we miss it. */
export function TimingPage() {
  const { brand } = useBrand();
  const [params] = useSearchParams();
  const found = useWeek(brand.slug, questionIn(params));
  const hasOwn = useHasProfiles("own");
  const isNobody = found.error instanceof ProblemError && found.error.status === 404 && hasOwn === false;
  return (
    <TimingFrame actions={found.data && <Actions week={found.data} />}>
      {isNobody ? (
        <NoOwnProfile>
          Then each hour of the week stands here: what it is worth, how sure that is, and where we miss it.
        </NoOwnProfile>
      ) : found.error ? (
        <Failed error={found.error} onRetry={() => found.refetch()} />
      ) : !found.data ? (
        <Loading what="Working out the week" lines={8} />
      ) : (
        <While isOld={found.isPlaceholderData}>
          <QuestionSentence week={found.data} />
          <WeekView week={found.data} />
        </While>
      )}
    </TimingFrame>
  );
}

/** The parameters by which its figures are asked for. */
function figuresOf(week: Week) {
  return {
    kind: "timing.hours",
    params: { profile: week.chosen.map((p) => p.id).join(","), of: week.of, zone: week.zone },
  };
}

function Actions({ week }: { week: Week }) {
  const [isTable, setTable] = useAsTable();
  const { params, set } = useAddress();
  const isRanked = params.get("read") === "ranked";
  const box = useRef<HTMLDivElement>(null);
  return (
    <>
      {!isTable && (
        <button
          type="button"
          aria-pressed={isRanked}
          className="under hover:text-berry"
          onClick={() => set("read", isRanked ? null : "ranked")}
        >
          {isRanked ? "as a week" : "ranked"}
        </button>
      )}
      <FormSwitch isTable={isTable} onChange={setTable} />
      <SaveAs
        name="hours"
        table={figuresOf(week)}
        chart={{
          box,
          title: headline(week),
          definition: `Index of a post by its hour, 1.00 the usual, with its 80 % band, on a log scale; hours of ${week.zone}. Dashed: audience online. Below: posts.`,
        }}
      />
      <div ref={box} className="sr-only" aria-hidden="true">
        <WeekDrawing week={week} width={820} height={STRIP_HEIGHT} reach={axisReach(week)} />
      </div>
    </>
  );
}

function WeekView({ week }: { week: Week }) {
  const { brand, now, can } = useBrand();
  const navigate = useNavigate();
  const say = useToast();
  const [measure, { width }] = useSize<HTMLDivElement>();
  const box = useRef<HTMLDivElement>(null);
  const move = useMovePost(brand.slug);
  const { params } = useAddress();
  const [isTable] = useAsTable();
  const isRanked = params.get("read") === "ranked" && !isTable;
  const own = week.chosen.filter((profile) => profile.is_own);
  const mayDraft = can("plan.write") && own.length > 0;
  const draft = (at: string) => navigate(`/${brand.slug}/plan/new?profile=${own[0]?.id}&at=${encodeURIComponent(at)}`);
  const put = (planned: PlannedTick, hour: number) => {
    const at = nextHourOfWeek(hour, week.zone, now);
    move.mutate(
      { id: planned.id, edition: planned.edition, scheduled_at: at },
      {
        onSuccess: () => say(`Moved to ${moment(at, brand.time_zone)}.`),
        onError: (error) => say(error.message, "wrong"),
      },
    );
  };
  const { dragged, grab } = useDrag(box, width, STRIP_HEIGHT, put);
  const reach = axisReach(week);
  const of = figuresOf(week);
  const who = groupsWords(week.groups);
  return (
    <div className="grid min-h-0 flex-1 grid-cols-[minmax(0,7fr)_minmax(310px,3fr)]">
      <section className="min-w-0 overflow-y-auto border-r border-rule px-5 py-3" aria-labelledby="week-title">
        <h1 id="week-title" className="text-[18px] leading-6">
          {headline(week)}
        </h1>
        <p className="label">
          {STANDS_IN[week.stands_by] && `${STANDS_IN[week.stands_by]}. `}
          Filled from 1.00, the usual: index of a post by its hour, with its 80 % band, on a log scale. Dashed: audience
          online{week.presence ? (who && week.groups.length > 1 ? `, ${who} (thin)` : "") : " (not told here)"}. Below:
          posts. Flags: free hours. Brackets: missed. Shaded: crowded.{week.planned.length > 0 && " Rings: planned."}
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
        {isRanked && (
          <Ranked week={week} of={of} onHour={mayDraft ? (h) => draft(nextHourOfWeek(h, week.zone, now)) : undefined} />
        )}
        <div ref={measure} className={isTable || isRanked ? "hidden" : "mt-2"}>
          <div ref={box}>
            {width > 0 &&
              [0, 1, 2, 3, 4, 5, 6].map((day) => (
                <DayStrip
                  key={day}
                  week={week}
                  day={day}
                  width={width}
                  reach={reach}
                  canChange={mayDraft}
                  dragged={dragged}
                  onGrab={can("plan.write") ? grab : undefined}
                  onHour={(hour) => draft(nextHourOfWeek(hour, week.zone, now))}
                />
              ))}
          </div>
          {width > 0 && (
            <svg width={width} height="18" aria-hidden="true">
              {(width < 480 ? [0, 6, 12, 18, 24] : [0, 3, 6, 9, 12, 15, 18, 21, 24]).map((hour) => (
                <text
                  key={hour}
                  x={placeOn(width, STRIP_HEIGHT).x(hour)}
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
          {width >= 480 &&
            otherClocks(week).map((clock) => <OtherClock key={clock.zone} clock={clock} width={width} />)}
        </div>
      </section>
      <section className="min-w-0 overflow-y-auto px-5 py-3" aria-labelledby="gaps-title">
        <Gaps week={week} onDraft={mayDraft ? (hour) => draft(nextHourOfWeek(hour, week.zone, now)) : undefined} />
        <PlannedHere week={week} onMove={can("plan.write") ? put : undefined} />
        <h2 className="mt-5 text-[16px]">Does it hold?</h2>
        <p className="mt-1">{heldSentence(week.held)}</p>
        {week.held && week.held.gain !== null && (
          <p className="label">
            Gain{" "}
            <FigureValue {...of} kind="timing.held" cell="the best hours.gain" label="the gain on newer weeks">
              {figure(week.held.gain, "index")}
            </FigureValue>
            , where the older weeks promised {figure(week.held.claimed, "index")}
          </p>
        )}
        {week.held && <HeldChart held={week.held} />}
        {week.held && week.held.thirds.length > 0 && (
          <p className="label">
            Thirds of the newer posts by what was said of their hours: ring said, bar came (95 %). Worked out{" "}
            {moment(week.made_at, brand.time_zone)}
            {week.is_stale && "; newer figures are being taken in"}.
          </p>
        )}
        <h2 className="mt-5 text-[16px]">How sure is this?</h2>
        <p className="mt-1">
          {!isByPosts(week)
            ? "Nothing is claimed yet. Posting at different hours is how the week is learnt."
            : week.has_effect
              ? `From ${postsBehind(week)}. The data are ${week.odds && week.odds > 1000 ? "more than 1,000" : figure(week.odds)} times likelier with an effect of the hour than without.${ownWay(week)}`
              : `From ${postsBehind(week)}. The data are about as likely without any effect of the hour${week.presence ? ", so the curve leans on when the audience is online" : ""}. Posting at other hours than usual would tell more.`}
        </p>
        <FreeHours week={week} of={of} onDraft={mayDraft ? draft : undefined} />
        {week.groups_by && week.groups.length > 1 && <p className="label mt-4">Who is there, by {week.groups_by}.</p>}
        {own.length === 1 && (
          <p className="mt-4">
            <Link
              to={`/${brand.slug}/results/posts?profile=${own[0]?.id}&sort=-index`}
              className="under hover:text-berry"
            >
              The posts behind it
            </Link>
          </p>
        )}
      </section>
    </div>
  );
}

/** The same hours by the clock of a part of the audience, as on Monday; its words tell when that changes within the week. */
function OtherClock({ clock, width }: { clock: ReturnType<typeof otherClocks>[number]; width: number }) {
  return (
    <>
      <svg width={width} height="15" aria-hidden="true">
        {[0, 3, 6, 9, 12, 15, 18, 21].map((hour) => (
          <text
            key={hour}
            x={placeOn(width, STRIP_HEIGHT).x(hour)}
            y="11"
            fontSize="11.5"
            textAnchor="middle"
            fill="var(--muted)"
          >
            {clockName((hour + (clock.ahead[0] ?? 0) + 24) % 24)}
          </text>
        ))}
      </svg>
      <p className="label">{clockWords(clock)}</p>
    </>
  );
}

function Gaps({ week, onDraft }: { week: Week; onDraft?: (hour: number) => void }) {
  const { search } = useLocation();
  const apart = apartWords(week);
  return (
    <>
      <h2 id="gaps-title" className="text-[18px] leading-6">
        Hours we miss
      </h2>
      {apart && <p>{apart}</p>}
      {week.missed.length === 0 && (
        <p className="label">
          {week.hours.length ? "None: where the index is high, or many are there, posts are." : "Not known yet."}
        </p>
      )}
      <ul>
        {week.missed.map((gap) => (
          <li key={gap.first} className="rowline flex items-center justify-between gap-3 py-1.5">
            <span>
              <span className="font-semibold">{stretchName(gap)}</span>
              <span className="label block">
                {stretchWords(gap)}; {gap.posts === 0 ? "no post" : plural(gap.posts, "post")} in 12 weeks
              </span>
            </span>
            {onDraft && (
              <span className="flex flex-col items-end">
                <button
                  type="button"
                  onClick={() => onDraft(gap.first + Math.floor(gap.hours / 2))}
                  className="under h-7 font-semibold hover:text-berry"
                  aria-label={`Draft for ${stretchName(gap)}`}
                >
                  draft
                </button>
                <AskForIdea
                  words="idea"
                  begun={{
                    title: `Something for ${stretchName(gap)}`,
                    note: `${stretchWords(gap)}; ${gap.posts === 0 ? "no post" : plural(gap.posts, "post")} in 12 weeks`,
                    origin: { origin: "hour", view: `timing${search}` },
                  }}
                />
              </span>
            )}
          </li>
        ))}
      </ul>
      {week.crowded.length > 0 && (
        <>
          <h2 className="mt-4 text-[16px]">Hours that are crowded</h2>
          <ul>
            {week.crowded.map((gap) => (
              <li key={gap.first} className="rowline py-1.5">
                <span className="font-semibold">{stretchName(gap)}</span>
                <span className="label block">
                  {plural(gap.posts, "post")} in 12 weeks; {stretchWords(gap)}
                </span>
              </li>
            ))}
          </ul>
        </>
      )}
    </>
  );
}

/** What is planned in the coming week, each with where it could go instead; the same as dragging it. */
function PlannedHere({ week, onMove }: { week: Week; onMove?: (planned: PlannedTick, hour: number) => void }) {
  const { brand } = useBrand();
  if (week.planned.length === 0) return null;
  const places = [
    ...week.missed.map((gap) => ({ hour: gap.first + Math.floor(gap.hours / 2), hint: "missed" })),
    ...week.free.map((slot) => ({ hour: slot.hour, hint: "free" })),
  ];
  const unique = places.filter((p, i) => places.findIndex((q) => q.hour === p.hour) === i);
  const crowded = new Set(week.crowded.flatMap((g) => Array.from({ length: g.hours }, (_, i) => g.first + i)));
  return (
    <>
      <h2 className="mt-4 text-[16px]">Planned in the next seven days</h2>
      <ul>
        {week.planned.map((one) => (
          <li key={`${one.id}-${one.profile_id}`} className="rowline flex items-center justify-between gap-3 py-1.5">
            <Link to={`/${brand.slug}/plan/${one.id}`} className="min-w-0 hover:text-berry">
              <span className="font-semibold">{hourName(one.hour)}</span> <span>{one.title || "untitled"}</span>
              <span className="label block">
                index {figure(week.hours[Math.floor(one.hour)]?.index, "index")}
                {crowded.has(Math.floor(one.hour)) && ", a crowded hour"}
              </span>
            </Link>
            {onMove && unique.length > 0 && (
              <Choice
                label={`Move ${one.title || "this post"} from ${hourName(one.hour)}`}
                value=""
                options={unique.map((p) => ({
                  value: String(p.hour),
                  label: hourName(p.hour),
                  hint: `${p.hint}, ${figure(week.hours[Math.floor(p.hour)]?.index, "index")}`,
                }))}
                onChoose={(hour) => onMove(one, Number(hour))}
              >
                move
              </Choice>
            )}
          </li>
        ))}
      </ul>
    </>
  );
}

type FreeProps = { week: Week; of: ReturnType<typeof figuresOf>; onDraft?: (at: string) => void };

function FreeHours({ week, of, onDraft }: FreeProps) {
  return (
    <>
      <h2 className="mt-5 text-[16px]">Free hours of the coming week</h2>
      <p className="label mb-1">
        Best in sum, six hours apart, at most two a day, none from 23:00 to 07:00, none beside what is planned.
      </p>
      {week.free.length === 0 ? (
        <Empty title="No free hour">The rules leave none.</Empty>
      ) : (
        <ol>
          {week.free.map((slot) => (
            <li key={slot.at} className="rowline flex items-center justify-between gap-3 py-1.5">
              <span>
                <span className="font-semibold">{moment(slot.at, week.zone)}</span>
                <span className="label block">
                  <FigureValue {...of} cell={String(Math.floor(slot.hour))} label={`index, ${hourName(slot.hour)}`}>
                    {figure(slot.index, "index")}
                  </FigureValue>{" "}
                  ({figure(slot.low80, "index")}–{figure(slot.high80, "index")}), {slot.certainty}
                  {week.presence && `, presence ${percent(week.presence[Math.floor(slot.hour)] ?? 0)}`}
                </span>
              </span>
              {onDraft && (
                <button
                  type="button"
                  onClick={() => onDraft(slot.at)}
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
    </>
  );
}
