/** A part of the study's sentence: what a view narrows by, or holds its figures against. */
export type Part = "profile" | "network" | "format" | "narrow" | "campaign" | "age" | "against";
/** has: the parts besides the period; null where a view does not look at a period at all. */
export type View = { path: string; name: string; has: readonly Part[] | null };

/** The areas that exist, in the order of the loop. */
export const AREAS = [
  { path: "results", name: "Results" },
  { path: "competitors", name: "Competitors" },
  { path: "links", name: "Links" },
  { path: "timing", name: "Timing" },
  { path: "plan", name: "Plan" },
  { path: "sources", name: "Sources" },
] as const;

/** The views of Results, in the order of an analyst's morning, each with the parts of the sentence that it goes by. */
export const RESULTS_VIEWS: readonly View[] = [
  { path: "", name: "Summary", has: ["profile", "format", "narrow", "age", "against"] },
  { path: "difference", name: "Difference", has: ["profile", "format", "narrow", "age", "against"] },
  { path: "posts", name: "Posts", has: ["profile", "format", "narrow", "age"] },
  { path: "groups", name: "Groups", has: ["profile", "format", "narrow", "age"] },
  { path: "followers", name: "Followers", has: ["profile", "against"] },
  { path: "audience", name: "Audience", has: ["profile"] },
  { path: "traffic", name: "Traffic", has: ["profile", "format", "narrow", "age"] },
  { path: "findings", name: "Findings", has: null },
  { path: "metrics", name: "Metrics", has: ["profile", "format", "narrow", "age"] },
];

/** The views of Links: what was clicked, pages of links, and the rules they are made by. */
export const LINKS_VIEWS: readonly View[] = [
  { path: "", name: "Clicks", has: ["network", "campaign", "against"] },
  { path: "funnel", name: "Funnel", has: ["against"] },
  { path: "attribution", name: "Attribution", has: [] },
  { path: "sites", name: "Sites and goals", has: null },
  { path: "pages", name: "Pages", has: [] },
  { path: "rules", name: "Rules", has: null },
];
const COMPETITORS_VIEWS: readonly View[] = [{ path: "", name: "Competitors", has: ["network", "format", "age"] }];
const VIEWS: Record<string, readonly View[]> = {
  results: RESULTS_VIEWS,
  links: LINKS_VIEWS,
  competitors: COMPETITORS_VIEWS,
};

/** The parts of the sentence that the view at an address goes by; null where it has no sentence. */
export function partsAt(pathname: string): readonly Part[] | null {
  const [, , area = "", path = ""] = pathname.split("/");
  const views = VIEWS[area];
  if (!views) return null;
  return (views.find((view) => view.path === path) ?? views[0])?.has ?? null;
}
