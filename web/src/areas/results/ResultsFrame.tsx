import { type ReactNode, useEffect } from "react";
import { useLocation, useSearchParams } from "react-router";
import { addDays } from "../../lib/days";
import { AreaFrame } from "../../study/AreaFrame";
import { useBrand } from "../../study/brand";
import { useFooting } from "../../study/footing";
import { NothingYet, useIsBare } from "../../study/NothingYet";
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

/** What will stand in a view, for who has nothing to see there yet. The other views say so themselves. */
const WHAT: Record<string, string> = {
  difference:
    "Here stands what made a figure rise or fall: which posts, networks and formats, adding up to the change.",
  posts: "Here stand all posts with their figures, each against its profile’s typical post, to sort, narrow and tag.",
  groups: "Here formats, tags, networks and weekdays are held against each other, with what chance alone would show.",
  followers: "Here stands who came and who went, day by day, with the posts of the days that stand out.",
  audience: "Here stands where the followers live, how old they are and what they speak, and how that changes.",
};

type Props = { actions?: ReactNode; children: ReactNode };

/** What every view of Results stands in. */
export function ResultsFrame({ actions, children }: Props) {
  const { brand } = useBrand();
  const view = useLocation().pathname.split("/")[3] ?? "";
  const what = WHAT[view];
  const isBare = useIsBare();
  useFirstFooting();
  const findings = useFindings(brand.slug);
  const news = findings.data?.findings.filter((f) => f.state === "new" && f.is_current).length ?? 0;
  return (
    <AreaFrame area="results" badges={{ findings: news }} actions={actions}>
      {what && isBare ? <NothingYet what={what} /> : children}
    </AreaFrame>
  );
}
