import { MessageSquare } from "lucide-react";
import { useState } from "react";
import { moment } from "../../../lib/days";
import { WordDiff } from "../../../ui/WordDiff";
import type { Review } from "./queries";
import { alike, changedBeside, type SeenVersion } from "./rules";

export type About = { quote?: string; asset?: number; profile_id?: number };
type Props = {
  review: Review;
  zone: string;
  /** Names of networks by their keys. */
  networks: Record<string, string>;
  picture: (asset: number) => string;
  /** Say something about a part; none where one may not. */
  onAbout?: (about: About) => void;
};

/** A post as it will read, versions that are alike once, with what changed since one looked. */
export function SeenPost({ review, zone, networks, picture, onAbout }: Props) {
  const { now, before } = review;
  return (
    <div>
      <p className="text-muted">
        {now.at ? moment(now.at, zone) : "No time yet"}
        {before && before.at !== now.at && (
          <span className="text-berry"> (it was {before.at ? moment(before.at, zone) : "without a time"})</span>
        )}
      </p>
      {alike(now.versions).map(({ version, of }) => (
        <Seen
          key={version.profile}
          version={version}
          on={of.map((one) => networks[one.network] ?? one.name).join(", ")}
          before={before ? before.versions.find((one) => one.profile === version.profile) : version}
          picture={picture}
          onAbout={onAbout}
          isOneOfSeveral={alike(now.versions).length > 1}
        />
      ))}
    </div>
  );
}

type SeenProps = {
  version: SeenVersion;
  on: string;
  before: SeenVersion | undefined;
  picture: (asset: number) => string;
  onAbout?: (about: About) => void;
  isOneOfSeveral: boolean;
};

function Seen({ version, on, before, picture, onAbout, isOneOfSeveral }: SeenProps) {
  const [quote, setQuote] = useState("");
  const isChanged = before !== undefined && before.text !== version.text;
  const chosen = () => {
    const words = String(window.getSelection() ?? "").trim();
    setQuote(words && version.text.includes(words) ? words.slice(0, 300) : "");
  };
  return (
    <article className="mt-3 border border-rule-strong bg-panel px-3 py-2" aria-label={`For ${on}`}>
      <div className="label flex items-baseline justify-between gap-2">
        {on}
        {onAbout && isOneOfSeveral && (
          <button
            type="button"
            aria-label={`Say something about the version for ${on}`}
            className="under min-h-6 hover:text-berry"
            onClick={() => onAbout({ profile_id: version.profile })}
          >
            about this version
          </button>
        )}
      </div>
      {version.headline && <h3 className="text-[16px]">{version.headline}</h3>}
      <p className="whitespace-pre-wrap break-words" onMouseUp={chosen} onTouchEnd={chosen}>
        {isChanged ? <WordDiff before={before.text} after={version.text} /> : version.text}
      </p>
      {onAbout && quote && (
        <button
          type="button"
          className="under min-h-6 text-left text-[12.5px] text-berry"
          onClick={() => onAbout({ quote, profile_id: version.profile })}
        >
          Say something about “{quote.length > 40 ? `${quote.slice(0, 40)}…` : quote}”
        </button>
      )}
      {changedBeside(before, version).map((said) => (
        <p key={said} className="text-[12.5px] text-berry">
          {said}
        </p>
      ))}
      {version.media.length > 0 && (
        <div className="mt-2 flex flex-wrap gap-2">
          {version.media.map((asset, i) => (
            <figure key={asset} className="w-[140px]">
              <img src={picture(asset)} alt={`${i + 1} of ${version.media.length}`} className="w-full" />
              {onAbout && (
                <button
                  type="button"
                  aria-label={`Say something about picture ${i + 1}`}
                  className="label flex h-6 items-center gap-1 hover:text-berry"
                  onClick={() => onAbout({ asset, profile_id: version.profile })}
                >
                  <MessageSquare size={13} /> about it
                </button>
              )}
            </figure>
          ))}
        </div>
      )}
      {version.first_comment && (
        <p className="mt-2 whitespace-pre-wrap break-words border-t border-rule pt-1 text-[12.5px]">
          <span className="label">First comment</span> {version.first_comment}
        </p>
      )}
    </article>
  );
}
