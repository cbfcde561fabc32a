import { useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import type { Schemas } from "../../api/client";
import { CourseChart } from "../../charts/CourseChart";
import { SaveAs } from "../../figures/SaveAs";
import { moment, shortDay, WEEKDAYS } from "../../lib/days";
import { figure, percent, plural, since } from "../../lib/format";
import { useBrand, useNetwork } from "../../study/brand";
import { Button } from "../../ui/Button";
import { NetworkMark, StateWord } from "../../ui/Marks";
import { Sheet } from "../../ui/Sheet";
import { Failed, Loading, Notice } from "../../ui/States";
import { useToast } from "../../ui/Toast";
import { Coverage, CoverageKey } from "./Coverage";
import { isOpen, useCollect, useConnect, useProfile, useStopFollowing } from "./queries";
import { DIMENSION_NAMES, sharePoints } from "./rules";
import { SourcesBar } from "./SourcesBar";
import { RunLine } from "./SourcesPage";

type Detail = Schemas["ProfileDetail"];

/** One profile: what is known of it, how complete that is, who its audience is, what people write. */
export function ProfilePage() {
  const { brand } = useBrand();
  const id = Number(useParams().profile);
  const found = useProfile(brand.slug, id);
  return (
    <>
      <SourcesBar />
      {found.error ? (
        <Failed error={found.error} onRetry={() => found.refetch()} />
      ) : !found.data ? (
        <Loading what="Loading the profile" lines={9} />
      ) : (
        <View detail={found.data} />
      )}
    </>
  );
}

function View({ detail }: { detail: Detail }) {
  const { brand, can } = useBrand();
  const canChange = can("sources.follow");
  const p = detail.profile;
  const network = useNetwork(p.network);
  const collect = useCollect(brand.slug);
  const connect = useConnect(brand.slug);
  const [isLeaving, setLeaving] = useState(false);
  const isRunning = detail.runs.some(isOpen);
  return (
    <div className="grid min-h-0 flex-1 grid-cols-[minmax(0,3fr)_minmax(0,2fr)]">
      <section className="min-w-0 overflow-y-auto border-r border-rule px-5 py-3">
        <div className="flex items-start gap-3">
          <img src={p.picture || undefined} alt="" width="44" height="44" className="h-11 w-11 bg-rule" />
          <div className="min-w-0 flex-1">
            <h1 className="truncate text-[19px] leading-6">
              {p.name} on {network.name}
            </h1>
            <p className="label flex items-center gap-2">
              <NetworkMark network={network} />
              {p.is_from_file ? "from files" : `@${p.handle}`}
              {p.competitor ? `, ${p.competitor}` : ", ours"}; {figure(p.followers)} followers,{" "}
              {plural(p.post_count, "post")}, {plural(detail.reading_count, "reading")}
              {!p.has_history && !p.is_from_file && "; older posts are still being brought"}
            </p>
          </div>
          {canChange && (
            <span className="flex gap-2">
              {!p.is_from_file && (
                <Button isBusy={collect.isPending} disabled={isRunning} onClick={() => collect.mutate(p.id)}>
                  {isRunning ? "Being collected" : "Collect now"}
                </Button>
              )}
              <Button onClick={() => setLeaving(true)}>{p.kind === "own" ? "Disconnect" : "Stop following"}</Button>
            </span>
          )}
        </div>
        {(collect.error ?? connect.error) && (
          <div className="mt-3">
            <Notice kind="wrong">{(collect.error ?? connect.error)?.message}</Notice>
          </div>
        )}
        {detail.troubles.map((trouble) => (
          <p key={trouble.kind} className="mt-2 flex items-baseline gap-2">
            <StateWord tone={trouble.kind === "hole" ? "quiet" : "wrong"}>{trouble.text}</StateWord>
            <span className="text-muted">{trouble.advice}</span>
            {canChange && trouble.act === "renew" && (
              <Button kind="quiet" onClick={() => connect.mutate({ network: p.network, renews: p.id })}>
                renew
              </Button>
            )}
          </p>
        ))}
        <h2 className="mt-4 text-[16px]">The last 90 days</h2>
        <Coverage first={detail.coverage.first} days={detail.coverage.days} width={560} />
        <CoverageKey />
        <Followers detail={detail} />
        <Audience dimensions={detail.audience} profile={p.id} />
        {detail.online && <Online hours={detail.online} />}
        {detail.audience.length === 0 && !detail.online && (
          <p className="label mt-4">
            {p.kind === "own"
              ? `${network.name} tells nothing of who the audience is or when it is online.`
              : "Who their audience is, no network tells of other people's profiles."}
          </p>
        )}
      </section>
      <section className="min-w-0 overflow-y-auto px-5 py-3">
        <h2 className="text-[16px]">Collections</h2>
        {detail.runs.length === 0 && <p className="label">None: its data come from files.</p>}
        <ul>
          {detail.runs.slice(0, 6).map((run) => (
            <RunLine key={run.id} run={run} hasProfile={false} />
          ))}
        </ul>
        {p.kind === "own" && network.offer.has_comments && <Comments detail={detail} />}
      </section>
      <Sheet
        form="dialog"
        isOpen={isLeaving}
        onClose={() => setLeaving(false)}
        title={p.kind === "own" ? `Disconnect ${p.name}?` : `Stop following ${p.name}?`}
      >
        <Leaving detail={detail} onDone={() => setLeaving(false)} />
      </Sheet>
    </div>
  );
}

function Leaving({ detail, onDone }: { detail: Detail; onDone: () => void }) {
  const { brand } = useBrand();
  const p = detail.profile;
  const stop = useStopFollowing(brand.slug);
  const navigate = useNavigate();
  const say = useToast();
  const [erase, setErase] = useState(false);
  return (
    <form
      className="flex flex-col gap-4"
      onSubmit={(event) => {
        event.preventDefault();
        stop.mutate(
          { id: p.id, erase },
          {
            onSuccess: () => {
              say(erase ? `${p.name} is being erased.` : `${p.name} is no longer collected. Its history stays.`);
              onDone();
              navigate(`/${brand.slug}/sources`);
            },
          },
        );
      }}
    >
      {stop.error && <Notice kind="wrong">{stop.error.message}</Notice>}
      <p>
        {p.kind === "own"
          ? "The authorisation is given back to the network, and nothing is collected or published any more."
          : "Nothing more is collected of it."}{" "}
        What was collected stays, and connecting it again goes on from there.
      </p>
      <label className="flex items-start gap-2">
        <input
          type="checkbox"
          checked={erase}
          onChange={(e) => setErase(e.target.checked)}
          className="mt-0.5 h-4 w-4 accent-[var(--berry)]"
        />
        <span>
          Erase the history as well: {plural(p.post_count, "post")}, {plural(detail.reading_count, "reading")},{" "}
          {plural(detail.comment_count, "comment")}. This cannot be undone.
        </span>
      </label>
      <Button kind={erase ? "danger" : "main"} type="submit" isBusy={stop.isPending} className="self-start">
        {erase
          ? "Stop and erase everything"
          : p.kind === "own"
            ? "Disconnect, keep the history"
            : "Stop, keep the history"}
      </Button>
    </form>
  );
}

function Followers({ detail }: { detail: Detail }) {
  const days = detail.days;
  const known = days.filter((d) => d.followers !== null);
  if (known.length < 2) return null;
  const gained = days.reduce((a, d) => a + (d.gained ?? 0), 0);
  const lost = days.reduce((a, d) => a + (d.lost ?? 0), 0);
  const hasMoves = days.some((d) => d.gained !== null);
  return (
    <>
      <div className="mt-5 flex items-baseline justify-between gap-4">
        <h2 className="text-[16px]">
          {hasMoves
            ? `${figure(gained)} followers gained and ${figure(lost)} lost in these days`
            : `Followers went from ${figure(known[0]?.followers)} to ${figure(known.at(-1)?.followers)}`}
        </h2>
        {detail.profile.kind === "own" ? (
          <SaveAs
            name="followers"
            table={{ kind: "results.course", params: { metrics: "followers,gained_followers,lost_followers" } }}
            report={{ kind: "results.course", params: { metrics: "followers" }, drawing: "course" }}
            narrow={{ profile: String(detail.profile.id) }}
          />
        ) : (
          <SaveAs
            name="followers"
            table={{ kind: "competitors.followers", params: { of_profile: String(detail.profile.id) } }}
            report={{
              kind: "competitors.followers",
              params: { of_profile: String(detail.profile.id) },
              drawing: "course",
            }}
          />
        )}
      </div>
      <CourseChart
        label="Followers"
        unit="count"
        days={days.map((d) => d.day)}
        now={days.map((d) => (hasMoves ? (d.gained ?? null) : d.followers))}
        before={hasMoves ? days.map((d) => d.lost) : []}
        height={140}
      />
      {hasMoves && <p className="label">Solid: gained by day. Dashed: lost.</p>}
    </>
  );
}

function Audience({ dimensions, profile }: { dimensions: Detail["audience"]; profile: number }) {
  if (dimensions.length === 0) return null;
  const first = dimensions[0];
  return (
    <>
      <div className="mt-5 flex items-baseline justify-between gap-4">
        <h2 className="text-[16px]">Who the audience is</h2>
        <SaveAs
          name="audience"
          table={{ kind: "results.audience" }}
          report={{ kind: "results.audience", drawing: "bars" }}
          narrow={{ profile: String(profile) }}
        />
      </div>
      {first && (
        <p className="label">
          Shares on {shortDay(first.last)}
          {first.first !== first.last &&
            `; beside them the change since ${shortDay(first.first)}, in percentage points`}
        </p>
      )}
      <div className="mt-1 grid grid-cols-2 gap-x-8 gap-y-4 min-[1500px]:grid-cols-3">
        {dimensions.map((d) => (
          <table key={d.dimension} className="w-full self-start">
            <caption className="py-1 text-left font-semibold">{DIMENSION_NAMES[d.dimension] ?? d.dimension}</caption>
            <tbody>
              {d.segments.slice(0, 8).map((s) => (
                <tr key={s.name} className="rowline h-[26px]">
                  <th scope="row" className="relative max-w-0 truncate text-left font-normal">
                    <span
                      className="absolute inset-y-[5px] left-0 bg-q2"
                      style={{ width: `${Math.min(100, s.share * 160)}%` }}
                      aria-hidden="true"
                    />
                    <span className="relative pl-1">{s.name}</span>
                  </th>
                  <td className="w-14 text-right font-semibold">{percent(s.share)}</td>
                  <td className="w-16 text-right text-muted">{sharePoints(s.share, s.before)}</td>
                </tr>
              ))}
            </tbody>
          </table>
        ))}
      </div>
    </>
  );
}

/** When the audience is online, as seven lines of an hour's steps; its own week is under Timing. */
function Online({ hours }: { hours: number[] }) {
  const { brand } = useBrand();
  const most = Math.max(1, ...hours);
  const at = hours.indexOf(most);
  return (
    <>
      <h2 className="mt-5 text-[16px]">
        Most are online {WEEKDAYS[Math.floor(at / 24)]} around {String(at % 24).padStart(2, "0")}:00 UTC
      </h2>
      <svg
        viewBox="0 0 672 60"
        className="mt-1 w-full max-w-[640px]"
        role="img"
        aria-label="Audience online by hour of the week, UTC"
      >
        {WEEKDAYS.map((day, d) => (
          <g key={day}>
            <line x1={d * 96} x2={d * 96} y1="0" y2="46" stroke="var(--rule)" />
            <text x={d * 96 + 4} y="58" fontSize="11" fill="var(--muted)">
              {day}
            </text>
          </g>
        ))}
        <path
          d={`M0 46${hours.map((v, i) => `L${(i + 0.5) * 4} ${(46 - (v / most) * 42).toFixed(1)}`).join("")}L672 46z`}
          fill="var(--q3)"
          opacity="0.6"
        />
        <line x1="0" x2="672" y1="46" y2="46" stroke="var(--rule-strong)" />
      </svg>
      <Link to={`/${brand.slug}/timing`} className="under font-semibold hover:text-berry">
        The week in the brand's time zone, under Timing
      </Link>
    </>
  );
}

function Comments({ detail }: { detail: Detail }) {
  const { brand } = useBrand();
  return (
    <>
      <h2 className="mt-6 text-[16px]">{plural(detail.comment_count, "comment")}, the newest first</h2>
      {detail.comments.length === 0 && <p className="label">Nobody has written yet.</p>}
      <ul>
        {detail.comments.map((c) => (
          <li key={c.id} className="rowline py-1.5">
            <span className="flex items-baseline gap-2">
              <span className="font-semibold">{c.author}</span>
              <span className="label">{moment(c.written_at, brand.time_zone)}</span>
              {c.removed_at && <span className="label">taken away {since(c.removed_at, new Date())}</span>}
            </span>
            <span className={`block ${c.removed_at ? "text-muted line-through" : ""}`}>{c.text}</span>
            <Link
              to={`/${brand.slug}/results/posts/${c.post_id}`}
              className="label under block truncate hover:text-berry"
            >
              {c.post}
            </Link>
          </li>
        ))}
      </ul>
    </>
  );
}
