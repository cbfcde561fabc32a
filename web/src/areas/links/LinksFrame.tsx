import type { ReactNode } from "react";
import { useLocation } from "react-router";
import { LINKS_VIEWS, partsAt } from "../../app/areas";
import { MinuteLine } from "../../app/line/MinuteLine";
import { StudySentence } from "../../app/StudySentence";
import { Views } from "../../app/Views";

type Props = { actions?: ReactNode; children: ReactNode };

/** What every view of Links stands in. */
export function LinksFrame({ actions, children }: Props) {
  const hasSentence = partsAt(useLocation().pathname) !== null;
  return (
    <>
      <MinuteLine />
      {hasSentence && <StudySentence />}
      <Views label="Views of Links" base="links" views={LINKS_VIEWS}>
        {actions}
      </Views>
      {children}
    </>
  );
}
