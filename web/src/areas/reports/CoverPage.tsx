import type { Look } from "./edit";
import { TALL, WIDE } from "./geometry";
import { coloursOf } from "./SheetPage";

type Props = { title: string; brand: string; days: string; against: string; look: Look; logo: string | null };

/** The title page: whose it is, of which days, with the client's mark. */
export function CoverPage({ title, brand, days, against, look, logo }: Props) {
  const face = look.face === "sans" ? "var(--font-sans)" : undefined;
  return (
    <section
      aria-label={title}
      className="sheet-page relative flex flex-col justify-between overflow-hidden"
      style={{ width: WIDE, height: TALL, padding: "70px 84px", ...coloursOf(look) }}
    >
      <div className="flex h-[90px] items-start justify-between">
        <span className="text-[17px]" style={{ color: "var(--sheet-muted)" }}>
          {brand}
        </span>
        {logo && <img src={logo} alt="" className="max-h-[90px] max-w-[260px] object-contain" />}
      </div>
      <div>
        <div className="mb-6 h-[6px] w-[96px]" style={{ background: "var(--sheet-accent)" }} />
        <h1 className="max-w-[820px] text-[52px] leading-[1.08]" style={{ fontFamily: face }}>
          {title}
        </h1>
        {look.subtitle && <p className="mt-3 text-[21px]">{look.subtitle}</p>}
      </div>
      <p className="text-[17px]">
        {days}
        {against && (
          <span className="block text-[14px]" style={{ color: "var(--sheet-muted)" }}>
            {against}
          </span>
        )}
      </p>
    </section>
  );
}
