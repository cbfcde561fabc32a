import { Link } from "react-router";
import { figure, plural } from "../../../lib/format";
import { useBrand } from "../../../study/brand";

/** People's clicks on a thing's own link, leading to it; without a link nothing was counted. */
export function ClicksOf({ link, clicks }: { link: number | null; clicks: number | null }) {
  const { brand } = useBrand();
  if (link === null) return <span className="text-muted">no link</span>;
  return (
    <Link
      to={`/${brand.slug}/links/${link}`}
      className="under hover:text-berry"
      aria-label={`${plural(clicks ?? 0, "click")}: its link`}
    >
      {figure(clicks)}
    </Link>
  );
}
