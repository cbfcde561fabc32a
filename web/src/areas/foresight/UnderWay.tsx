import { Link } from "react-router";
import { figure } from "../../lib/format";
import { networkNamed, useBrand } from "../../study/brand";
import { Cut } from "../../ui/Cut";
import { NetworkMark, StateWord } from "../../ui/Marks";
import { useUnderWay, type UnderWay as Young } from "./queries";
import { ageWords, stateOf, underWayTitle, youngWords } from "./rules";

const BAR = 120;

/** The posts of the last days and how each is doing at its age; a few of them, or all. */
export function UnderWay({ most }: { most?: number }) {
  const { brand } = useBrand();
  const found = useUnderWay(brand.slug);
  const posts = found.data ?? [];
  if (posts.length === 0) return null;
  // What needs a look comes first, then the newest.
  const order = (p: Young) => (p.state === "rising" ? 0 : p.state === "flat" ? 1 : 2);
  const shown = [...posts].sort((a, b) => order(a) - order(b) || b.published_at.localeCompare(a.published_at));
  return (
    <section aria-labelledby="under-way-title">
      <div className="flex items-baseline justify-between gap-3">
        <h2 id="under-way-title" className="text-[16px] leading-6">
          {underWayTitle(posts)}
        </h2>
        {most !== undefined && posts.length > most && (
          <Link to={`/${brand.slug}/foresight`} className="label under shrink-0 hover:text-berry">
            all of them
          </Link>
        )}
      </div>
      <Rows posts={most === undefined ? shown : shown.slice(0, most)} hasBars={most !== undefined} />
    </section>
  );
}

/** hasBars: where a post is heading as a bar alone, where there is little room; with figures elsewhere, and on a phone. */
export function Rows({ posts, hasBars = false }: { posts: readonly Young[]; hasBars?: boolean }) {
  return (
    <table className="w-full table-fixed">
      <thead className="label text-right">
        <tr className="rowline h-6">
          <th className="text-left font-normal">Post</th>
          <th className="w-[44px] font-normal">Age</th>
          <th className="w-[52px] font-normal">Now</th>
          <th className="w-[52px] font-normal">Index</th>
          {!hasBars && <th className="w-[150px] font-normal narrow:hidden">Heading for, 80 %</th>}
          <th className="w-[136px] pl-3 text-left font-normal narrow:w-[64px] narrow:pl-1 narrow:text-right">
            <span className={hasBars ? "narrow:hidden" : "sr-only"}>Heading for, 80 %</span>
            <span className="hidden narrow:inline" aria-hidden="true">
              Heading
            </span>
          </th>
        </tr>
      </thead>
      <tbody>
        {posts.map((post) => (
          <Row key={post.id} post={post} hasBars={hasBars} />
        ))}
      </tbody>
    </table>
  );
}

function Row({ post, hasBars }: { post: Young; hasBars: boolean }) {
  const { brand, networks } = useBrand();
  const state = stateOf(post);
  return (
    <tr className="rowline h-7 text-right hover:bg-panel" title={youngWords(post)}>
      <td className="pr-2 text-left">
        <span className="flex min-w-0 items-center gap-2">
          <NetworkMark network={networkNamed(networks, post.network)} />
          <Link
            to={`/${brand.slug}/results/posts/${post.id}`}
            className="block min-w-0 py-1 leading-5 hover:text-berry"
          >
            <Cut>{post.text || "without text"}</Cut>
          </Link>
          {state.word && (
            <span className="shrink-0 whitespace-nowrap">
              <StateWord tone={state.tone}>{state.word}</StateWord>
            </span>
          )}
        </span>
      </td>
      <td className="whitespace-nowrap text-muted">{ageWords(post.age_hours)}</td>
      <td>{figure(post.count)}</td>
      <td className="font-semibold">{figure(post.index, "index")}</td>
      {!hasBars && (
        <td className="whitespace-nowrap narrow:hidden">
          <span className="font-semibold">{figure(post.heading)}</span>{" "}
          <span className="text-muted">
            {figure(post.heading_low)}–{figure(post.heading_high)}
          </span>
        </td>
      )}
      <td className="pl-3 text-left narrow:pl-1 narrow:text-right">
        <span className="narrow:hidden">
          <Heading post={post} />
        </span>
        <span className="hidden narrow:inline" aria-hidden="true">
          {figure(post.heading)}
        </span>
        <span className="sr-only">{youngWords(post)}</span>
      </td>
    </tr>
  );
}

/** What it has, as a bar; what it is heading for, as a mark with its interval; what is typical of it in the end, dotted. */
function Heading({ post }: { post: Young }) {
  const final = post.typical !== null && post.index ? (post.heading / (post.count || 1)) * post.typical : null;
  const most = Math.max(post.heading_high, final ?? 0, 1) * 1.02;
  const x = (value: number) => (BAR * value) / most;
  return (
    <svg width={BAR + 2} height="13" aria-hidden="true" className="inline-block align-middle">
      <rect width={x(post.count)} y="3" height="7" fill="var(--q3)" />
      <rect
        x={x(post.heading_low)}
        width={Math.max(1, x(post.heading_high) - x(post.heading_low))}
        y="3"
        height="7"
        fill="var(--berry)"
        opacity="0.25"
      />
      <rect x={Math.max(0, x(post.heading) - 1.25)} width="2.5" height="13" fill="var(--berry)" />
      {final !== null && <line x1={x(final)} x2={x(final)} y1="0" y2="13" stroke="var(--ink)" strokeDasharray="2 2" />}
    </svg>
  );
}
