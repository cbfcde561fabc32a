import type { Schemas } from "../../api/client";
import { networkNamed, useBrand } from "../../study/brand";
import { NetworkMark, StateWord } from "../../ui/Marks";
import type { Check } from "./queries";
import { type Draft, ownParts } from "./rules";

type Profile = Schemas["Profile"];
type Props = {
  draft: Draft;
  profiles: Profile[];
  checks: Check[];
  sent: Set<number>;
  isEditable: boolean;
  /** Which version is written in; null is what is common. */
  at: number | null;
  onAt: (profile: number | null) => void;
  onProfiles: (profiles: number[]) => void;
};

/** What each network gets, beside the one field in which it is written: length, what is wrong, and what differs. */
export function Versions({ draft, profiles, checks, sent, isEditable, at, onAt, onProfiles }: Props) {
  const { networks } = useBrand();
  // Where a network holds several profiles, the name tells them apart.
  const isSeveral = (profile: Profile) => profiles.filter((one) => one.network === profile.network).length > 1;
  const row = "flex w-full items-center gap-2 px-2 text-left hover:bg-wash";
  return (
    <fieldset className="min-w-0">
      <legend className="text-[13px] font-semibold">Publish on</legend>
      <button
        type="button"
        aria-pressed={at === null}
        onClick={() => onAt(null)}
        className={`${row} mt-1 h-8 border border-rule-strong aria-pressed:border-l-[5px] aria-pressed:border-l-berry aria-pressed:bg-panel`}
      >
        <span className="font-semibold">All versions</span>
        <span className="label ml-auto">{draft.profiles.length} chosen</span>
      </button>
      <ul>
        {profiles.map((profile) => {
          const isOn = draft.profiles.includes(profile.id);
          const network = networkNamed(networks, profile.network);
          const check = checks.find((one) => one.profile_id === profile.id);
          const differs = ownParts(draft, profile.id);
          return (
            <li key={profile.id} className="rowline flex items-stretch">
              <label className="flex w-8 shrink-0 items-start justify-center pt-2">
                <input
                  type="checkbox"
                  aria-label={`${network.name}: ${profile.name}`}
                  checked={isOn}
                  disabled={!isEditable || sent.has(profile.id)}
                  onChange={(event) =>
                    onProfiles(
                      event.target.checked
                        ? [...draft.profiles, profile.id]
                        : draft.profiles.filter((id) => id !== profile.id),
                    )
                  }
                  className="h-4 w-4 accent-(--berry)"
                />
              </label>
              <button
                type="button"
                disabled={!isOn}
                aria-pressed={at === profile.id}
                aria-label={`${profile.name} on ${network.name}${differs.length ? `, own ${differs.join(", ")}` : ""}`}
                onClick={() => onAt(profile.id)}
                className={`${row} min-w-0 flex-col !items-stretch gap-0 py-1 disabled:opacity-60 aria-pressed:border-l-[5px] aria-pressed:border-l-berry aria-pressed:bg-panel`}
              >
                <span className="flex items-center gap-1.5">
                  <NetworkMark network={network} />
                  <span className="min-w-0 flex-1 truncate" title={profile.name}>
                    {network.name}
                    {isSeveral(profile) && <span className="label"> {profile.name}</span>}
                  </span>
                  {profile.authorisation === "lapsed" && <StateWord tone="wrong">lapsed</StateWord>}
                </span>
                {isOn && (
                  <span className="flex flex-wrap gap-x-2 text-[12px]">
                    {check && <Count check={check} />}
                    {differs.length > 0 && <span className="text-berry">own {differs.join(", ")}</span>}
                    {sent.has(profile.id) && <span className="text-up">out</span>}
                    <Problems check={check} />
                  </span>
                )}
              </button>
            </li>
          );
        })}
      </ul>
    </fieldset>
  );
}

function Count({ check }: { check: Check }) {
  const isOver = check.count > check.limit;
  return (
    <span className={`${isOver ? "font-semibold text-down" : "text-muted"}`}>
      {check.count} of {check.limit}
    </span>
  );
}

function Problems({ check }: { check: Check | undefined }) {
  const blocking = check?.problems.filter((one) => one.is_blocking && one.code !== "empty") ?? [];
  const [first] = blocking;
  if (!first) return null;
  return (
    <span className="text-down">
      {first.message}
      {blocking.length > 1 && ` And ${blocking.length - 1} more.`}
    </span>
  );
}
