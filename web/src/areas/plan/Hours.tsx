import { useDeferredValue } from "react";
import type { Schemas } from "../../api/client";
import { dayOf, moment, timeOf, weekday } from "../../lib/days";
import { figure, plural } from "../../lib/format";
import { useBrand, useNetwork } from "../../study/brand";
import { NetworkMark } from "../../ui/Marks";
import { expectationWords, useExpected } from "../foresight";
import { SmallStrip, useBestHours, useSlots } from "../timing";

const MOST_SLOTS = 4;
type Profile = Schemas["Profile"];
type Props = {
  profiles: Profile[];
  texts: Record<number, string>;
  /** What kinds of files go with it on each profile. */
  kinds: Record<number, string[]>;
  campaign: number | undefined;
  /** Tags that it is to have when it is out. */
  tags: number[];
  /** The instant that is chosen. */
  when: string | null;
  onWhen?: (at: string) => void;
};

/** Beside the field of time: each profile's hours of that day, what the post will bring then, and hours that are free. */
export function Hours({ profiles, texts, kinds, campaign, tags, when, onWhen }: Props) {
  const { brand } = useBrand();
  const posts = profiles.map((p) => ({
    profile: p.id,
    at: when ?? "",
    format: formatOf(p.network, kinds[p.id] ?? [], /https?:/.test(texts[p.id] ?? "")),
    campaign: campaign ?? null,
    tags,
  }));
  const expected = useExpected(brand.slug, useDeferredValue(when ? posts : []));
  const slots = useSlots(
    brand.slug,
    profiles.map((p) => p.id),
  );
  const free = (slots.data ?? []).filter((slot) => !slot.is_taken).slice(0, MOST_SLOTS);
  const sum = expected.data?.together;
  const silent = (expected.data?.posts ?? []).filter((p) => p.expected.interactions === null).length;
  if (profiles.length === 0) return null;
  return (
    <div className="mt-3">
      {when && sum && !sum.interactions && (
        <p role="status" className="text-muted">
          What it will bring is not known: these profiles have too few posts that tell.
        </p>
      )}
      {when && sum?.interactions && (
        <p role="status">
          By seven days: <b>{expectationWords(sum.interactions)}</b> interactions
          {sum.reach && `, ${expectationWords(sum.reach)} reach`}
          {sum.link_clicks && `, ${expectationWords(sum.link_clicks)} clicks`}{" "}
          <span className="label">80 %{silent > 0 && `; without ${plural(silent, "profile")} of too few posts`}</span>
        </p>
      )}
      {profiles.map((profile) => (
        <OneProfile
          key={profile.id}
          profile={profile}
          when={when}
          expected={expected.data?.posts.find((p) => p.profile === profile.id)}
          onWhen={onWhen}
        />
      ))}
      {onWhen && free.length > 0 && (
        <div className="mt-3">
          <h3 className="text-[14px]">Free standing slots</h3>
          <div className="mt-1 flex flex-wrap gap-2">
            {free.map((slot) => (
              <button
                key={`${slot.profile}-${slot.at}`}
                type="button"
                className="h-7 border border-rule-strong bg-panel px-2 hover:border-berry"
                title={slot.trial ? `Set by the trial ${slot.trial}` : "Of the kept rhythm"}
                onClick={() => onWhen(slot.at)}
              >
                {moment(slot.at, brand.time_zone)}
                {slot.is_learning && <span className="text-muted"> to learn</span>}
              </button>
            ))}
          </div>
        </div>
      )}
    </div>
  );
}

/** What a post of these files will most likely be there, as the server has it too. */
function formatOf(network: string, kinds: string[], hasLink: boolean) {
  if (kinds.includes("video")) return network === "longplay" ? ("long_video" as const) : ("short_video" as const);
  if (kinds.length) return kinds.length > 1 ? ("album" as const) : ("image" as const);
  return hasLink ? ("link" as const) : ("text" as const);
}

/** What the audience's clocks show at the chosen minute, where it lives by others than the brand's. */
function Clocks({ groups, when }: { groups: Schemas["AudienceGroup"][]; when: string }) {
  const { brand } = useBrand();
  if (groups.every((group) => timeOf(when, group.zone) === timeOf(when, brand.time_zone))) return null;
  return (
    <p className="label">
      {groups
        .map((group) => `${timeOf(when, group.zone)} in ${cityOf(group.zone)} (${Math.round(group.share * 10)} in 10)`)
        .join(", ")}
    </p>
  );
}

const cityOf = (zone: string) => (zone.split("/").at(-1) ?? zone).replaceAll("_", " ");

type OneProps = {
  profile: Profile;
  when: string | null;
  expected?: Schemas["ExpectedPost"];
  onWhen?: (at: string) => void;
};

function OneProfile({ profile, when, expected, onWhen }: OneProps) {
  const { brand } = useBrand();
  const network = useNetwork(profile.network);
  const week = useBestHours(brand.slug, profile.id).data;
  const day = when ? weekday(dayOf(when, brand.time_zone)) - 1 : null;
  const [hour = 0, minute = 0] = when ? timeOf(when, brand.time_zone).split(":").map(Number) : [];
  const at = when && day !== null ? week?.hours[day * 24 + hour] : undefined;
  return (
    <div className="mt-2 border-t border-rule pt-1.5">
      <div className="flex items-baseline gap-2">
        <NetworkMark network={network} />
        <span className="truncate">{profile.name}</span>
        {at && (
          <span className="label">
            index {figure(at.index, "index")} ({figure(at.low80, "index")}–{figure(at.high80, "index")})
            {!week?.has_effect && ", may be chance"}
          </span>
        )}
        {expected && (
          <span className="ml-auto shrink-0" title={`From ${expected.posts} posts, 80 %`}>
            {expectationWords(expected.expected.interactions)}
          </span>
        )}
      </div>
      {when && week && <Clocks groups={week.groups} when={when} />}
      {week && day !== null && <SmallStrip week={week} day={day} hour={hour + minute / 60} />}
      {onWhen && week && week.free.length > 0 && (
        <div className="mt-1 flex flex-wrap gap-1.5">
          {week.free.slice(0, 3).map((slot) => (
            <button
              key={slot.at}
              type="button"
              className="h-6 border border-rule-strong bg-panel px-1.5 text-[12.5px] hover:border-berry"
              title={`80 % interval ${figure(slot.low80, "index")} to ${figure(slot.high80, "index")}, ${slot.certainty}`}
              onClick={() => onWhen(slot.at)}
            >
              {moment(slot.at, brand.time_zone)} <span className="text-muted">{figure(slot.index, "index")}</span>
            </button>
          ))}
        </div>
      )}
    </div>
  );
}
