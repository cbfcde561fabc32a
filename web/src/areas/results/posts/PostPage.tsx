import { type ReactNode, useState } from "react";
import { Link, useLocation, useNavigate, useParams } from "react-router";
import { GrowthChart } from "../../../charts/GrowthChart";
import { SaveAs } from "../../../figures/SaveAs";
import { moment, published } from "../../../lib/days";
import { figure, formatNames, percent, plural } from "../../../lib/format";
import { useBrand, useNetwork } from "../../../study/brand";
import { AskForIdea } from "../../../study/KeepIdea";
import { MinuteLine } from "../../../study/line/MinuteLine";
import { useCampaigns } from "../../../study/queries";
import { languageName } from "../../../study/study";
import { Button } from "../../../ui/Button";
import { Choice } from "../../../ui/Choice";
import { NetworkMark } from "../../../ui/Marks";
import { Failed, Loading } from "../../../ui/States";
import { useToast } from "../../../ui/Toast";
import { PostOutlook, usePostCourse } from "../../foresight";
import { HiddenMark } from "../PostLink";
import { AskForBoost, Boosted } from "../paid/Boosted";
import { useComments, useLinksOfPost, usePost, useSetCampaign, useTagPosts, useWriteAgain } from "../queries";
import { TagMark } from "../tags/TagMark";
import { TagSheet } from "../tags/TagSheet";
import { ComesBack } from "./ComesBack";

/** One post: what it said, how it grew against typical, what it was made of. */
export function PostPage() {
  const { brand } = useBrand();
  const { post: id } = useParams();
  const { search } = useLocation();
  const found = usePost(brand.slug, Number(id));
  return (
    <>
      <MinuteLine />
      {found.error ? (
        <Failed error={found.error} onRetry={() => found.refetch()} />
      ) : !found.data ? (
        <Loading what="Loading the post" />
      ) : (
        <Detail post={found.data} back={`/${brand.slug}/results/posts${search}`} />
      )}
    </>
  );
}

const AGE_ROWS: Record<number, string> = { [-1]: "Final", 0: "As last seen" };
const ageOf = (age: number) => ({ [-1]: "at its final count", 0: "at its present age" })[age] ?? `at ${age} hours`;

type Post = NonNullable<ReturnType<typeof usePost>["data"]>;

