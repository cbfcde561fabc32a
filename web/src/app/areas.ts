/** The areas that exist, in the order of the loop. */
export const AREAS = [
  { path: "results", name: "Results" },
  { path: "competitors", name: "Competitors" },
  { path: "links", name: "Links" },
  { path: "timing", name: "Timing" },
  { path: "plan", name: "Plan" },
  { path: "sources", name: "Sources" },
] as const;
