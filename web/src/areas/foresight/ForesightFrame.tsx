import type { ReactNode } from "react";
import { useAreas } from "../../study/areas";
import { MinuteLine } from "../../study/line/MinuteLine";
import { Views } from "../../study/Views";

/** What both views of Foresight stand in. */
export function ForesightFrame({ actions, children }: { actions?: ReactNode; children: ReactNode }) {
  const views = useAreas().find((area) => area.path === "foresight")?.views ?? [];
  return (
    <>
      <MinuteLine hasBrush={false} />
      <Views label="Views of Foresight" base="foresight" views={views}>
        {actions}
      </Views>
      {children}
    </>
  );
}
