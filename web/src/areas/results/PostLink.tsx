import { Link, useLocation } from "react-router";
import { figure, plural } from "../../lib/format";
import { networkNamed, useBrand } from "../../study/brand";
import { Cut } from "../../ui/Cut";
import { NetworkMark } from "../../ui/Marks";

export type Hidden = { count: number; usual: number } | null | undefined;
type Props = { post: { id: number; text: string; network: string; hidden?: Hidden }; lines?: 1 | 2 };

/** Praise with its other side: people hid and reported this post far more than is usual there. */
export function HiddenMark({ hidden }: { hidden: Hidden }) {
  if (!hidden) return null;
  const said = `${plural(hidden.count, "hide or report", "hides and reports")}, where ${figure(hidden.usual)} would be usual for what was seen so often`;
  return (
    <span className="shrink-0 border border-down px-1 text-[11.5px] leading-4 text-down" title={said}>
      hidden often<span className="sr-only">: {said}</span>
    </span>
  );
}

/** A post in a list: its network and the beginning of its text, which opens it with what is studied. */
export function PostLink({ post, lines = 1 }: Props) {
  const { brand, networks } = useBrand();
  const { search } = useLocation();
  const network = networkNamed(networks, post.network);
  return (
    <span className={`flex min-w-0 gap-2 ${lines === 1 ? "items-center" : "items-start"}`}>
      <NetworkMark network={network} />
      <Link
        to={`/${brand.slug}/results/posts/${post.id}${search}`}
        className={`min-w-0 leading-6 hover:text-berry ${lines === 1 ? "" : "line-clamp-2"}`}
        title={post.text}
      >
        {lines === 1 ? <Cut>{post.text || "without text"}</Cut> : post.text || "without text"}
      </Link>
      <HiddenMark hidden={post.hidden} />
    </span>
  );
}
