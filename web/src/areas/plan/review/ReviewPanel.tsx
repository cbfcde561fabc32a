import { useEffect, useState } from "react";
import { useBrand } from "../../../study/brand";
import { Failed, Loading } from "../../../ui/States";
import { contentOf } from "../../media";
import { useReview, useReviewing } from "./queries";
import { type About, SeenPost } from "./SeenPost";
import { Talk } from "./Talk";
import { TasksOf } from "./Tasks";

/** Saying yes to a post within the team: what it is, what changed since one looked, what was said. */
export function ReviewPanel({ planned }: { planned: number }) {
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
  return (
    <>
      <Talk
        review={review.data}
        zone={brand.time_zone}
        about={about}
        onAbout={setAbout}
        say={doing.say}
        remark={doing.remark}
        vote={doing.vote}
        settle={can("plan.write") ? doing.settle : undefined}
      />
      <TasksOf planned={planned} />
      <h2 className="mt-4 text-[16px]">As it will go out</h2>
      <SeenPost
        review={review.data}
        zone={brand.time_zone}
        networks={Object.fromEntries(networks.map((one) => [one.key, one.name]))}
        picture={(asset) => contentOf(brand.slug, asset, "preview")}
        onAbout={setAbout}
      />
    </>
  );
}
