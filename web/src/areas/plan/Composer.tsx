import { useDeferredValue, useEffect, useState } from "react";
import { Link, useNavigate } from "react-router";
import type { ProblemError, Schemas } from "../../api/client";
import { at, dayOf, moment, timeOf } from "../../lib/days";
import { networkNamed, useBrand } from "../../study/brand";
import { useCampaigns, useSession } from "../../study/queries";
import { Button } from "../../ui/Button";
import { Check } from "../../ui/Check";
import { DateField } from "../../ui/DateField";
import { Field } from "../../ui/Field";
import { NetworkMark, StateWord } from "../../ui/Marks";
import { Sheet } from "../../ui/Sheet";
import { Notice } from "../../ui/States";
import { TimeField } from "../../ui/TimeField";
import { useToast } from "../../ui/Toast";
import { MakeLinkForm, type TrackedLink, useMakeLinks } from "../links";
import { Differences } from "./Differences";
import { placeOf } from "./drafts";
import { Hours } from "./Hours";
import { type Planned, useChecks, useDeletePost, useSavePost, useSchedulePost, useTakeBack } from "./queries";
import { type Draft, EDITABLE, SENT, STATE_WORDS, textFor, withLink } from "./rules";
import { draftOf, useDraft } from "./useDraft";
import { VersionEditor } from "./VersionEditor";

type Props = {
  planned?: Planned;
  begin: () => Draft;
  given?: Partial<Draft>;
  profiles: Schemas["Profile"][];
};

