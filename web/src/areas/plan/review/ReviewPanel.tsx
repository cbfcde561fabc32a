import { useEffect, useState } from "react";
import { Link } from "react-router";
import { useBrand } from "../../../study/brand";
import { Failed, Loading } from "../../../ui/States";
import { contentOf } from "../../media";
import { Log } from "./Log";
import { useReview, useReviewing } from "./queries";
import { type About, SeenPost } from "./SeenPost";
import { Talk } from "./Talk";
import { TasksOf } from "./Tasks";

/** Saying yes to a post within the team: what it is, what changed since one looked, what was said. */
export function ReviewPanel({ planned, isAlone }: { planned: number; isAlone?: boolean }) {
  const { brand, networks, can } = useBrand();
  const review = useReview(brand.slug, planned);
  const doing = useReviewing(brand.slug, planned);
  const [about, setAbout] = useState<About | null>(null);
  const looked = doing.looked.mutate;
  useEffect(() => {
    // Leaving is having looked: while one is here, what changed stays marked.
    return () => looked();
  }, [looked]);
  if (review.error) return <Failed error={review.error} onRetry={() => review.refetch()} />;
  if (!review.data) return <Loading what="Loading what was said" />;
  const names = Object.fromEntries(networks.map((one) => [one.key, one.name]));
  const seen = (
    <SeenPost
      review={review.data}
      zone={brand.time_zone}
      networks={names}
      picture={(asset) => contentOf(brand.slug, asset, "preview")}
      onAbout={setAbout}
    />
  );
  const said = (
    <>
      <Talk
        review={review.data}
        zone={brand.time_zone}
        networks={names}
        about={about}
        onAbout={setAbout}
        say={doing.say}
        remark={doing.remark}
        vote={doing.vote}
        settle={can("plan.write") ? doing.settle : undefined}
      />
      <TasksOf planned={planned} />
      <Log planned={planned} />
    </>
  );
  // By itself the post comes first; beside the field in which it is written, what was said of it does.
  if (isAlone)
    return (
      <div className="grid grid-cols-[minmax(0,3fr)_minmax(0,2fr)] gap-8">
        <div>
          <h2 className="text-[18px]">{review.data.title || "Untitled"}</h2>
          {seen}
          <Link to={`/${brand.slug}/plan/${planned}`} className="under mt-2 inline-block min-h-6 hover:text-berry">
            Open it to write
          </Link>
        </div>
        <div>{said}</div>
      </div>
    );
  return (
    <>
      {said}
      <h2 className="mt-4 text-[16px]">As it will go out</h2>
      {seen}
    </>
  );
}
