import { Link, useLocation } from "react-router";
import { FigureValue } from "../../../figures/FigureValue";
import { absolute, figure } from "../../../lib/format";
import { useBrand } from "../../../study/brand";
import type { Decomposition } from "../queries";
import { ContributionBar } from "./ContributionBar";
import { against, FACTORS, largest } from "./rules";

/** Where each way of changing is looked into. */
const STEPS: Partial<Record<string, { path: string; words: string }>> = {
  number: { path: "posts", words: "the posts" },
  size: { path: "groups", words: "the groups" },
  mix: { path: "groups", words: "the groups" },
  rate: { path: "groups", words: "the groups" },
  weight: { path: "groups", words: "the groups" },
};

/** How the figure changed: by how many posts there were, where they went, what one brought, and what earlier ones did. */
export function Factors({ made }: { made: Decomposition }) {
  const { brand } = useBrand();
  const { search } = useLocation();
  const most = largest(made.factors);
  return (
    <table className="mt-2 w-full">
      <caption className="sr-only">How it changed</caption>
      <thead className="sr-only">
        <tr>
          <th>Way</th>
          <th>Now against before</th>
          <th>Contribution</th>
        </tr>
      </thead>
      <tbody>
        {made.factors.map((factor) => {
          const { name, means } = FACTORS[factor.key];
          const step = STEPS[factor.key];
          // Posts are counted; what a post brought keeps its decimals.
          const unit = factor.key === "number" ? "count" : factor.key === "size" ? "per_post" : made.unit;
          return (
            <tr key={factor.key} className="rowline">
              <td className="py-1 pr-3 leading-5">
                {step ? (
                  <Link
                    to={`/${brand.slug}/results/${step.path}${search}`}
                    className="under hover:text-berry"
                    title={`Open ${step.words}`}
                  >
                    {name}
                  </Link>
                ) : (
                  name
                )}
                <span className="label block">{means}</span>
              </td>
              <td className="w-44 pr-3 text-right whitespace-nowrap text-muted">
                {against(factor.now, factor.before, unit)}
              </td>
              <td className="w-[180px]">
                <FigureValue
                  kind="results.difference"
                  cell={`factor.${factor.key}`}
                  params={{ metric: made.key }}
                  label={`what ${name} adds`}
                >
                  <ContributionBar
                    value={factor.contribution}
                    most={most}
                    unit={made.unit}
                    more={made.more_is_better}
                  />
                </FigureValue>
              </td>
            </tr>
          );
        })}
      </tbody>
      <tfoot>
        <tr className="h-7 font-semibold">
          <td>Together</td>
          <td className="pr-3 text-right whitespace-nowrap">
            {figure(made.now, made.unit)} against {figure(made.before, made.unit)}
          </td>
          <td>
            <FigureValue
              kind="results.difference"
              cell="change"
              params={{ metric: made.key }}
              label="the change"
              className="inline-block w-[72px] text-right font-semibold"
            >
              {absolute(made.change ?? 0, made.unit)}
            </FigureValue>
          </td>
        </tr>
      </tfoot>
    </table>
  );
}