/** Write once, a version for each profile; checked by each network's rules as one types; out at a good minute. */
export function Composer({ planned, begin, given, profiles }: Props) {
  const { brand, now, today, can } = useBrand();
  const canChange = can("plan.write");
  const zone = brand.time_zone;
  const navigate = useNavigate();
  const say = useToast();
  const person = useSession().data?.email ?? "";
  const place = placeOf(person, brand.slug, planned ? String(planned.id) : "new");
  const kept = useDraft(place, { begin, given });
  const { draft, change, settle, isTouched } = kept;
  const isBehind = planned !== undefined && draft.edition !== undefined && planned.edition > draft.edition;
  useEffect(() => {
    // Nothing was typed here: what somebody else saved is simply shown.
    if (planned && isBehind && !isTouched) settle(draftOf(planned, zone, today));
  }, [planned, isBehind, isTouched, settle, zone, today]);
  const [linkFor, setLinkFor] = useState<Schemas["Profile"] | null>(null);
  const campaigns = useCampaigns(brand.slug);
  const chosen = profiles.filter((p) => draft.profiles.includes(p.id));
  const others = chosen.filter((p) => p.id !== linkFor?.id && !draft.links[p.id]);
  const putIn = (made: [Schemas["Profile"], TrackedLink][]) => {
    const own = { ...draft.own };
    const links = { ...draft.links };
    for (const [profile, link] of made) {
      own[profile.id] = withLink(textFor(draft, profile.id), link.short);
      links[profile.id] = link.id;
    }
    change({ own, links });
  };
  const versions = chosen.map((p) => ({ profile_id: p.id, text: textFor(draft, p.id) }));
  const checks = useChecks(brand.slug, useDeferredValue(versions));
  const save = useSavePost(brand.slug);
  const schedule = useSchedulePost(brand.slug);
  const takeBack = useTakeBack(brand.slug);
  const remove = useDeletePost(brand.slug);
  const makeLinks = useMakeLinks(brand.slug);
  const [isLinkForAll, setLinkForAll] = useState(true);
  const canPublish = can("plan.publish");
  // What is set to go out is changed by those who may say that it does.
  const isEditable =
    canChange && (!planned || (EDITABLE.has(planned.state) && (canPublish || planned.state !== "scheduled")));
  const sent = new Set(planned?.versions.filter((v) => SENT.has(v.state)).map((v) => v.profile_id));
  const problem = (save.error ?? schedule.error ?? takeBack.error ?? remove.error) as ProblemError | null;
  const isBlocked = checks.data?.some((c) => c.problems.some((p) => p.is_blocking)) ?? false;
  const when = draft.day && draft.time ? safely(() => at(draft.day, draft.time, zone)) : null;
  const isPast = when !== null && Date.parse(when) < Date.now() - 60_000 && now.getTime() > Date.parse(when);
  const body = (withTime: boolean) => ({
    title: draft.title,
    campaign_id: draft.campaign ?? null,
    scheduled_at: withTime ? when : null,
    edition: draft.edition,
    versions: versions.map((v) => ({ ...v, link_id: draft.links[v.profile_id] ?? null })),
  });
  const keep = async (withTime: boolean) => {
    const saved = await save.mutateAsync({ id: planned?.id, body: body(withTime) });
    settle({ ...draft, edition: saved.edition });
    return saved;
  };
  const act = (what: () => Promise<unknown>) => {
    for (const m of [save, schedule, takeBack, remove]) m.reset();
    what().catch(() => undefined);
  };
  return (
    <div className="grid min-h-0 flex-1 grid-cols-[minmax(0,3fr)_minmax(320px,2fr)]">
      <section className="min-w-0 overflow-y-auto border-r border-rule px-5 py-3" aria-label="Text">
        <h1 className="text-[18px]">{planned ? draft.title || "Planned post" : "A new post"}</h1>
        {problem && (
          <div className="my-2">
            <Notice kind="wrong">{problem.message}</Notice>
          </div>
        )}
        {planned && isBehind && isTouched && (
          <Differences
            mine={draft}
            theirs={draftOf(planned, zone, today)}
            names={{
              profiles: Object.fromEntries(profiles.map((p) => [p.id, p.name])),
              campaigns: Object.fromEntries((campaigns.data ?? []).map((c) => [c.id, c.name])),
            }}
            onTheirs={() => {
              save.reset();
              settle(draftOf(planned, zone, today));
            }}
            onMine={() => {
              save.reset();
              change({ edition: planned.edition });
            }}
          />
        )}
        {isEditable && <Left kept={kept} />}
        {planned && <Fate planned={planned} />}
        <div className="mt-3 grid grid-cols-2 gap-4">
          <Field label="Working title" help="For the calendar; not published">
            {(props) => (
              <input
                {...props}
                disabled={!isEditable}
                value={draft.title}
                maxLength={200}
                onChange={(e) => change({ title: e.target.value })}
              />
            )}
          </Field>
          <Field label="Campaign" help="Its name goes into the links' parameters">
            {(props) => (
              <select
                {...props}
                disabled={!isEditable}
                value={draft.campaign ?? ""}
                onChange={(e) => change({ campaign: Number(e.target.value) || undefined })}
              >
                <option value="">none</option>
                {campaigns.data?.map((c) => (
                  <option key={c.id} value={c.id}>
                    {c.name}
                  </option>
                ))}
              </select>
            )}
          </Field>
        </div>
        <fieldset className="mt-4" disabled={!isEditable}>
          <legend className="text-[13px] font-semibold">Publish on</legend>
          <div className="mt-1 flex flex-wrap gap-x-5">
            {profiles.map((p) => (
              <ProfileBox
                key={p.id}
                profile={p}
                isOn={draft.profiles.includes(p.id)}
                isSent={sent.has(p.id)}
                onChange={(on) =>
                  change({ profiles: on ? [...draft.profiles, p.id] : draft.profiles.filter((id) => id !== p.id) })
                }
              />
            ))}
            {profiles.length === 0 && (
              <Link to={`/${brand.slug}/sources`} className="under">
                Connect a profile first
              </Link>
            )}
          </div>
        </fieldset>
        {chosen.map((profile, i) => (
          <VersionEditor
            key={profile.id}
            profile={profile}
            text={textFor(draft, profile.id)}
            isOwn={draft.own[profile.id] !== undefined}
            isFirst={i === 0}
            isEditable={isEditable && !sent.has(profile.id)}
            check={checks.data?.find((c) => c.profile_id === profile.id)}
            onText={(text) =>
              i === 0 && draft.own[profile.id] === undefined
                ? change({ shared: text })
                : change({ own: { ...draft.own, [profile.id]: text } })
            }
            onShared={() => {
              const { [profile.id]: _, ...own } = draft.own;
              change({ own });
            }}
            onLink={() => setLinkFor(profile)}
          />
        ))}
      </section>
      <section className="min-w-0 overflow-y-auto px-5 py-3" aria-labelledby="when-title">
        <h2 id="when-title" className="text-[18px]">
          When
        </h2>
        <p className="label">Hours of {zone}.</p>
        <div className="mt-2 grid grid-cols-2 gap-3">
          <Field label="Day" error={problem?.fields.scheduled_at}>
            {(props) => (
              <DateField
                {...props}
                disabled={!isEditable}
                today={today}
                value={draft.day}
                onChange={(day) => change({ day })}
              />
            )}
          </Field>
          <Field label="Time">
            {(props) => (
              <TimeField {...props} disabled={!isEditable} value={draft.time} onChange={(time) => change({ time })} />
            )}
          </Field>
        </div>
        <Hours
          profiles={chosen}
          texts={Object.fromEntries(versions.map((v) => [v.profile_id, v.text]))}
          campaign={draft.campaign}
          when={when}
          onWhen={isEditable ? (at) => change({ day: dayOf(at, zone), time: timeOf(at, zone) }) : undefined}
        />
        {canChange && (
          <div className="mt-5 flex flex-wrap items-center gap-2 border-t border-rule pt-4">
            {isEditable && (
              <>
                {canPublish ? (
                  <Button
                    kind="main"
                    disabled={isBlocked || !when || isPast || chosen.length === 0}
                    isBusy={save.isPending || schedule.isPending}
                    onClick={() =>
                      act(async () => {
                        const saved = await keep(true);
                        const done = await schedule.mutateAsync({ id: saved.id, at: when, edition: saved.edition });
                        say(`Scheduled for ${moment(done.scheduled_at ?? "", zone)}.`);
                        navigate(`/${brand.slug}/plan?week=${draft.day}`);
                      })
                    }
                  >
                    {when ? `Schedule for ${moment(when, zone)}` : "Schedule"}
                  </Button>
                ) : (
                  <span className="label">Keep it as a draft: somebody who may publish sets its time.</span>
                )}
                <Button
                  disabled={save.isPending}
                  onClick={() =>
                    act(async () => {
                      const saved = await keep(planned?.state === "scheduled");
                      say("Saved.");
                      if (!planned) navigate(`/${brand.slug}/plan/${saved.id}`, { replace: true });
                    })
                  }
                >
                  {planned?.state === "scheduled" ? "Save changes" : "Save as draft"}
                </Button>
                {canPublish && (
                  <Button
                    disabled={isBlocked || chosen.length === 0}
                    onClick={() =>
                      act(async () => {
                        const saved = await keep(true);
                        await schedule.mutateAsync({ id: saved.id, at: null, edition: saved.edition });
                        say("It is being published.");
                        navigate(`/${brand.slug}/plan/${saved.id}`, { replace: true });
                      })
                    }
                  >
                    Publish now
                  </Button>
                )}
              </>
            )}
            {canPublish && planned?.state === "scheduled" && (
              <Button
                onClick={() =>
                  act(async () => {
                    await takeBack.mutateAsync(planned.id);
                    say("It is a draft again.");
                  })
                }
              >
                Take back
              </Button>
            )}
            {planned && isEditable && (
              <Button
                kind="danger"
                onClick={() =>
                  act(async () => {
                    await remove.mutateAsync(planned.id);
                    settle();
                    say("The planned post is thrown away.");
                    navigate(`/${brand.slug}/plan`);
                  })
                }
              >
                Throw away
              </Button>
            )}
          </div>
        )}
        {isPast && <p className="mt-2 text-down">This time has passed. Choose a later one.</p>}
        {isTouched && isEditable && (
          <p className={kept.isKept ? "label mt-2" : "mt-2 text-down"}>
            {kept.isKept
              ? "Not saved yet; kept in this browser."
              : "Not saved yet, and this browser keeps nothing: save it before you leave."}
          </p>
        )}
      </section>
      <Sheet
        isOpen={linkFor !== null}
        onClose={() => setLinkFor(null)}
        title={`A tracked link for ${linkFor?.name ?? ""}`}
      >
        {linkFor && (
          <>
            {others.length > 0 && (
              <div className="mb-3">
                <Check
                  isOn={isLinkForAll}
                  onChange={setLinkForAll}
                  help="So that clicks from each network are told apart."
                >
                  A link of its own for each version
                </Check>
              </div>
            )}
            <MakeLinkForm
              isShort
              network={linkFor.network}
              campaignId={draft.campaign}
              onMade={(link) => {
                putIn([[linkFor, link]]);
                setLinkFor(null);
                if (!isLinkForAll || others.length === 0) return;
                const rows = others.map((p) => ({
                  destination: link.destination,
                  name: link.name,
                  network: p.network,
                  profile_id: p.id,
                  campaign_id: draft.campaign ?? null,
                  code: "",
                  keeps_query: true,
                }));
                makeLinks.mutate(rows, {
                  onSuccess: (made) =>
                    putIn([
                      [linkFor, link],
                      ...others.map((p, i): [Schemas["Profile"], TrackedLink] => [p, made[i] as TrackedLink]),
                    ]),
                  onError: (error) => say(error.message, "wrong"),
                });
              }}
            />
          </>
        )}
      </Sheet>
    </div>
  );
}

