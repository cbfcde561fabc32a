import type { ReactNode } from "react";
import { Link, useLocation, useParams } from "react-router";
import { useBrand, useNetwork } from "../../app/brand";
import { MinuteLine } from "../../app/line/MinuteLine";
import { GrowthChart } from "../../charts/GrowthChart";
import { moment } from "../../lib/days";
import { figure, formatNames, percent, plural } from "../../lib/format";
import { NetworkMark } from "../../ui/Marks";
import { Failed, Loading } from "../../ui/States";
import { useComments, usePost } from "./queries";

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

type Post = NonNullable<ReturnType<typeof usePost>["data"]>;

function Detail({ post, back }: { post: Post; back: string }) {
  const { brand, canChange } = useBrand();
  const network = useNetwork(post.network);
  const latest = post.ages.find((a) => a.age_hours === 0);
  const judged = post.ages.filter((a) => a.age_hours > 0 && a.index !== null);
  const main = judged.find((a) => a.age_hours === 72) ?? judged.at(-1);
  const verdict = !main?.index
    ? "How it grew so far"
    : main.index >= 1.25
      ? `${figure(main.index, "index")} times a typical post at ${main.age_hours} hours`
      : main.index <= 0.8
        ? `Below typical: ${figure(main.index, "index")} at ${main.age_hours} hours`
        : `About typical: ${figure(main.index, "index")} at ${main.age_hours} hours`;
  return (
    <div className="grid min-h-0 flex-1 grid-cols-[3fr_2fr]">
      <section className="min-w-0 overflow-y-auto border-r border-rule px-5 py-3">
        <Link to={back} className="label under inline-flex h-6 items-center hover:text-berry">
          All posts
        </Link>
        <h1 className="text-[19px] leading-6">{verdict}</h1>
        <p className="label">
          Interactions as read, solid; typical of {post.profile} on {network.name} at each age, dashed.
        </p>
        <GrowthChart readings={post.readings} ages={post.ages} />
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
                  {a.age_hours === 0
                    ? "As last seen"
                    : a.age_hours < 100
                      ? `${a.age_hours} hours`
                      : `${a.age_hours / 24} days`}
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
          <NetworkMark network={post.network} name={network.name} monogram={network.monogram} />
          <span className="font-semibold">{post.profile}</span>
          <span className="label">{moment(post.published_at, brand.time_zone)}</span>
        </div>
        <p className="my-3 border-l-2 border-rule-strong pl-3 font-title text-[16px] leading-6 whitespace-pre-wrap">
          {post.text || "This post has no text."}
        </p>
        {post.removed_at && (
          <p className="mb-3 font-semibold text-down">
            Taken down at the network; seen last {moment(post.removed_at, brand.time_zone)}.
          </p>
        )}
        <dl className="grid grid-cols-[auto_1fr] gap-x-5 gap-y-1.5">
          <Row name="Format">{formatNames[post.format]}</Row>
          <Row name="Campaign">{post.campaign ?? "none"}</Row>
          <Row name="Hashtags">{post.hashtags.map((tag) => `#${tag}`).join(" ") || "none"}</Row>
          <Row name="Followers then">{figure(post.followers)}</Row>
          <Row name="Made of">
            {figure(latest?.reactions)} reactions, {figure(latest?.comments)} comments, {figure(latest?.shares)} shares
          </Row>
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
        {post.is_own && <Comments id={post.id} />}
        {canChange && post.is_own && (
          <Link
            to={`/${brand.slug}/plan/new?profile=${post.profile_id}&text=${encodeURIComponent(post.text.slice(0, 1500))}`}
            className="under mt-4 inline-block font-semibold hover:text-berry"
          >
            Write a new one from it
          </Link>
        )}
      </section>
    </div>
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
