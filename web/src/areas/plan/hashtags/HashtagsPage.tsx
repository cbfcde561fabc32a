import { Fragment, useState } from "react";
import { Link, useSearchParams } from "react-router";
import type { ProblemError } from "../../../api/client";
import { SaveAs } from "../../../figures/SaveAs";
import { moment } from "../../../lib/days";
import { plural, short } from "../../../lib/format";
import { networkNamed, useBrand } from "../../../study/brand";
import { MinuteLine } from "../../../study/line/MinuteLine";
import { Button } from "../../../ui/Button";
import { inputLook } from "../../../ui/Field";
import { Empty, Failed, Loading } from "../../../ui/States";
import { CourseChart } from "./CourseChart";
import { type Hashtag, useFollowedHashtags, useFollowing, useHashtagCourse } from "./queries";
import { moodWords, tagsIn, timesWords, toneOf, usesWords, warnings } from "./rules";
import { Sets } from "./Sets";

/** Hashtags that are followed: how they do for us and in the field, how much they are used, over time; and sets. */
export function HashtagsPage() {
  const { brand, can } = useBrand();
  const [params, setParams] = useSearchParams();
  const open = params.get("tag");
  const followed = useFollowedHashtags(brand.slug);
  const { follow, leave } = useFollowing(brand.slug);
  const [typed, setTyped] = useState("");
  const canChange = can("plan.write");
  const error = (follow.error ?? leave.error) as ProblemError | null;
  return (
    <>
      <MinuteLine turned="future" hasBrush={false} />
      <div className="flex min-h-[34px] flex-wrap items-center gap-x-3 border-b border-rule px-5 narrow:px-3">
        <Link to={`/${brand.slug}/plan`} className="under hover:text-berry">
          Calendar
        </Link>
        <h1 className="text-[16px]">Hashtags</h1>
        <Link to={`/${brand.slug}/results/groups?by=hashtag`} className="under ml-auto hover:text-berry">
          All of yours in Results
        </Link>
        <Link to={`/${brand.slug}/competitors/works`} className="under hover:text-berry">
          What works in the field
        </Link>
      </div>
      <div className="grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)_minmax(280px,340px)]">
        <section className="min-w-0 overflow-y-auto px-5 py-3 narrow:px-3" aria-label="Followed hashtags">
          {canChange && (
            <form
              className="mb-2 flex max-w-[420px] gap-2"
              onSubmit={(event) => {
                event.preventDefault();
                const [tag] = tagsIn(typed);
                if (tag) follow.mutate(tag, { onSuccess: () => setTyped("") });
              }}
            >
              <input
                aria-label="A hashtag to follow"
                placeholder="A hashtag to follow"
                className={inputLook}
                value={typed}
                onChange={(event) => setTyped(event.target.value)}
              />
              <Button type="submit" disabled={tagsIn(typed).length === 0} isBusy={follow.isPending}>
                Follow
              </Button>
            </form>
          )}
          {error && <p className="text-down">{error.fields.tag ?? error.message}</p>}
          {followed.error ? (
            <Failed error={followed.error} onRetry={() => followed.refetch()} />
          ) : !followed.data ? (
            <Loading what="Loading the hashtags" />
          ) : followed.data.tags.length === 0 ? (
            <Empty title="No hashtag is followed yet">
              Follow some to see how they do month by month, and how much they are used.
            </Empty>
          ) : (
            <table className="w-full">
              <caption className="label text-left">
                Times the other posts of the same profile and format, over a year, 95 %
                {followed.data.is_asked && ". Networks are being asked"}
              </caption>
              <thead className="label">
                <tr className="rowline">
                  {["Hashtag", "You", "Posts", "Field", "Uses, as networks tell", ""].map((name, i) => (
                    <th key={name} className={`font-normal ${i === 0 || i > 3 ? "text-left" : "text-right"} pr-3`}>
                      {name}
                    </th>
                  ))}
                </tr>
              </thead>
              <tbody>
                {followed.data.tags.map((one) => (
                  <Fragment key={one.tag}>
                    <Row
                      tag={one}
                      isOpen={open === one.tag}
                      onOpen={() => setParams(open === one.tag ? {} : { tag: one.tag })}
                      onLeave={canChange ? () => leave.mutate(one.tag) : undefined}
                    />
                    {open === one.tag && (
                      <tr>
                        <td colSpan={6} className="pb-3">
                          <Opened tag={one.tag} />
                        </td>
                      </tr>
                    )}
                  </Fragment>
                ))}
              </tbody>
            </table>
          )}
        </section>
        <section className="min-w-0 overflow-y-auto border-l border-rule px-4 py-3" aria-label="Sets of hashtags">
          <Sets />
        </section>
      </div>
    </>
  );
}

