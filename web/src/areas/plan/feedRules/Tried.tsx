import { moment } from "../../../lib/days";
import { networkNamed, useBrand } from "../../../study/brand";
import { useProfiles } from "../../../study/queries";
import { Loading } from "../../../ui/States";
import { type FeedRuleContent, useFeedRulePreview } from "./queries";
import { paceWords } from "./rules";

/** What a rule would make of the newest items, did they come now. */
export function Tried({ content }: { content: FeedRuleContent }) {
  const { brand, networks } = useBrand();
  const profiles = useProfiles(brand.slug).data?.profiles ?? [];
  // Its name says nothing of what it does; a rule without one can be tried.
  const isIdea = content.becomes === "idea";
  const isWhole = content.feed > 0 && (isIdea || (content.profiles ?? []).length > 0);
  const preview = useFeedRulePreview(brand.slug, isWhole ? { ...content, name: content.name || "-" } : null);
  const nameOf = (id: number) => {
    const found = profiles.find((one) => one.id === id);
    return found ? networkNamed(networks, found.network).name : "";
  };
  return (
    <>
      <h2 className="text-[16px]">Tried on the newest items</h2>
      {!isWhole ? (
        <p className="label">Choose a feed and a profile, and see here what would go out.</p>
      ) : preview.error ? (
        <p className="label">{preview.error.message}</p>
      ) : !preview.data ? (
        <Loading what="Trying it" />
      ) : (
        <>
          <p className="label">
            Did they come now, one after the other. {paceWords(preview.data.items_a_day, content.most_a_day ?? 3)}
          </p>
          {preview.data.items.length === 0 && <p className="mt-1">This feed has told nothing yet.</p>}
          <ul aria-busy={preview.isPlaceholderData}>
            {preview.data.items.map((item, i) => (
              // biome-ignore lint/suspicious/noArrayIndexKey: titles come twice, and the list is drawn anew as a whole
              <li key={i} className="rowline py-2">
                <p className="flex items-baseline gap-3">
                  <span className={`min-w-0 flex-1 break-words font-semibold ${item.reason ? "text-muted" : ""}`}>
                    {item.title || "Without a title"}
                  </span>
                  <span className="label shrink-0">
                    {item.at ? moment(item.at, brand.time_zone) : item.reason ? "left out" : "an idea"}
                  </span>
                </p>
                {item.reason && <p className="label">{item.reason}</p>}
                {item.words.map((one) => (
                  <div key={one.profile} className="mt-1 border-l-2 border-rule pl-2">
                    <p className="label">
                      {nameOf(one.profile)}, {one.count} of {one.limit}
                    </p>
                    <p className="whitespace-pre-wrap break-words">{one.text}</p>
                    {one.problems.map((problem) => (
                      <p key={problem} className="text-down">
                        {problem}
                      </p>
                    ))}
                  </div>
                ))}
              </li>
            ))}
          </ul>
        </>
      )}
    </>
  );
}
