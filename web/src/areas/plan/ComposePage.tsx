import { Link, useParams, useSearchParams } from "react-router";
import { dayOf, timeOf } from "../../lib/days";
import { useBrand } from "../../study/brand";
import { MinuteLine } from "../../study/line/MinuteLine";
import { useProfiles } from "../../study/queries";
import { Empty, Failed, Loading } from "../../ui/States";
import { Composer } from "./Composer";
import { type Planned, usePlannedPost } from "./queries";
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
          {planned.data?.from_post && <FromPost planned={planned.data} />}
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

/** What gave the idea: the way back to the post, and what is worth taking from it. */
function FromPost({ planned }: { planned: Planned }) {
  const { brand } = useBrand();
  return (
    <p className="border-b border-rule px-5 py-1.5 narrow:px-3">
      An idea from{" "}
      <Link to={`/${brand.slug}/results/posts/${planned.from_post}`} className="under hover:text-berry">
        a post
      </Link>
      {planned.note && <>: {planned.note}</>}
    </p>
  );
}
