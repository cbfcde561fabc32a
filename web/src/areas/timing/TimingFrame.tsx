import type { ReactNode } from "react";
import { useAreas } from "../../study/areas";
import { MinuteLine } from "../../study/line/MinuteLine";
import { Views } from "../../study/Views";

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
