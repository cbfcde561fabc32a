/** The areas that exist, in the order of the loop. */
export const AREAS = [
  { path: "results", name: "Results" },
  { path: "competitors", name: "Competitors" },
  { path: "links", name: "Links" },
  { path: "timing", name: "Timing" },
  { path: "plan", name: "Plan" },
  { path: "sources", name: "Sources" },
] as const;

/** The views of Results, in the order of an analyst's morning. */
export const RESULTS_VIEWS = [
  { path: "", name: "Summary" },
  { path: "difference", name: "Difference" },
  { path: "posts", name: "Posts" },
  { path: "groups", name: "Groups" },
  { path: "followers", name: "Followers" },
  { path: "audience", name: "Audience" },
  { path: "traffic", name: "Traffic" },
  { path: "findings", name: "Findings" },
  { path: "metrics", name: "Metrics" },
] as const;

/** The views of Links: what was clicked, pages of links, and the rules they are made by. */
export const LINKS_VIEWS = [
  { path: "", name: "Clicks" },
  { path: "funnel", name: "Funnel" },
  { path: "attribution", name: "Attribution" },
  { path: "sites", name: "Sites and goals" },
  { path: "pages", name: "Pages" },
  { path: "rules", name: "Rules" },
] as const;
