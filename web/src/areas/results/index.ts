import type { Area, View } from "../../study/areas";
import { routes } from "./routes";

export { LikeNames } from "./LikeNames";
export { costWords, money } from "./paid/rules";
export { useGroups, usePost, useSummary } from "./queries";

/** In the order of an analyst's morning, each with the parts of the sentence that it goes by. */
const views: readonly View[] = [
  { path: "", name: "Summary", has: ["profile", "format", "narrow", "age", "against"] },
  { path: "difference", name: "Difference", has: ["profile", "format", "narrow", "age", "against"] },
  { path: "posts", name: "Posts", has: ["profile", "format", "narrow", "age"] },
  { path: "groups", name: "Groups", has: ["profile", "format", "narrow", "age"] },
  { path: "followers", name: "Followers", has: ["profile", "against"] },
  { path: "audience", name: "Audience", has: ["profile"] },
  { path: "traffic", name: "Traffic", has: ["profile", "format", "narrow", "age"] },
  { path: "paid", name: "Paid", has: ["profile", "format", "narrow", "against"] },
  { path: "findings", name: "Findings", has: null },
  { path: "metrics", name: "Metrics", has: ["profile", "format", "narrow", "age"] },
];

export const results: Area = {
  path: "results",
  name: "Results",
  routes,
  letter: "r",
  views,
};
