import { Suspense, useCallback, useDeferredValue, useEffect, useState } from "react";
import { Link, useNavigate } from "react-router";
import type { ProblemError, Schemas } from "../../api/client";
import { at, moment } from "../../lib/days";
import { useBrand } from "../../study/brand";
import { useCampaigns, useSession, useTags } from "../../study/queries";
import { Button } from "../../ui/Button";
import { Check } from "../../ui/Check";
import { Field } from "../../ui/Field";
import { Sheet } from "../../ui/Sheet";
import { Loading, Notice } from "../../ui/States";
import { useToast } from "../../ui/Toast";
import { MakeLinkForm, type TrackedLink, useMakeLinks } from "../links";
import { useAssetsOf } from "../media";
import { Actions } from "./Actions";
import { Differences } from "./Differences";
import { asNow, placeOf } from "./drafts";
import { Fate } from "./Fate";
import { Tray } from "./hashtags/Tray";
import { AlsoOnSite } from "./ownFeed/AlsoOnSite";
import { Preview } from "./Preview";
import { type Planned, useChecks, useDeletePost, useSavePost, useSchedulePost, useTakeBack } from "./queries";
import { useReviewRules, useSubmitPost } from "./review/queries";
import { ReviewPanel } from "./review/ReviewPanel";
import { contentOf, type Draft, EDITABLE, partOf, SENT, textFor, withHashtags, withPage, withPart } from "./rules";
import { TagsWhenOut } from "./TagsWhenOut";
import { draftOf, useDraft } from "./useDraft";
import { useKept } from "./useKept";
import { Versions } from "./Versions";
import { When } from "./When";
import { Writing } from "./Writing";

const SIDES = ["when", "preview", "hashtags", "said"] as const;
type Side = (typeof SIDES)[number];
const SIDE_NAMES: Record<Side, string> = { when: "When", preview: "Preview", hashtags: "Hashtags", said: "Said" };

/** Nobody is asked about these any more: all said yes, or a person has them in hand. */
const PAST_YES = new Set(["approved", "scheduled", "by_hand"]);

type Props = {
  planned?: Planned;
  begin: () => Draft;
  given?: Partial<Draft>;
  profiles: Schemas["Profile"][];
};

