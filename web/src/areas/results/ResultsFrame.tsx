import { type ReactNode, useEffect } from "react";
import { useSearchParams } from "react-router";
import { addDays } from "../../lib/days";
import { AreaFrame } from "../../study/AreaFrame";
import { useBrand } from "../../study/brand";
import { useFooting } from "../../study/footing";
import { useStudy } from "../../study/study";
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

/** What every view of Results stands in. */
export function ResultsFrame({ actions, children }: Props) {
  const { brand } = useBrand();
  useFirstFooting();
  const findings = useFindings(brand.slug);
  const news = findings.data?.findings.filter((f) => f.state === "new" && f.is_current).length ?? 0;
  return (
    <AreaFrame area="results" badges={{ findings: news }} actions={actions}>
      {children}
    </AreaFrame>
  );
}
