import { useState } from "react";
import { Link } from "react-router";
import { figure, percent } from "../../../lib/format";
import { useBrand } from "../../../study/brand";
import { BoostSheet } from "./BoostSheet";
import { useBoosts } from "./queries";
import { broughtWords, money, paidPart, STATES } from "./rules";

/** Boosting a post, for those who may spend. */
export function AskForBoost({ post }: { post: number }) {
  const { can } = useBrand();
  const [isAsking, setAsking] = useState(false);
  if (!can("plan.boost")) return null;
  return (
    <>
      <button type="button" className="under h-6 hover:text-berry" onClick={() => setAsking(true)}>
        Boost it
      </button>
      <BoostSheet post={post} isOpen={isAsking} onClose={() => setAsking(false)} />
    </>
  );
}

/** What a post's boosts cost and brought, beside what it got by itself. */
export function Boosted({ post, impressions }: { post: number; impressions: number | null | undefined }) {
  const { brand } = useBrand();
  const boosts = useBoosts(brand.slug, post).data?.pages.flatMap((page) => page.boosts) ?? [];
  const paid = boosts.reduce((sum, one) => sum + one.impressions, 0);
  const part = paidPart(impressions, paid);
  if (boosts.length === 0) return null;
  return (
    <section className="mt-4" aria-label="Paid for">
      <h2 className="text-[16px]">Paid for</h2>
      {part !== null && paid > 0 && (
        <p className="label">
          Shown {figure(paid)} times for money, beside {figure(impressions)} by itself: {percent(part)} of all. No other
          figure on this page holds any of it.
        </p>
      )}
      <ul>
        {boosts.map((one) => (
          <li key={one.id} className="rowline py-1">
            <Link to={`/${brand.slug}/results/paid?boost=${one.id}`} className="under hover:text-berry">
              {money(one.spent, one.currency)} of {figure(one.cents / 100, "money")}, {STATES[one.state]}
            </Link>
            <span className="label block">{broughtWords(one)}</span>
            {one.error && <span className="block text-down">{one.error}</span>}
          </li>
        ))}
      </ul>
    </section>
  );
}
