import type { Area, View } from "../../study/areas";
import { routes } from "./routes";

/** From being seen to being bought, who brought it, and what is counted. */
const views: readonly View[] = [
  { path: "", name: "Funnel", has: ["against"] },
  { path: "attribution", name: "Attribution", has: [] },
  { path: "sites", name: "Sites and goals", has: null },
];

export const site: Area = {
  path: "site",
  name: "Site",
  routes,
  letter: "i",
  views,
};
