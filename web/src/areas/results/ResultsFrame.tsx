import type { ReactNode } from "react";
import { RESULTS_VIEWS } from "../../app/areas";
import { useBrand } from "../../app/brand";
import { MinuteLine } from "../../app/line/MinuteLine";
import { StudySentence } from "../../app/StudySentence";
import { Views } from "../../app/Views";
import { useFindings } from "./queries";

type Props = { has?: Parameters<typeof StudySentence>[0]["has"]; actions?: ReactNode; children: ReactNode };

/** What every view of Results stands in: the line, what is studied, the views, and the view's own actions. */
export function ResultsFrame({ has = ["profile", "format", "narrow", "age", "against"], actions, children }: Props) {
  const { brand } = useBrand();
  const findings = useFindings(brand.slug);
  const news = findings.data?.findings.filter((f) => f.state === "new" && f.is_current).length ?? 0;
  return (
    <>
      <MinuteLine />
      {has.length > 0 && <StudySentence has={has} />}
      <Views label="Views of Results" base="results" views={RESULTS_VIEWS} badges={{ findings: news }}>
        {actions}
      </Views>
      {children}
    </>
  );
}