type RowProps = { tag: Hashtag; isOpen: boolean; onOpen: () => void; onLeave?: () => void };

function Row({ tag, isOpen, onOpen, onLeave }: RowProps) {
  const { networks } = useBrand();
  const nameOf = (key: string) => networkNamed(networks, key).name;
  const beware = warnings(tag, nameOf);
  return (
    <tr className="rowline align-top">
      <td className="py-1.5 pr-3">
        <button
          type="button"
          aria-expanded={isOpen}
          className="under min-h-6 text-left font-semibold whitespace-nowrap hover:text-berry"
          onClick={onOpen}
        >
          #{tag.tag}
        </button>
        {beware.map((words) => (
          <span key={words} className="block text-[12.5px] text-down">
            {words}
          </span>
        ))}
      </td>
      <td className={`py-1.5 pr-3 text-right whitespace-nowrap ${toneOf(tag.own)}`}>{timesWords(tag.own)}</td>
      <td className="py-1.5 pr-3 text-right">{tag.own?.posts ?? 0}</td>
      <td className={`py-1.5 pr-3 text-right whitespace-nowrap ${toneOf(tag.field)}`}>{timesWords(tag.field)}</td>
      <td className="min-w-[200px] py-1.5 pr-3">
        {usesWords(tag, nameOf) || "not known yet"}
        {moodWords(tag, nameOf) && <span className="label block">{moodWords(tag, nameOf)}</span>}
      </td>
      <td className="py-1.5 text-right">
        {onLeave && (
          <button
            type="button"
            className="under min-h-6 hover:text-down"
            aria-label={`Leave #${tag.tag}`}
            onClick={onLeave}
          >
            leave
          </button>
        )}
      </td>
    </tr>
  );
}

function Opened({ tag }: { tag: string }) {
  const { brand, networks } = useBrand();
  const course = useHashtagCourse(brand.slug, tag);
  if (course.error) return <Failed error={course.error} onRetry={() => course.refetch()} />;
  if (!course.data) return <Loading what="Loading its months" />;
  const readings = course.data.readings;
  return (
    <>
      <CourseChart course={course.data} />
      <SaveAs
        name="hashtag"
        table={{ kind: "plan.hashtag", params: { hashtag: tag } }}
        report={{ kind: "plan.hashtag", params: { hashtag: tag }, drawing: "course" }}
      />
      {readings.length > 0 && (
        <p className="mt-1">
          Uses over time:{" "}
          {[...new Set(readings.map((one) => one.network))].map((key) => {
            const of = readings.filter((one) => one.network === key);
            const [first, last] = [of[0], of.at(-1)];
            if (!first || !last) return null;
            const name = networkNamed(networks, key).name;
            return (
              <span key={key} className="mr-3">
                {name} {short(last.uses)}
                <span className="label">
                  {" "}
                  {of.length > 1
                    ? `from ${short(first.uses)} on ${moment(first.at, brand.time_zone)}, ${plural(of.length, "reading")}`
                    : `read ${moment(last.at, brand.time_zone)}; more come day by day`}
                </span>
              </span>
            );
          })}
        </p>
      )}
      <p className="mt-1 flex gap-4">
        <Link
          to={`/${brand.slug}/results/posts?text=${encodeURIComponent(`#${tag}`)}`}
          className="under hover:text-berry"
        >
          Your posts with it
        </Link>
        <Link
          to={`/${brand.slug}/competitors/posts?hashtag=${encodeURIComponent(tag)}`}
          className="under hover:text-berry"
        >
          The field’s posts with it
        </Link>
      </p>
    </>
  );
}
