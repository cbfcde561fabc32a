import type { ReactNode } from "react";
import { NavLink, useLocation } from "react-router";
import { useBrand } from "./brand";
import { carriedAll } from "./study";

type Props = {
  label: string;
  base: string;
  views: readonly { path: string; name: string }[];
  badges?: Record<string, number>;
  children?: ReactNode;
};

/** The views of an area as words, and the view's own actions at their right. */
export function Views({ label, base, views, badges = {}, children }: Props) {
  const { brand } = useBrand();
  const { search } = useLocation();
  return (
    <div className="flex h-[32px] shrink-0 items-stretch justify-between gap-4 border-b border-rule px-5 narrow:h-auto narrow:flex-wrap narrow:gap-y-1 narrow:px-3">
      <nav
        aria-label={label}
        className="flex items-stretch gap-5 narrow:h-8 narrow:max-w-full narrow:overflow-x-auto narrow:whitespace-nowrap"
      >
        {views.map(({ path, name }) => (
          <NavLink
            key={path}
            to={`/${brand.slug}/${base}${path && `/${path}`}${carriedAll(search)}`}
            end={path === ""}
            className={({ isActive }) =>
              `flex items-center border-b-2 ${isActive ? "border-berry font-semibold text-ink" : "border-transparent text-muted hover:text-ink"}`
            }
          >
            {name}
            {(badges[path] ?? 0) > 0 && <span className="ml-1.5 text-berry">{badges[path]}</span>}
          </NavLink>
        ))}
      </nav>
      <div className="flex items-center gap-4 narrow:flex-wrap narrow:pb-1">{children}</div>
    </div>
  );
}
