import type { Area, View } from "../../study/areas";
import { routes } from "./routes";

const views: readonly View[] = [{ path: "", name: "Competitors", has: ["network", "format", "age"] }];

export const competitors: Area = {
  path: "competitors",
  name: "Competitors",
  routes,
  letter: "c",
  views,
};
