import { Link } from "react-router";
import { moment, shortDay } from "../../../lib/days";
import { plural } from "../../../lib/format";
import { useBrand } from "../../../study/brand";
import { useToast } from "../../../ui/Toast";
import { useEndRepetition, useRepetition } from "./queries";
import { ruleWords } from "./rules";

/** A post that is one of a repetition: which, the others, and taking back all that are not out. */
export function OfRepetition({ planned, repetition }: { planned: number; repetition: number }) {
  const { brand, can } = useBrand();
  const found = useRepetition(brand.slug, repetition).data;
  const end = useEndRepetition(brand.slug);
  const say = useToast();
  if (!found) return null;
  const place = found.posts.findIndex((one) => one.id === planned);
  const [before, after] = [found.posts[place - 1], found.posts[place + 1]];
  const waiting = found.posts.filter((one) => !["published", "publishing"].includes(one.state)).length;
  return (
    <p className="flex flex-wrap items-baseline gap-x-4 border-b border-rule px-5 py-1.5 narrow:px-3">
      <span>
        Comes again {ruleWords(found.rule)}, {shortDay(found.first)} to {shortDay(found.last)}: {place + 1} of{" "}
        {found.posts.length}
      </span>
      {before?.scheduled_at && (
        <Link to={`/${brand.slug}/plan/${before.id}`} className="under hover:text-berry">
          before: {moment(before.scheduled_at, brand.time_zone)}
        </Link>
      )}
      {after?.scheduled_at && (
        <Link to={`/${brand.slug}/plan/${after.id}`} className="under hover:text-berry">
          next: {moment(after.scheduled_at, brand.time_zone)}
        </Link>
      )}
      {can("plan.write") && waiting > 0 && (
        <button
          type="button"
          className="under h-6 hover:text-down"
          disabled={end.isPending}
          onClick={() =>
            end.mutate(repetition, {
              onSuccess: ({ posts }) => say(`${plural(posts, "post")} taken back. What is out stays.`),
              onError: (error) => say(error.message, "wrong"),
            })
          }
        >
          take back the {waiting} that are not out
        </button>
      )}
    </p>
  );
}
