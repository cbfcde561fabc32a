/** The public metrics that an axis or a band can be of, in the order of the server. */

export const METRICS = [
  { key: "followers", name: "followers" },
  { key: "growth", name: "growth" },
  { key: "gained", name: "followers gained" },
  { key: "posts_per_week", name: "posts a week" },
  { key: "interactions_per_week", name: "interactions a week" },
  { key: "interactions_per_post", name: "interactions a post" },
  { key: "interactions_per_1000", name: "interactions for 1,000 followers" },
  { key: "reactions_per_post", name: "reactions a post" },
  { key: "comments_per_post", name: "comments a post" },
  { key: "shares_per_post", name: "shares a post" },
] as const;
