/** A tag: a corner in its colour and its name. Colours are the palette's numbers; the name always stands with them. */
export const TAG_COLOURS = 8;

export function TagMark({ name, colour, isSmall = false }: { name: string; colour: number; isSmall?: boolean }) {
  return (
    <span
      className={`inline-flex items-center gap-1 whitespace-nowrap ${isSmall ? "text-[12px] text-muted" : "text-[13px]"}`}
    >
      <svg width="8" height="8" viewBox="0 0 8 8" aria-hidden="true">
        <path d="M0 0h8L0 8z" fill={`var(--tag-${colour})`} />
      </svg>
      {name}
    </span>
  );
}
