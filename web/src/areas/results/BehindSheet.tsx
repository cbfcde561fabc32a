import { Link, useLocation } from "react-router";
import { longDay, published } from "../../lib/days";
import { figure, percent } from "../../lib/format";
import { useBrand, useNetwork } from "../../study/brand";
import { carriedAll, useStudy } from "../../study/study";
import { Cut } from "../../ui/Cut";
import { CellBar, NetworkMark } from "../../ui/Marks";
import { Sheet } from "../../ui/Sheet";
import { Failed, Loading } from "../../ui/States";
import { PostLink } from "./PostLink";
import { useBehind } from "./queries";
import { behindText } from "./rules";

type Behind = NonNullable<ReturnType<typeof useBehind>["data"]>;
type Props = { metric: string; name: string; day: string | null; onClose: () => void };

function followersText(b: Behind, isOfGains: boolean): string {
  const [beyond, did] = isOfGains ? ["more reactions", "gained"] : ["more hides and reports", "lost"];
  const order = `These posts were published on it and the two days before; first those with ${beyond} than is usual on a profile that ${did} more than usual.`;
  const none = `Of none of them that is told: they stand in the order of what their profiles ${did} beyond it.`;
  return [b.is_spike && "It stands out.", order, !b.posts.some((post) => post.share > 0) && none]
    .filter(Boolean)
    .join(" ");
}

/** What is behind a day: how far it lies from the usual, and the posts that make that up. */
export function BehindSheet({ metric, name, day, onClose }: Props) {
  const { brand } = useBrand();
  const { search } = useLocation();
  const { study, change } = useStudy();
  const behind = useBehind(brand.slug, study, metric, day);
  const b = behind.data;
  const isOfFollowers = metric.endsWith("_followers");
  const isOfGains = b?.told === "interactions";
  const max = Math.max(0.01, ...(b?.posts.map((p) => p.share) ?? []));
  return (
    <Sheet isOpen={day !== null} onClose={onClose} title={day ? `${name} on ${longDay(day)}` : ""}>
      {behind.error ? (
        <Failed error={behind.error} onRetry={() => behind.refetch()} />
      ) : !b ? (
        <Loading />
      ) : (
        <>
          <p className="text-[22px] leading-7 font-semibold">
            {figure(b.value)}
            {b.level !== null && (
              <span className="text-[15px] font-normal text-muted"> against a usual {figure(b.level)}</span>
            )}
          </p>
          <p className="mt-1">{isOfFollowers ? followersText(b, isOfGains) : behindText(b)}</p>
          {b.z !== null && (
            <p className="label mt-1">
              {Math.abs(b.z).toFixed(1)} robust standard deviations {b.z >= 0 ? "above" : "below"} the level of such
              days; a day is marked beyond 3.5, a dip of counts beyond 4.5.
            </p>
          )}
          {b.profiles.length > 0 && (
            <ul className="mt-2" aria-label={isOfGains ? "Profiles that gained more" : "Profiles that lost more"}>
              {b.profiles.slice(0, 4).map((profile) => (
                <li key={profile.id} className="flex items-center gap-2 py-0.5">
                  <ProfileMark network={profile.network} />
                  <Cut>{profile.name}</Cut>
                  <b>{figure(profile.value)}</b>
                  <span className="text-muted">usually {figure(profile.usual)}</span>
                </li>
              ))}
            </ul>
          )}
          {b.unusual.length > 0 && (
            <ul className="mt-3" aria-label="Posts far above their typical">
              {b.unusual.map((post) => (
                <li key={post.id} className="flex items-baseline gap-2 py-1">
                  <b>{figure(post.index, "index")}</b>
                  <Link
                    to={`/${brand.slug}/results/posts/${post.id}${carriedAll(search)}`}
                    className="under line-clamp-1 min-w-0 hover:text-berry"
                  >
                    {post.text || "A post without words"}
                  </Link>
                </li>
              ))}
            </ul>
          )}
          {b.posts.length > 0 && (
            <ul className="mt-4" aria-label="Posts behind this day">
              {b.posts.map((post) => (
                <li key={post.id} className="rowline py-2">
                  <PostLink post={post} lines={2} />
                  <p className="label mt-0.5 flex items-center gap-2">
                    {isOfFollowers ? (
                      <>
                        {post.share > 0 && <CellBar value={post.share} max={max} />}
                        {post.share > 0 && `${percent(post.share)} is laid to it; `}
                        {published(post, brand.time_zone)}
                        {post.brought > 0 &&
                          (isOfGains
                            ? `; ${figure(post.brought)} interactions so far, usually ${figure(post.usual)}`
                            : `; hidden or reported ${figure(post.brought)} times, usually ${figure(post.usual)}`)}
                      </>
                    ) : (
                      <>
                        {post.share > 0 && <CellBar value={post.share} max={max} />}
                        {post.share > 0 ? `${percent(post.share)} of it; ` : ""}brought {figure(post.brought)}, such
                        posts usually {figure(post.usual)}
                      </>
                    )}
                  </p>
                </li>
              ))}
            </ul>
          )}
          <div className="mt-4 flex flex-wrap gap-4">
            {day && (
              <button
                type="button"
                className="under font-semibold hover:text-berry"
                onClick={() => change({ first: day, last: day, day: undefined })}
              >
                Study this day alone
              </button>
            )}
            {day && (
              <Link
                className="under hover:text-berry"
                to={`/${brand.slug}/results/posts?first=${day}&last=${day}&sort=-interactions`}
              >
                Its posts
              </Link>
            )}
          </div>
        </>
      )}
    </Sheet>
  );
}

function ProfileMark({ network }: { network: string }) {
  const known = useNetwork(network);
  return <NetworkMark network={known} />;
}
