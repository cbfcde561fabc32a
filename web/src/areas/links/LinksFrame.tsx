import type { ReactNode } from "react";
import { LINKS_VIEWS } from "../../app/areas";
import { MinuteLine } from "../../app/line/MinuteLine";
import { StudySentence } from "../../app/StudySentence";
import { Views } from "../../app/Views";

type Props = { has?: Parameters<typeof StudySentence>[0]["has"]; actions?: ReactNode; children: ReactNode };

/** What every view of Links stands in. */
export function LinksFrame({ has = ["against"], actions, children }: Props) {
  return (
    <>
      <MinuteLine />
      {has.length > 0 && <StudySentence has={has} />}
      <Views label="Views of Links" base="links" views={LINKS_VIEWS}>
        {actions}
      </Views>
      {children}
    </>
  );
}
