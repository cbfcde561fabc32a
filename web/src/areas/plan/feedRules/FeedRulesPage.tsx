import { Link, useSearchParams } from "react-router";
import { useBrand } from "../../../study/brand";
import { MinuteLine } from "../../../study/line/MinuteLine";
import { Button } from "../../../ui/Button";
import { Empty, Failed, Loading } from "../../../ui/States";
import { useFeeds } from "../../sources";
import { FeedRuleForm } from "./FeedRuleForm";
import { useFeedRules } from "./queries";
import { BECOMES, didWords } from "./rules";

/** What becomes of feeds' new items by rule: all rules, and one of them with what it does and did. */
export function FeedRulesPage() {
  const { brand, can } = useBrand();
  const [params, setParams] = useSearchParams();
  const rules = useFeedRules(brand.slug);
  const feeds = useFeeds(brand.slug);
  const canChange = can("plan.write");
  const told = params.get("rule");
  const open = rules.data?.find((one) => String(one.id) === told);
  const followed = feeds.data?.feeds ?? [];
  const error = rules.error ?? feeds.error;
  return (
    <>
      <MinuteLine turned="future" hasBrush={false} />
      <div className="flex min-h-[34px] flex-wrap items-center gap-x-3 border-b border-rule px-5 narrow:px-3">
        <Link to={`/${brand.slug}/plan`} className="under hover:text-berry">
          Calendar
        </Link>
        <h1 className="text-[16px]">By rule</h1>
        <span className="label">What becomes of the new items of feeds</span>
        <Link to={`/${brand.slug}/sources`} className="under ml-auto hover:text-berry">
          Feeds that are followed
        </Link>
      </div>
      {error ? (
        <Failed error={error} onRetry={() => Promise.all([rules.refetch(), feeds.refetch()])} />
      ) : !rules.data || !feeds.data ? (
        <Loading what="Loading the rules" />
      ) : followed.length === 0 && rules.data.length === 0 ? (
        <Empty title="No feed is followed yet">
          Rules act on the items of feeds: your own news, a partner’s calendar.{" "}
          <Link to={`/${brand.slug}/sources`} className="under hover:text-berry">
            Follow one in Sources
          </Link>{" "}
          first.
        </Empty>
      ) : (
        <div className="grid min-h-0 flex-1 grid-cols-[250px_minmax(0,1fr)]">
          <section className="min-w-0 overflow-y-auto border-r border-rule px-4 py-3" aria-label="Rules">
            {rules.data.length === 0 && <p className="label">There is none yet.</p>}
            <ul>
              {rules.data.map((one) => (
                <li key={one.id} className="rowline">
                  <button
                    type="button"
                    aria-pressed={open?.id === one.id}
                    className="block w-full py-2 text-left hover:text-berry aria-pressed:font-semibold"
                    onClick={() => setParams({ rule: String(one.id) })}
                  >
                    <span className="block break-words">{one.name}</span>
                    <span className="label block font-normal">
                      {one.feed_title} → {BECOMES[one.becomes]}
                    </span>
                    <span className={`block font-normal ${one.problem ? "text-down" : "label"}`}>
                      {one.problem ? "Stopped by itself" : one.is_on ? didWords(one) : "Switched off"}
                    </span>
                  </button>
                </li>
              ))}
            </ul>
            {canChange && followed.length > 0 && (
              <Button className="mt-3" onClick={() => setParams({ rule: "new" })}>
                A new rule
              </Button>
            )}
          </section>
          {open || told === "new" ? (
            <FeedRuleForm
              key={open?.id ?? "new"}
              rule={open}
              feeds={followed}
              isEditable={canChange}
              onOpen={(id) => setParams(id === null ? {} : { rule: String(id) })}
            />
          ) : (
            <p className="label px-5 py-4">
              {told ? "This rule is not here any more." : "Choose a rule to see what it does and what it did."}
            </p>
          )}
        </div>
      )}
    </>
  );
}
