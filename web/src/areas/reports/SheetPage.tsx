import type { CSSProperties, ReactNode } from "react";
import { mixed, readable } from "../../lib/contrast";
import type { Look, Page } from "./edit";
import { measures, TALL, WIDE } from "./geometry";
import type { Shown } from "./queries";

export const PAPER = "#fbfbf7";
export const ACCENT = "#9a2452";

/** Colours of a page: those of the client, moved as little as it takes to be read on their ground. */
export function coloursOf(look: Look, page?: Page): CSSProperties {
  const ground = page?.ground || look.ground || PAPER;
  const ink = readable("#18211c", ground, 7);
  return {
    "--sheet-ground": ground,
    "--sheet-ink": ink,
    "--sheet-muted": readable(mixed(ink, ground, 0.35), ground),
    "--sheet-rule": mixed(ink, ground, 0.8),
    "--sheet-accent": readable(look.accent || ACCENT, ground),
    "--sheet-up": readable("#1f6a43", ground),
    "--sheet-down": readable("#a3301f", ground),
    background: ground,
    color: ink,
  } as CSSProperties;
}

type Props = {
  page: Page;
  number: number;
  count: number;
  look: Look;
  words?: Shown["words"];
  title?: ReactNode;
  text: ReactNode;
  children: ReactNode;
};

/** A page as it is on paper: title, words, the grid of its figures, header and footer. Measures in pixels of paper. */
export function SheetPage({ page, number, count, look, words, title, text, children }: Props) {
  const m = measures(page.has_words);
  return (
    <section
      aria-label={page.title || `${words?.page ?? "page"} ${number}`}
      className={`sheet-page relative overflow-hidden ${look.face === "sans" ? "font-sans" : ""}`}
      style={{ width: WIDE, height: TALL, ...coloursOf(look, page) }}
    >
      <header
        className="absolute flex items-end justify-between gap-6 border-b-2"
        style={{
          left: m.padX,
          right: m.padX,
          top: m.padY,
          height: m.head - 12,
          paddingBottom: 6,
          borderColor: "var(--sheet-accent)",
        }}
      >
        <div className="min-w-0 flex-1 truncate text-[24px] leading-tight">
          {title ?? <Title look={look}>{page.title}</Title>}
        </div>
        <span className="shrink-0 text-right text-[12px]" style={{ color: "var(--sheet-muted)" }}>
          {look.header && <span className="block">{look.header}</span>}
          {words?.days}
        </span>
      </header>
      {page.has_words && (
        <div
          className="absolute overflow-hidden"
          style={{ left: m.padX, top: m.padY + m.head, width: m.width, height: m.words - 12 }}
        >
          {text}
        </div>
      )}
      <div className="absolute" style={{ left: m.padX, top: m.top, width: m.width, height: m.height }}>
        {children}
      </div>
      <footer
        className="absolute flex justify-between text-[11px]"
        style={{ left: m.padX, right: m.padX, bottom: m.padY - 8, color: "var(--sheet-muted)" }}
      >
        <span className="truncate">{look.footer}</span>
        <span>
          {number} / {count}
        </span>
      </footer>
    </section>
  );
}

/** A heading in the report's face; in the outline of a PDF. */
export function Title({ look, children }: { look: Look; children: ReactNode }) {
  return (
    <h2 className="truncate text-[24px]" style={{ fontFamily: look.face === "sans" ? "var(--font-sans)" : undefined }}>
      {children}
    </h2>
  );
}
