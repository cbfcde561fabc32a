import { useBrand } from "../../study/brand";
import { useAddress } from "../../study/useAddress";
import { Choice } from "../../ui/Choice";
import { useSites } from "./queries";

/** Which goal is looked at, kept in the address; and its choice as a part of a sentence. */
export function useGoal() {
  const { brand } = useBrand();
  const { params, set } = useAddress();
  const goals = useSites(brand.slug).data?.goals ?? [];
  const goal = Number(params.get("goal") ?? 0) || 0;
  const choice = (
    <Choice
      label="Goal"
      value={String(goal)}
      options={[{ value: "0", label: "any goal" }, ...goals.map((g) => ({ value: String(g.id), label: g.name }))]}
      onChoose={(value) => set("goal", value === "0" ? null : value)}
    >
      {goals.find((g) => g.id === goal)?.name ?? "any goal"}
    </Choice>
  );
  return { goal, choice, hasGoals: goals.length > 0 };
}
