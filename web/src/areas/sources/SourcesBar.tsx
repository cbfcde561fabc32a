import type { ReactNode } from "react";
import { NavLink } from "react-router";
import { useBrand } from "../../study/brand";

const PARTS = [
  ["", "Profiles"],
  ["/health", "Health"],
  ["/import", "Files"],
  ["/feeds", "Feeds"],
  ["/networks", "What each network gives"],
  ["/brand", "Brand"],
] as const;

/** The parts of Sources, and at the right what can be done on this one. */
export function SourcesBar({ children }: { children?: ReactNode }) {
  const { brand } = useBrand();
  return (
    <div className="flex h-[46px] shrink-0 items-center gap-3 border-b border-rule px-5 narrow:h-auto narrow:flex-wrap narrow:gap-y-2 narrow:px-3 narrow:py-1.5">
      <nav
        aria-label="Parts of Sources"
        className="flex gap-4 narrow:max-w-full narrow:overflow-x-auto narrow:whitespace-nowrap"
      >
        {PARTS.map(([path, name]) => (
          <NavLink
            key={path}
            to={`/${brand.slug}/sources${path}`}
            end={path === ""}
            className={({ isActive }) =>
              `inline-flex h-7 items-center border-b-2 ${isActive ? "border-berry font-semibold" : "border-transparent text-muted hover:text-ink"}`
            }
          >
            {name}
          </NavLink>
        ))}
      </nav>
      <div className="ml-auto flex items-center gap-2 narrow:ml-0 narrow:flex-wrap">{children}</div>
    </div>
  );
}
