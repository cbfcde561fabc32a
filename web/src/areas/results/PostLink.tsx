import { Link, useLocation } from "react-router";
import { networkNamed, useBrand } from "../../app/brand";
import { NetworkMark } from "../../ui/Marks";

type Props = { post: { id: number; text: string; network: string }; lines?: 1 | 2 };

/** A post in a list: its network and the beginning of its text, which opens it with what is studied. */
export function PostLink({ post, lines = 1 }: Props) {
  const { brand, networks } = useBrand();
  const { search } = useLocation();
  const network = networkNamed(networks, post.network);
  return (
    <span className={`flex min-w-0 gap-2 ${lines === 1 ? "items-center" : "items-start"}`}>
      <NetworkMark network={post.network} name={network.name} monogram={network.monogram} />
      <Link
        to={`/${brand.slug}/results/posts/${post.id}${search}`}
        className={`min-w-0 leading-6 hover:text-berry ${lines === 1 ? "truncate" : "line-clamp-2"}`}
        title={post.text}
      >
        {post.text || "without text"}
      </Link>
    </span>
  );
}