function Detail({ post, back }: { post: Post; back: string }) {
  const { brand, can } = useBrand();
  const network = useNetwork(post.network);
  const ahead = usePostCourse(post.id);
  const latest = post.ages.find((a) => a.age_hours === 0);
  const judged = post.ages.filter((a) => a.index !== null);
  const grown = [72, -1, 0].map((age) => judged.find((a) => a.age_hours === age)).find(Boolean) ?? judged.at(-1);
  // A young post by the growth that its profile's readings tell.
  const main = ahead?.index != null ? { index: ahead.index, age_hours: 0 } : grown;
  const verdict = !main?.index
    ? "How it grew so far"
    : main.index >= 1.25
      ? `${figure(main.index, "index")} times a typical post ${ageOf(main.age_hours)}`
      : main.index <= 0.8
        ? `Below typical: ${figure(main.index, "index")} ${ageOf(main.age_hours)}`
        : `About typical: ${figure(main.index, "index")} ${ageOf(main.age_hours)}`;
  return (
    <div className="grid min-h-0 flex-1 grid-cols-[3fr_2fr]">
      <section className="min-w-0 overflow-y-auto border-r border-rule px-5 py-3">
        <Link to={back} className="label under inline-flex h-6 items-center hover:text-berry">
          All posts
        </Link>
        <div className="flex items-baseline justify-between gap-4">
          <h1 className="text-[19px] leading-6">{verdict}</h1>
          <SaveAs name="post" table={{ kind: "results.growth", params: { post: post.id } }} />
        </div>
        <p className="label">
          Interactions as read, solid; typical of {post.profile} on {network.name} at each age, dashed.
        </p>
        <GrowthChart readings={post.readings} ages={post.ages} ahead={ahead} />
        <PostOutlook post={post.id} />
        <table className="mt-2 w-full">
          <thead className="label">
            <tr className="rowline">
              <th className="text-left font-normal">Age</th>
              {["Interactions", "Typical", "Index", "Impressions", "Reach", "Clicks"].map((name) => (
                <th key={name} className="text-right font-normal">
                  {name}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {post.ages.map((a) => (
              <tr key={a.age_hours} className="rowline h-7">
                <td>
                  {AGE_ROWS[a.age_hours] ??
                    (a.age_hours < 100 ? plural(a.age_hours, "hour") : plural(a.age_hours / 24, "day"))}
                </td>
                <td className="text-right font-semibold">{figure(a.interactions)}</td>
                <td className="text-right">{figure(a.typical)}</td>
                <td className="text-right font-semibold">{figure(a.index, "index")}</td>
                <td className="text-right">{figure(a.impressions)}</td>
                <td className="text-right">{figure(a.reach)}</td>
                <td className="text-right">{figure(a.link_clicks)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </section>
      <section className="min-w-0 overflow-y-auto px-5 py-3">
        <div className="flex items-center gap-2">
          <NetworkMark network={network} />
          <span className="font-semibold">{post.profile}</span>
          <span className="label">{published(post, brand.time_zone)}</span>
          <HiddenMark hidden={post.hidden} />
        </div>
        <p className="my-3 border-l-2 border-rule-strong pl-3 font-title text-[16px] leading-6 whitespace-pre-wrap">
          {post.text || "This post has no text."}
        </p>
        {post.picture && (
          <img
            src={post.picture}
            alt="As shown at the network"
            className="mb-3 max-h-[180px] border border-rule object-contain"
          />
        )}
        {post.removed_at && (
          <p className="mb-3 font-semibold text-down">
            Taken down at the network; seen last {moment(post.removed_at, brand.time_zone)}.
          </p>
        )}
        <dl className="grid grid-cols-[auto_1fr] gap-x-5 gap-y-1.5">
          <Row name="Format">{formatNames[post.format]}</Row>
          <Row name="Campaign">
            <CampaignChoice post={post} />
          </Row>
          <Row name="Tags">
            <PostTags post={post} />
          </Row>
          {post.language && <Row name="Language">{languageName(post.language)}</Row>}
          {post.is_boosted !== null && (
            <Row name="Boosted">{post.is_boosted ? "yes: money showed it to more people" : "no"}</Row>
          )}
          <Row name="Hashtags">{post.hashtags.map((tag) => `#${tag}`).join(" ") || "none"}</Row>
          <Row name="Followers then">{figure(post.followers)}</Row>
          <Row name="Per impression">
            {latest?.interactions && latest.impressions ? percent(latest.interactions / latest.impressions) : "–"}
          </Row>
          <Row name="Readings">{post.readings.length}</Row>
          {post.url && (
            <Row name="At the network">
              <span className="break-all text-muted">{post.url}</span>
            </Row>
          )}
        </dl>
        {latest && <MadeOf latest={latest} />}
        {post.is_own && <TrackedClicks id={post.id} reported={latest?.link_clicks ?? null} />}
        {post.is_own && <Boosted post={post.id} impressions={latest?.impressions} />}
        {post.is_own && <Comments id={post.id} />}
        <p className="mt-4 flex flex-wrap items-center gap-4">
          {can("plan.write") && post.is_own && <WriteAgain id={post.id} />}
          {can("plan.write") && post.is_own && <ComesBack id={post.id} />}
          {post.is_own && <AskForBoost post={post.id} />}
          <AskForIdea begun={{ origin: { origin: "post", post: post.id }, seen: post.text || "without text" }} />
        </p>
      </section>
    </div>
  );
}

/** One step to a new draft with its words; its links are made anew, so that the clicks are told apart. */
function WriteAgain({ id }: { id: number }) {
  const { brand } = useBrand();
  const navigate = useNavigate();
  const say = useToast();
  const again = useWriteAgain(brand.slug);
  const begin = () =>
    again.mutate(id, {
      onSuccess: (draft) => {
        const links = draft.versions.filter((version) => version.link_id !== null).length;
        if (links > 0) say("Its links lead to the same pages and are new, so that their clicks are told apart.");
        navigate(`/${brand.slug}/plan/${draft.id}`);
      },
      onError: (error) => say(error.message, "wrong"),
    });
  return (
    <Button isBusy={again.isPending} onClick={begin}>
      Write a new one from it
    </Button>
  );
}

/** What people wrote, the newest first; what was taken away is shown as such. */
function Comments({ id }: { id: number }) {
  const { brand } = useBrand();
  const comments = useComments(brand.slug, id, true);
  if (!comments.data?.length) return null;
  return (
    <>
      <h2 className="mt-5 text-[16px]">{plural(comments.data.length, "comment")}</h2>
      <ul className="max-h-[300px] overflow-y-auto" tabIndex={0} aria-label="Comments">
        {comments.data.map((c) => (
          <li key={c.id} className="rowline py-1.5">
            <span className="font-semibold">{c.author}</span>{" "}
            <span className="label">{moment(c.written_at, brand.time_zone)}</span>
            <span className={`block ${c.removed_at ? "text-muted line-through" : ""}`}>{c.text}</span>
          </li>
        ))}
      </ul>
    </>
  );
}

function Row({ name, children }: { name: string; children: ReactNode }) {
  return (
    <>
      <dt className="label pt-0.5">{name}</dt>
      <dd>{children}</dd>
    </>
  );
}

type Age = Post["ages"][number];

/** Where its interactions came from, each part as a share of them. */
function MadeOf({ latest }: { latest: Age }) {
  const parts = [
    ["Reactions", latest.reactions],
    ["Comments", latest.comments],
    ["Shares", latest.shares],
    ["Saves", latest.saves],
  ] as const;
  const total = latest.interactions ?? 0;
  return (
    <div className="mt-5">
      <h2 className="text-[16px]">Where its interactions came from</h2>
      <table className="mt-1 w-full">
        <tbody>
          {parts.map(([name, value]) => (
            <tr key={name} className="rowline h-7">
              <th scope="row" className="w-24 text-left font-normal">
                {name}
              </th>
              <td className="w-20 text-right font-semibold">
                {value === null ? <span className="font-normal text-muted">not reported</span> : figure(value)}
              </td>
              <td className="w-16 pl-3 text-right text-muted">
                {value !== null && total > 0 ? percent(value / total) : ""}
              </td>
              <td className="pl-3">
                {value !== null && total > 0 && (
                  <svg width="100%" height="9" aria-hidden="true">
                    <rect width={`${(100 * value) / total}%`} height="9" fill="var(--berry)" />
                  </svg>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

/** Clicks on the tracked links in it, beside what the network reports. */
function TrackedClicks({ id, reported }: { id: number; reported: number | null }) {
  const { brand } = useBrand();
  const links = useLinksOfPost(brand.slug, id).data?.links ?? [];
  if (links.length === 0 && reported === null) return null;
  return (
    <div className="mt-5">
      <h2 className="text-[16px]">Clicks</h2>
      <p>
        {reported === null
          ? "The network reports no clicks."
          : `The network reports ${plural(Math.round(reported), "click")}.`}
      </p>
      {links.map((link) => (
        <p key={link.id} className="rowline py-1">
          <Link to={`/${brand.slug}/links/${link.id}`} className="under hover:text-berry">
            {link.name}
          </Link>{" "}
          {plural(link.clicks_ever, "click")} of people, counted by us
        </p>
      ))}
    </div>
  );
}

function CampaignChoice({ post }: { post: Post }) {
  const { brand, can } = useBrand();
  const canChange = can("results.tag");
  const campaigns = useCampaigns(brand.slug).data ?? [];
  const change = useSetCampaign(brand.slug, post.id);
  if (!canChange || !post.is_own) return <>{post.campaign ?? "none"}</>;
  return (
    <Choice
      label="Campaign of the post"
      value={String(post.campaign_id ?? "")}
      options={[{ value: "", label: "none" }, ...campaigns.map((c) => ({ value: String(c.id), label: c.name }))]}
      onChoose={(value) => change.mutate(value ? Number(value) : null)}
    >
      {post.campaign ?? "none"}
    </Choice>
  );
}

function PostTags({ post }: { post: Post }) {
  const { brand, can } = useBrand();
  const canChange = can("results.tag");
  const [isOpen, setOpen] = useState(false);
  const change = useTagPosts(brand.slug);
  return (
    <span className="flex flex-wrap items-center gap-x-3 gap-y-1">
      {post.tags.length === 0 && "none"}
      {post.tags.map((tag) => (
        <span key={tag.id} className="inline-flex items-center gap-1">
          <TagMark name={tag.name} colour={tag.colour} />
          {tag.is_by_rule && <span className="label">by rule</span>}
          {canChange && (
            <button
              type="button"
              aria-label={`Take ${tag.name} off`}
              className="h-6 px-1 text-muted hover:text-berry"
              onClick={() => change.mutate({ posts: [post.id], take_off: [tag.id] })}
            >
              ×
            </button>
          )}
        </span>
      ))}
      {canChange && (
        <button type="button" className="under h-6 hover:text-berry" onClick={() => setOpen(true)}>
          Tag it
        </button>
      )}
      <TagSheet
        isOpen={isOpen}
        onClose={() => setOpen(false)}
        posts={[post.id]}
        rows={[{ id: post.id, tags: post.tags.map((t) => t.id) }]}
      />
    </span>
  );
}
