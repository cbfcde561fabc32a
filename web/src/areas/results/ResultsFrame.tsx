import { type ReactNode, useEffect } from "react";
import { useLocation, useSearchParams } from "react-router";
import { partsAt, RESULTS_VIEWS } from "../../app/areas";
import { useBrand } from "../../app/brand";
import { useFooting } from "../../app/footing";
import { MinuteLine } from "../../app/line/MinuteLine";
import { StudySentence } from "../../app/StudySentence";
import { useStudy } from "../../app/study";
import { Views } from "../../app/Views";
import { addDays } from "../../lib/days";
import { useFindings } from "./queries";

/** Nobody meets an empty period where there are posts: without one of their own, the 28 days up to the newest. */
function useFirstFooting() {
  const [params] = useSearchParams();
  const { change } = useStudy();
  const footing = useFooting().data;
  const isUnsaid = !params.has("first") && !params.has("last");
  const newest = isUnsaid && footing?.posts === 0 ? footing.newest_day : null;
  useEffect(() => {
    if (newest) change({ first: addDays(newest, -27), last: newest }, true);
  }, [newest, change]);
}

type Props = { actions?: ReactNode; children: ReactNode };

/** What every view of Results stands in: the line, what is studied, the views, and the view's own actions. */
export function ResultsFrame({ actions, children }: Props) {
  const { brand } = useBrand();
  useFirstFooting();
  const findings = useFindings(brand.slug);
  const news = findings.data?.findings.filter((f) => f.state === "new" && f.is_current).length ?? 0;
  const hasSentence = partsAt(useLocation().pathname) !== null;
  return (
    <>
      <MinuteLine />
      {hasSentence && <StudySentence />}
      <Views label="Views of Results" base="results" views={RESULTS_VIEWS} badges={{ findings: news }}>
        {actions}
      </Views>
      {children}
    </>
  );
}
