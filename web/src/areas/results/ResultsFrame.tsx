import type { ReactNode } from "react";
import { NavLink, useLocation } from "react-router";
import { RESULTS_VIEWS } from "../../app/areas";
import { useBrand } from "../../app/brand";
import { MinuteLine } from "../../app/line/MinuteLine";
import { StudySentence } from "../../app/StudySentence";
import { carriedAll } from "../../app/study";
import { useFindings } from "./queries";

type Props = { has?: Parameters<typeof StudySentence>[0]["has"]; actions?: ReactNode; children: ReactNode };

/** What every view of Results stands in: the line, what is studied, the views, and the view's own actions. */
export function ResultsFrame({ has = ["profile", "format", "narrow", "age", "against"], actions, children }: Props) {
  const { brand } = useBrand();
  const { search } = useLocation();
  const findings = useFindings(brand.slug);
  const news = findings.data?.findings.filter((f) => f.state === "new" && f.is_current).length ?? 0;
  return (
    <>
      <MinuteLine />
      {has.length > 0 && <StudySentence has={has} />}
      <div className="flex h-[32px] shrink-0 items-stretch justify-between gap-4 border-b border-rule px-5">
        <nav aria-label="Views of Results" className="flex items-stretch gap-5">
          {RESULTS_VIEWS.map(({ path, name }) => (
            <NavLink
              key={path}
              to={`/${brand.slug}/results${path && `/${path}`}${carriedAll(search)}`}
              end={path === ""}
              className={({ isActive }) =>
                `flex items-center border-b-2 ${isActive ? "border-berry font-semibold text-ink" : "border-transparent text-muted hover:text-ink"}`
              }
            >
              {name}
              {path === "findings" && news > 0 && <span className="ml-1.5 text-berry">{news}</span>}
            </NavLink>
          ))}
        </nav>
        <div className="flex items-center gap-4">{actions}</div>
      </div>
      {children}
    </>
  );
}
