import type { ReactNode } from "react";
import { useAreas, useParts } from "./areas";
import { MinuteLine } from "./line/MinuteLine";
import { StudySentence } from "./StudySentence";
import { Views } from "./Views";

type Props = {
  /** The area's path. */
  area: string;
  /** News by a view's path. */
  badges?: Record<string, number>;
  /** The view's own actions. */
  actions?: ReactNode;
  children: ReactNode;
};

/** What every view of an area stands in: the line, what is studied, the views, and the view's own actions. */
export function AreaFrame({ area, badges, actions, children }: Props) {
  const { name, views = [] } = useAreas().find((one) => one.path === area) ?? { name: "" };
  const hasSentence = useParts() !== null;
  return (
    <>
      <MinuteLine />
      {hasSentence && <StudySentence />}
      <Views label={`Views of ${name}`} base={area} views={views} badges={badges}>
        {actions}
      </Views>
      {children}
    </>
  );
}
