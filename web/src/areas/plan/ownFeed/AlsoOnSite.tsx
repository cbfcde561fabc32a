import type { ReactNode } from "react";
import { Link } from "react-router";
import { plural } from "../../../lib/format";
import { useBrand } from "../../../study/brand";
import { Check } from "../../../ui/Check";
import { useOwnFeed, usePush } from "./queries";

type Asked = { feed?: boolean; push?: boolean };
type Props = { asked: Asked; isEditable: boolean; onChange: (asked: Asked) => void };

/** Whether a post also appears in the brand's own feed and as a message in browsers; nothing where neither is set up. */
export function AlsoOnSite({ asked, isEditable, onChange }: Props) {
  const { brand } = useBrand();
  const feed = useOwnFeed(brand.slug).data?.pages[0]?.feed;
  const push = usePush(brand.slug).data?.pages[0]?.channel;
  if (!feed?.is_on && !push?.is_on && !asked.feed && !asked.push) return null;
  return (
    <fieldset disabled={!isEditable} className="mt-2 flex flex-wrap gap-x-5 gap-y-1">
      {(feed?.is_on || asked.feed) && (
        <Check isOn={asked.feed ?? false} onChange={(on) => onChange({ feed: on })}>
          Also in <To path={`/${brand.slug}/plan/feed`}>the site’s own feed</To>
          {feed && !feed.is_on && <span className="label"> which is switched off now</span>}
        </Check>
      )}
      {(push?.is_on || asked.push) && (
        <Check isOn={asked.push ?? false} onChange={(on) => onChange({ push: on })}>
          Also as <To path={`/${brand.slug}/plan/messages`}>a message</To> to {plural(push?.browsers ?? 0, "browser")}{" "}
          that asked for it
          {push && !push.is_on && <span className="label">, which is switched off now</span>}
        </Check>
      )}
    </fieldset>
  );
}

function To({ path, children }: { path: string; children: ReactNode }) {
  return (
    <Link to={path} className="under hover:text-berry">
      {children}
    </Link>
  );
}
