import { Link, Navigate, useParams, useSearchParams } from "react-router";
import { dayOf, shortDay, timeOf } from "../../lib/days";
import { figure } from "../../lib/format";
import { useBrand } from "../../study/brand";
import { MinuteLine } from "../../study/line/MinuteLine";
import { useProfiles } from "../../study/queries";
import { Empty, Failed, Loading } from "../../ui/States";
import { usePost } from "../results";
import { Composer } from "./Composer";
import { type Planned, usePlannedPost } from "./queries";
import { OfRepetition } from "./repeat/OfRepetition";
import { type Draft, EMPTY } from "./rules";
import { draftOf } from "./useDraft";

/** Writing a post: new, at an hour, or one that is planned already. */
export function ComposePage() {
  const { brand, networks, now, today, can } = useBrand();
  const canChange = can("plan.write");
  const { planned: id } = useParams();
  const [params] = useSearchParams();
  const planned = usePlannedPost(brand.slug, id ? Number(id) : undefined);
  const sources = useProfiles(brand.slug);
  const takesPosts = new Set(networks.filter((n) => n.offer.has_publishing).map((n) => n.key));
  // A channel that nothing is connected to is planned for too: somebody publishes there by hand.
  const isByHand = (p: { is_from_file: boolean; network: string }) => p.is_from_file || !takesPosts.has(p.network);
  const own = (sources.data?.profiles ?? [])
    .filter((p) => p.kind === "own")
    .sort((a, b) => Number(isByHand(a)) - Number(isByHand(b)));
  const words = new Set(
    networks.filter((n) => n.offer.has_publishing && !n.media.need && !n.title_limit).map((n) => n.key),
  );
  const ready = own.filter((p) => p.authorisation === "valid" && words.has(p.network));
  const zone = brand.time_zone;
  const given = (): Partial<Draft> => {
    if (id) return {};
    const when = params.get("at");
    const isInstant = when !== null && !Number.isNaN(Date.parse(when));
    const profile = Number(params.get("profile"));
    const some = numbers(params.get("profiles")).filter((one) => own.some((p) => p.id === one));
    return {
      ...(isInstant && { day: dayOf(when, zone), time: timeOf(when, zone) }),
      ...(params.get("text") && { text: (params.get("text") ?? "").slice(0, 500) }),
      ...(params.get("media") && { media: numbers(params.get("media")) }),
      ...(params.get("campaign") && { campaign: Number(params.get("campaign")) || undefined }),
      ...(own.some((p) => p.id === profile) && { profiles: [profile] }),
      ...(some.length > 0 && { profiles: some }),
    };
  };
  const begin = (): Draft => {
    if (planned.data) return draftOf(planned.data, zone, today);
    // The next full hour that leaves half an hour to write; late in the evening that is tomorrow's.
    const soon = new Date(now.getTime() + 5_400_000).toISOString();
    return {
      ...EMPTY,
      profiles: ready.map((p) => p.id),
      day: dayOf(soon, zone),
      time: timeOf(soon, zone).replace(/:..$/, ":00"),
      ...given(),
    };
  };
  // An idea stays one: it is opened where ideas are, and drafts are written from it there.
  if (planned.data?.state === "idea")
    return <Navigate to={`/${brand.slug}/plan/ideas?idea=${planned.data.id}`} replace />;
  const error = planned.error ?? sources.error;
  const isWaiting = !sources.data || (id !== undefined && !planned.data);
  return (
    <>
      <MinuteLine turned="future" hasBrush={false} />
      <div className="flex h-[34px] items-center border-b border-rule px-5 narrow:px-3">
        <Link to={`/${brand.slug}/plan`} className="under hover:text-berry">
          Calendar
        </Link>
      </div>
      {error ? (
        <Failed error={error} onRetry={() => planned.refetch()} />
      ) : isWaiting ? (
        <Loading what="Loading the post" />
      ) : !canChange && !id ? (
        <Empty title="Nothing can be written here by you">You may look at this brand but not change it.</Empty>
      ) : (
        <>
          {planned.data?.repetition && <OfRepetition planned={planned.data.id} repetition={planned.data.repetition} />}
          {(planned.data?.from_idea || planned.data?.from_post) && <CameFrom planned={planned.data} />}
          <Composer key={id ?? `new-${params}`} planned={planned.data} begin={begin} given={given()} profiles={own} />
        </>
      )}
    </>
  );
}

const numbers = (told: string | null) =>
  (told ?? "")
    .split(",")
    .map(Number)
    .filter((one) => Number.isSafeInteger(one) && one > 0);

/** What it was written from: the way back to the idea, and to the post that gave it. */
function CameFrom({ planned }: { planned: Planned }) {
  const { brand } = useBrand();
  return (
    <p className="flex gap-x-4 border-b border-rule px-5 py-1.5 narrow:px-3">
      {planned.from_idea && (
        <Link to={`/${brand.slug}/plan/ideas?idea=${planned.from_idea}`} className="under hover:text-berry">
          The idea that it was written from
        </Link>
      )}
      {planned.from_post && <PostBefore id={planned.from_post} />}
    </p>
  );
}

/** The post that it was written from, and what that got. */
function PostBefore({ id }: { id: number }) {
  const { brand } = useBrand();
  const post = usePost(brand.slug, id).data;
  const seen = post?.ages.find((one) => one.age_hours === 0);
  return (
    <span>
      <Link to={`/${brand.slug}/results/posts/${id}`} className="under hover:text-berry">
        The post that gave it
      </Link>
      {post && seen && (
        <>
          {" "}
          got {figure(seen.interactions)} interactions
          {seen.index !== null && `, ${figure(seen.index, "index")} times typical`}
          {seen.link_clicks !== null && `, ${figure(seen.link_clicks)} link clicks`},{" "}
          {shortDay(dayOf(post.published_at, brand.time_zone))}
        </>
      )}
    </span>
  );
}