/** Write once, differ where a network must; checked by each network's rules as one types; out at a good minute. */
export function Composer({ planned, begin, given, profiles }: Props) {
  const { brand, now, today, can } = useBrand();
  const canChange = can("plan.write");
  const zone = brand.time_zone;
  const navigate = useNavigate();
  const say = useToast();
  const person = useSession().data?.email ?? "";
  const kept = useDraft(placeOf(person, brand.slug, planned ? String(planned.id) : "new"), { begin, given });
  const { draft, change, settle, isTouched } = kept;
  const isBehind = planned !== undefined && draft.edition !== undefined && planned.edition > draft.edition;
  useEffect(() => {
    // Nothing was typed here: what somebody else saved is simply shown.
    if (planned && isBehind && !isTouched) settle(draftOf(planned, zone, today));
  }, [planned, isBehind, isTouched, settle, zone, today]);
  const server = useKept(brand.slug, planned?.id, draft, isTouched, canChange);
  const [at_, setAt] = useState<number | null>(null);
  const [side, setSide] = useState<Side>(planned?.state === "in_review" ? "said" : "when");
  const [tray, setTray] = useState<string[]>([]);
  const [linkFor, setLinkFor] = useState<Schemas["Profile"] | null>(null);
  const campaigns = useCampaigns(brand.slug);
  const tags = useTags(brand.slug);
  const chosen = profiles.filter((p) => draft.profiles.includes(p.id));
  const scope = chosen.find((p) => p.id === at_) ?? null;
  const instantOf = useCallback((day: string, time: string) => safely(() => at(day, time, zone)), [zone]);
  const ids = chosen.map((p) => p.id);
  const content = contentOf(draft, ids, instantOf);
  const checks = useChecks(brand.slug, useDeferredValue(content));
  const save = useSavePost(brand.slug);
  const schedule = useSchedulePost(brand.slug);
  const takeBack = useTakeBack(brand.slug);
  const submit = useSubmitPost(brand.slug);
  const asksFirst = (useReviewRules(brand.slug).data?.steps.length ?? 0) > 0;
  const needsYes = asksFirst && !PAST_YES.has(planned?.state ?? "");
  const remove = useDeletePost(brand.slug);
  const canPublish = can("plan.publish");
  // What is set to go out is changed by those who may say that it does.
  const isEditable =
    canChange && (!planned || (EDITABLE.has(planned.state) && (canPublish || planned.state !== "scheduled")));
  const sent = new Set(planned?.versions.filter((v) => SENT.has(v.state)).map((v) => v.profile_id));
  const problem = (save.error ??
    schedule.error ??
    submit.error ??
    takeBack.error ??
    remove.error) as ProblemError | null;
  // A file that is not looked into yet cannot go out: that is waited for, and said.
  const files = useAssetsOf(brand.slug, [...new Set(ids.flatMap((id) => partOf(draft, id, "media")))]);
  const waitsFor = files.find((one) => one?.state === "checking");
  const isRefused = checks.data?.some((c) => c.problems.some((p) => p.is_blocking)) ?? false;
  const when = draft.day && draft.time ? instantOf(draft.day, draft.time) : null;
  const isPast = when !== null && Date.parse(when) < Date.now() - 60_000 && now.getTime() > Date.parse(when);
  const keep = async (withTime: boolean) => {
    const body = {
      title: draft.title,
      campaign_id: draft.campaign ?? null,
      tags: draft.tags,
      in_own_feed: draft.feed,
      as_push: draft.push,
      scheduled_at: withTime ? when : null,
      edition: draft.edition,
      ...content,
    };
    const saved = await save.mutateAsync({ id: planned?.id, body });
    settle({ ...draft, edition: saved.edition });
    server.leave();
    return saved;
  };
  const takesComment = (checks.data ?? []).some((c) => c.has_first_comment && (!scope || scope.id === c.profile_id));
  const into = (part: "text" | "comment", tags: string[]) =>
    change(
      withPart(draft, scope?.id ?? null, part, withHashtags(scope ? partOf(draft, scope.id, part) : draft[part], tags)),
    );
  const act = (what: () => Promise<unknown>) => {
    for (const m of [save, schedule, submit, takeBack, remove]) m.reset();
    what().catch(() => undefined);
  };
  return (
    <div className="grid min-h-0 flex-1 grid-cols-[236px_minmax(0,1fr)_minmax(330px,390px)]">
      <section className="min-w-0 overflow-y-auto border-r border-rule px-4 py-3" aria-label="Versions">
        <Versions
          draft={draft}
          profiles={profiles}
          checks={checks.data ?? []}
          sent={sent}
          isEditable={isEditable}
          at={scope?.id ?? null}
          onAt={setAt}
          onProfiles={(next) => change({ profiles: next })}
        />
        {profiles.length === 0 && (
          <Link to={`/${brand.slug}/sources`} className="under">
            Connect a profile first
          </Link>
        )}
      </section>
      <section className="min-w-0 overflow-y-auto px-5 py-3" aria-label="Text">
        <h1 className="text-[18px]">{planned ? draft.title || "Planned post" : "A new post"}</h1>
        {problem && (
          <div className="my-2">
            <Notice kind="wrong">{problem.fields.media ?? problem.message}</Notice>
          </div>
        )}
        {server.others.length > 0 && (
          <p role="status" className="text-berry">
            {server.others.join(", ")} {server.others.length === 1 ? "has" : "have"} this post open too.
          </p>
        )}
        {planned && isBehind && isTouched && (
          <Differences
            mine={draft}
            theirs={draftOf(planned, zone, today)}
            names={{
              profiles: Object.fromEntries(profiles.map((p) => [p.id, p.name])),
              campaigns: Object.fromEntries((campaigns.data ?? []).map((c) => [c.id, c.name])),
              tags: Object.fromEntries((tags.data ?? []).map((t) => [t.id, t.name])),
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
        {isEditable && (
          <Left kept={kept} server={isTouched ? null : server.content} onServer={(found) => change(asNow(found))} />
        )}
        {planned && planned.state !== "draft" && planned.state !== "idea" && (
          <Fate planned={planned} isEditable={canPublish} />
        )}
        <div className="mt-2 grid grid-cols-2 gap-4">
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
        <TagsWhenOut tags={draft.tags ?? []} isEditable={isEditable} onTags={(tags) => change({ tags })} />
        <AlsoOnSite asked={draft} isEditable={isEditable} onChange={change} />
        <Writing
          draft={draft}
          scope={scope}
          profiles={chosen}
          check={checks.data?.find((c) => c.profile_id === scope?.id)}
          isEditable={isEditable && !(scope && sent.has(scope.id))}
          change={change}
          onPart={(part, value) => change(withPart(draft, scope?.id ?? null, part, value))}
          onLink={chosen.length > 0 ? () => setLinkFor(scope ?? chosen[0] ?? null) : undefined}
          onHashtags={() => setSide("hashtags")}
        />
      </section>
      <section className="flex min-h-0 min-w-0 flex-col border-l border-rule" aria-label="When and how it will look">
        <div className="flex gap-4 border-b border-rule px-5">
          {(planned ? SIDES : SIDES.slice(0, 3)).map((one) => (
            <button
              key={one}
              type="button"
              aria-pressed={side === one}
              onClick={() => setSide(one)}
              className="h-9 text-[16px] aria-pressed:border-b-2 aria-pressed:border-berry"
            >
              {SIDE_NAMES[one]}
            </button>
          ))}
        </div>
        <div className="min-h-0 flex-1 overflow-y-auto px-5 py-3">
          {side === "said" && planned ? (
            <ReviewPanel key={planned.id} planned={planned.id} />
          ) : side === "hashtags" ? (
            <Tray
              text={scope ? partOf(draft, scope.id, "text") : draft.text}
              profiles={scope ? [scope.id] : ids}
              network={scope?.network ?? null}
              isEditable={isEditable && !(scope && sent.has(scope.id))}
              tray={tray}
              onTray={setTray}
              onText={(tags) => into("text", tags)}
              onComment={takesComment ? (tags) => into("comment", tags) : undefined}
            />
          ) : side === "when" ? (
            <When
              draft={draft}
              scope={scope}
              profiles={chosen}
              when={when}
              isEditable={isEditable && !(scope && sent.has(scope.id))}
              error={problem?.fields.scheduled_at}
              change={change}
            />
          ) : (
            <Looks draft={draft} profiles={scope ? [scope] : chosen} checks={checks.data ?? []} />
          )}
        </div>
        {canChange && (
          <Actions
            planned={planned}
            when={when}
            isEditable={isEditable}
            canPublish={canPublish}
            asksFirst={asksFirst}
            isAsked={needsYes && planned?.state === "in_review"}
            isBlocked={isRefused || waitsFor !== undefined}
            isPast={isPast}
            hasProfiles={chosen.length > 0}
            isSaving={save.isPending}
            isBusy={save.isPending || schedule.isPending || submit.isPending}
            onSchedule={(next) =>
              act(async () => {
                const saved = await keep(true);
                const done = await schedule.mutateAsync({ id: saved.id, at: when, edition: saved.edition });
                say(`Scheduled for ${moment(done.scheduled_at ?? "", zone)}.`);
                if (!next) return navigate(`/${brand.slug}/plan?day=${draft.day}`);
                const more = new URLSearchParams({ profiles: draft.profiles.join(",") });
                if (draft.campaign) more.set("campaign", String(draft.campaign));
                more.set("after", String(saved.id));
                navigate(`/${brand.slug}/plan/new?${more}`);
              })
            }
            onSave={() =>
              act(async () => {
                const saved = await keep(isKept(planned));
                say("Saved.");
                if (!planned) navigate(`/${brand.slug}/plan/${saved.id}`, { replace: true });
              })
            }
            onNow={(grace) =>
              act(async () => {
                const saved = await keep(true);
                await schedule.mutateAsync({ id: saved.id, at: null, edition: saved.edition, grace });
                say(grace ? "It goes out after the grace. You can take it back until then." : "It is being published.");
                navigate(`/${brand.slug}/plan/${saved.id}`, { replace: true });
              })
            }
            onAsk={
              needsYes && planned?.state !== "in_review"
                ? () =>
                    act(async () => {
                      const saved = await keep(true);
                      await submit.mutateAsync({ id: saved.id, edition: saved.edition });
                      say("Those whose yes counts are told.");
                      navigate(`/${brand.slug}/plan/${saved.id}`, { replace: true });
                    })
                : undefined
            }
            onTakeBack={() =>
              act(async () => {
                if (planned) await takeBack.mutateAsync(planned.id);
                say("It is a draft again.");
              })
            }
            onThrowAway={() =>
              act(async () => {
                if (planned) await remove.mutateAsync(planned.id);
                settle();
                say("The planned post is thrown away.");
                navigate(`/${brand.slug}/plan`);
              })
            }
          >
            {waitsFor && isEditable && (
              <p role="status" className="label w-full">
                Waits until “{waitsFor.name}” is looked into.
              </p>
            )}
            {isTouched && isEditable && (
              <p className={kept.isKept ? "label w-full" : "w-full text-down"}>
                {kept.isKept
                  ? `Not saved yet; kept in this browser${server.isKept ? " and on the server" : ""}.`
                  : "Not saved yet, and this browser keeps nothing: save it before you leave."}
              </p>
            )}
          </Actions>
        )}
      </section>
      <LinkSheet
        profile={linkFor}
        profiles={chosen}
        draft={draft}
        onClose={() => setLinkFor(null)}
        onMade={(made) => change(withLinks(draft, made))}
      />
    </div>
  );
}

/** Whether its time stays with it when it is saved: a draft without one waits beside the calendar. */
const isKept = (planned: Planned | undefined) =>
  planned !== undefined &&
  (planned.scheduled_at !== null || ["scheduled", "in_review", "approved"].includes(planned.state));

/** A draft with tracked links: the page's address stands in what is common, each version shows its own link there. */
function withLinks(draft: Draft, made: [Schemas["Profile"], TrackedLink][]): Partial<Draft> {
  let next = draft;
  for (const [profile, link] of made) {
    next = {
      ...next,
      links: { ...next.links, [profile.id]: { id: link.id, short: link.short, destination: link.destination } },
    };
    const own = next.own[profile.id]?.text;
    if (own !== undefined && !textFor(next, profile.id).includes(link.short)) {
      next = {
        ...next,
        own: { ...next.own, [profile.id]: { ...next.own[profile.id], text: withPage(own, link.destination) } },
      };
    }
  }
  const page = made[0]?.[1].destination ?? "";
  const isForAll = made.length > 1 || made.some(([profile]) => next.own[profile.id]?.text === undefined);
  return { links: next.links, own: next.own, ...(isForAll && { text: withPage(next.text, page) }) };
}

type LinkProps = {
  profile: Schemas["Profile"] | null;
  profiles: Schemas["Profile"][];
  draft: Draft;
  onClose: () => void;
  onMade: (made: [Schemas["Profile"], TrackedLink][]) => void;
};

function LinkSheet({ profile, profiles, draft, onClose, onMade }: LinkProps) {
  const { brand } = useBrand();
  const say = useToast();
  const makeLinks = useMakeLinks(brand.slug);
  const [isForAll, setForAll] = useState(true);
  const others = profiles.filter((p) => p.id !== profile?.id && !draft.links[p.id]);
  return (
    <Sheet isOpen={profile !== null} onClose={onClose} title={`A tracked link for ${profile?.name ?? ""}`}>
      {profile && (
        <>
          {others.length > 0 && (
            <div className="mb-3">
              <Check isOn={isForAll} onChange={setForAll} help="So that clicks from each network are told apart.">
                A link of its own for each version
              </Check>
            </div>
          )}
          <Suspense fallback={<Loading />}>
            <MakeLinkForm
              isShort
              network={profile.network}
              campaignId={draft.campaign}
              onMade={(link) => {
                onClose();
                if (!isForAll || others.length === 0) return onMade([[profile, link]]);
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
                    onMade([
                      [profile, link],
                      ...others.map((p, i): [Schemas["Profile"], TrackedLink] => [p, made[i] as TrackedLink]),
                    ]),
                  onError: (error) => {
                    onMade([[profile, link]]);
                    say(error.message, "wrong");
                  },
                });
              }}
            />
          </Suspense>
        </>
      )}
    </Sheet>
  );
}

type LooksProps = { draft: Draft; profiles: Schemas["Profile"][]; checks: Schemas["Check"][] };

function Looks({ draft, profiles, checks }: LooksProps) {
  if (profiles.length === 0) return <p className="label">Choose a profile to see how it will read there.</p>;
  return (
    <div className="flex flex-col gap-5">
      {profiles.map((profile) => (
        <Preview
          key={profile.id}
          draft={draft}
          profile={profile}
          hasFirstComment={checks.find((c) => c.profile_id === profile.id)?.has_first_comment ?? false}
        />
      ))}
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

type LeftProps = {
  kept: ReturnType<typeof useDraft>;
  server: { draft: Draft; at: string } | null;
  onServer: (draft: Draft) => void;
};

/** What another tab or machine left unsaved at this place: offered, and never thrown away unasked. */
function Left({ kept, server, onServer }: LeftProps) {
  const { brand } = useBrand();
  if (kept.others.length === 0 && server === null) return null;
  return (
    <ul className="my-2 flex flex-col gap-1 border-l-2 border-rule-strong pl-3">
      {server && (
        <li className="flex flex-wrap items-baseline gap-x-3">
          <span className="min-w-0">
            Written on another machine, {moment(server.at, brand.time_zone)}, not saved:{" "}
            <q>{beginning(server.draft.title || server.draft.text || "nothing yet")}</q>
          </span>
          <Button kind="quiet" onClick={() => onServer(server.draft)}>
            Take it up
          </Button>
        </li>
      )}
      {kept.others.map((one) => (
        <li key={one.slot} className="flex flex-wrap items-baseline gap-x-3">
          <span className="min-w-0">
            Written in another tab, {moment(new Date(one.at).toISOString(), brand.time_zone)}, not saved:{" "}
            <q>{beginning(one.draft.title || one.draft.text || firstOwn(one.draft) || "nothing yet")}</q>
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

const firstOwn = (draft: Draft) => Object.values(draft.own).find((own) => own.text)?.text;
const beginning = (text: string) => (text.length > 60 ? `${text.slice(0, 60).replace(/\s+\S*$/, "")} …` : text);