function safely<T>(make: () => T): T | null {
  try {
    return make();
  } catch {
    return null;
  }
}

function ProfileBox({
  profile,
  isOn,
  isSent,
  onChange,
}: {
  profile: Schemas["Profile"];
  isOn: boolean;
  isSent: boolean;
  onChange: (on: boolean) => void;
}) {
  const { networks } = useBrand();
  const network = networkNamed(networks, profile.network);
  return (
    <label className="inline-flex h-8 cursor-pointer items-center gap-2">
      <input
        type="checkbox"
        checked={isOn}
        disabled={isSent}
        onChange={(e) => onChange(e.target.checked)}
        className="h-4 w-4 accent-[var(--berry)]"
      />
      <NetworkMark network={network} />
      {profile.name}
      {profile.authorisation === "lapsed" && <StateWord tone="wrong">lapsed</StateWord>}
    </label>
  );
}

/** What another tab left unsaved at this place: offered, and never thrown away unasked. */
function Left({ kept }: { kept: ReturnType<typeof useDraft> }) {
  const { brand } = useBrand();
  if (kept.others.length === 0) return null;
  return (
    <ul className="my-2 flex flex-col gap-1 border-l-2 border-rule-strong pl-3">
      {kept.others.map((one) => (
        <li key={one.slot} className="flex flex-wrap items-baseline gap-x-3">
          <span className="min-w-0">
            Written in another tab, {moment(new Date(one.at).toISOString(), brand.time_zone)}, not saved:{" "}
            <q>{beginning(one.draft.title || one.draft.shared || Object.values(one.draft.own)[0] || "nothing yet")}</q>
          </span>
          <Button kind="quiet" onClick={() => kept.takeUp(one)}>
            Take it up
          </Button>
          <Button kind="quiet" onClick={() => kept.throwAway(one)}>
            Throw it away
          </Button>
        </li>
      ))}
    </ul>
  );
}

const beginning = (text: string) => (text.length > 60 ? `${text.slice(0, 60).replace(/\s+\S*$/, "")} …` : text);

/** What became of each version. */
function Fate({ planned }: { planned: Planned }) {
  const { brand, networks } = useBrand();
  return (
    <ul className="mt-2 flex flex-col gap-1">
      {planned.versions.map((v) => {
        const state = STATE_WORDS[v.state] ?? { word: v.state, tone: "quiet" as const };
        return (
          <li key={v.id} className="flex flex-wrap items-baseline gap-2">
            <span>{networkNamed(networks, v.network).name}:</span>
            <StateWord tone={state.tone}>{state.word}</StateWord>
            {v.published_at && <span className="text-muted">{moment(v.published_at, brand.time_zone)}</span>}
            {v.post_id && (
              <Link to={`/${brand.slug}/results/posts/${v.post_id}`} className="under hover:text-berry">
                its results
              </Link>
            )}
            {v.error && <span className="text-down">{v.error}</span>}
          </li>
        );
      })}
    </ul>
  );
}
