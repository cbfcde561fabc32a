import type { ReactNode } from "react";
import type { ReadSegment } from "./queries";

type Props = {
  words: ReadSegment[][];
  size?: number;
  onNumber?: (segment: ReadSegment) => ReactNode;
  /** Whether numbers that are typed into the words are marked: they do not renew. */
  isByHand?: boolean;
};

/** Paragraphs with their numbers as they are now; long ones are set smaller so that they stay on the page. */
export function ReadWords({ words, size = 15.5, onNumber, isByHand = false }: Props) {
  const length = words.reduce((sum, row) => sum + row.reduce((n, one) => n + one.text.length, 0), 0);
  const set = length > 900 ? 11 : length > 650 ? 12 : length > 430 ? 13.5 : size;
  return (
    <div style={{ fontSize: set, lineHeight: 1.38, maxWidth: 980 }}>
      {words.map((row, i) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: paragraphs have no name but their place
        <p key={i} className={i > 0 ? "mt-1.5" : ""}>
          {row.map((one, j) =>
            one.item ? (
              // biome-ignore lint/suspicious/noArrayIndexKey: segments have no name but their place
              <span key={j}>{onNumber ? onNumber(one) : <b className="font-semibold">{one.text}</b>}</span>
            ) : (
              // biome-ignore lint/suspicious/noArrayIndexKey: segments have no name but their place
              <span key={j}>{isByHand ? marked(one.text) : one.text}</span>
            ),
          )}
        </p>
      ))}
    </div>
  );
}

/** Numbers that somebody typed, underlined: they are of the day they were typed on. */
function marked(text: string): ReactNode {
  return text.split(/(\d[\d.,\u00a0\u202f]*%?)/).map((part, i) =>
    i % 2 === 1 ? (
      // biome-ignore lint/suspicious/noArrayIndexKey: parts have no name but their place
      <span key={i} className="underline decoration-dotted" title="Typed by hand: it does not renew with the data.">
        {part}
      </span>
    ) : (
      part
    ),
  );
}
