import { diffWords } from "diff";

/** One text beside another, word by word: what came is underlined and what went is struck through. */
export function WordDiff({ before, after }: { before: string; after: string }) {
  return diffWords(before, after).map((piece, i) =>
    piece.added ? (
      // biome-ignore lint/suspicious/noArrayIndexKey: pieces of one text, in their order
      <ins key={i} className="bg-wash text-up">
        {piece.value}
      </ins>
    ) : piece.removed ? (
      // biome-ignore lint/suspicious/noArrayIndexKey: pieces of one text, in their order
      <del key={i} className="text-down">
        {piece.value}
      </del>
    ) : (
      piece.value
    ),
  );
}
