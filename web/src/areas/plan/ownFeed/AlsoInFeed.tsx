import { Link } from "react-router";
import { useBrand } from "../../../study/brand";
import { Check } from "../../../ui/Check";
import { useOwnFeed } from "./queries";

type Props = { isOn: boolean; isEditable: boolean; onChange: (isOn: boolean) => void };

/** Whether a post also appears in the brand's own feed; nothing where there is no feed and it is not asked for. */
export function AlsoInFeed({ isOn, isEditable, onChange }: Props) {
  const { brand } = useBrand();
  const feed = useOwnFeed(brand.slug).data?.pages[0]?.feed;
  if (!feed?.is_on && !isOn) return null;
  return (
    <fieldset disabled={!isEditable} className="mt-2">
      <Check isOn={isOn} onChange={onChange}>
        Also in{" "}
        <Link to={`/${brand.slug}/plan/feed`} className="under hover:text-berry">
          the site’s own feed
        </Link>
        {feed && !feed.is_on && <span className="label"> which is switched off now</span>}
      </Check>
    </fieldset>
  );
}
