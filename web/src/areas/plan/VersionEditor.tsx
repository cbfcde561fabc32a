import { useId } from "react";
import type { Schemas } from "../../api/client";
import { useNetwork } from "../../study/brand";
import { NetworkMark } from "../../ui/Marks";
import type { Check } from "./queries";

type Props = {
  profile: Schemas["Profile"];
  text: string;
  isOwn: boolean;
  isFirst: boolean;
  isEditable: boolean;
  check?: Check;
  onText: (text: string) => void;
  onShared: () => void;
  onLink: () => void;
};

/** One profile's version, with what its network counts and refuses. */
export function VersionEditor({ profile, text, isOwn, isFirst, isEditable, check, onText, onShared, onLink }: Props) {
  const network = useNetwork(profile.network);
  const id = useId();
  const share = check ? Math.min(1, check.count / check.limit) : 0;
  const isOver = check ? check.count > check.limit : false;
  return (
    <div className="mt-5">
      <div className="flex items-center gap-2">
        <NetworkMark network={network} />
        <label htmlFor={id} className="font-semibold">
          {profile.name} on {network.name}
        </label>
        {!isFirst && <span className="label">{isOwn ? "own words" : "same text as above"}</span>}
        {!isFirst && isOwn && isEditable && (
          <button type="button" onClick={onShared} className="label under h-6 hover:text-berry">
            take the text above again
          </button>
        )}
      </div>
      <textarea
        id={id}
        aria-describedby={`${id}-count`}
        aria-invalid={isOver || undefined}
        value={text}
        readOnly={!isEditable}
        onChange={(event) => onText(event.target.value)}
        rows={isFirst ? 5 : 4}
        className="mt-1 w-full resize-y rounded-[2px] border border-rule-strong bg-panel px-2 py-1.5 text-[14.5px] leading-5 aria-invalid:border-down"
      />
      <div id={`${id}-count`} className="flex items-center gap-3 text-[12.5px]">
        <svg width="90" height="6" aria-hidden="true">
          <rect width="90" height="6" fill="var(--rule)" />
          <rect width={90 * share} height="6" fill={isOver ? "var(--down)" : "var(--berry)"} />
        </svg>
        <span className={isOver ? "font-semibold text-down" : "text-muted"}>
          {check ? `${check.count} of ${check.limit}` : "…"}
        </span>
        <span className="flex-1" aria-live="polite">
          {check?.problems
            .filter((p) => p.code !== "empty")
            .map((p) => (
              <span key={p.code} className={p.is_blocking ? "text-down" : "text-muted"}>
                {p.message}{" "}
              </span>
            ))}
        </span>
        {isEditable && (
          <button type="button" onClick={onLink} className="under h-6 hover:text-berry">
            put in a tracked link
          </button>
        )}
      </div>
    </div>
  );
}
