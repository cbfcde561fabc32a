import type { ReactNode } from "react";
import { useAreas } from "../../study/areas";
import { MinuteLine } from "../../study/line/MinuteLine";
import { StepTo } from "../../study/NothingYet";
import { Views } from "../../study/Views";
import { Empty } from "../../ui/States";

/** What every view of Timing stands in. */
export function TimingFrame({ actions, children }: { actions?: ReactNode; children: ReactNode }) {
  const views = useAreas().find((area) => area.path === "timing")?.views ?? [];
  return (
    <>
      <MinuteLine hasBrush={false} turned="future" />
      <Views label="Views of Timing" base="timing" views={views}>
        {actions}
      </Views>
      {children}
    </>
  );
}

/** Where there is nobody to publish as: the one step. */
export function NoOwnProfile({ children }: { children: ReactNode }) {
  return (
    <Empty
      title="There is no profile of our own yet"
      action={<StepTo step="sources" may="sources.files" name="To the sources" />}
    >
      Connect one, or bring in a file of its posts. {children}
    </Empty>
  );
}
