import type { Area, View } from "../../study/areas";
import { routes } from "./routes";

export { usePeerSets } from "./queries";

const HAS = ["network", "format", "age"] as const;
/** From where we stand to what would change it. */
const views: readonly View[] = [
  { path: "", name: "Side by side", has: [...HAS, "against"] },
  { path: "benchmark", name: "Benchmark", has: HAS },
  { path: "axes", name: "Two axes", has: HAS },
  { path: "posts", name: "Their best posts", has: HAS },
  { path: "presence", name: "Presence", has: HAS },
  { path: "works", name: "What works", has: HAS },
  { path: "gap", name: "The gap", has: HAS },
  { path: "sets", name: "Sets", has: null },
];

export const competitors: Area = {
  path: "competitors",
  name: "Competitors",
  routes,
  letter: "c",
  views,
};
