/**
 * Names of what is asked of the server, and what each answer is made of: so that whatever changes something says what
 * that was, and everything made of it is asked again, wherever it is shown.
 */

import { useQueryClient } from "@tanstack/react-query";

/** What people and the worker change in a brand. */
export type Thing =
  | "brand"
  | "sources"
  | "posts"
  | "tags"
  | "campaigns"
  | "metrics"
  | "findings"
  | "links"
  | "rules"
  | "pages"
  | "sites"
  | "plan"
  | "files"
  | "feeds"
  | "choices"
  | "notices"
  | "studies"
  | "timing"
  | "rhythms"
  | "trials"
  | "sets"
  | "looked"
  | "targets"
  | "media"
  | "tasks"
  | "guests"
  | "batches"
  | "ideas"
  | "hashtags"
  | "feed_rules"
  | "boosts"
  | "own_feed"
  | "push"
  | "reports"
  | "team"
  | "webhooks";

const FIGURES: readonly Thing[] = ["posts", "sources", "tags", "campaigns", "metrics", "links", "sites", "boosts"];
const OF_SITES: readonly Thing[] = ["sites", "links", "posts", "campaigns"];

const MADE_OF = {
  brand: ["brand"],
  overview: ["sources", "posts", "findings", "plan", "links", "sites"],
  preferences: ["choices"],
  notifications: ["notices"],
  "notice choices": [],
  "kept studies": ["studies"],
  campaigns: ["campaigns"],
  tags: ["tags"],
  metrics: ["metrics"],
  line: ["posts", "sources", "targets"],
  footing: FIGURES,
  summary: FIGURES,
  decomposition: FIGURES,
  basis: FIGURES,
  posts: FIGURES,
  totals: FIGURES,
  top: FIGURES,
  post: FIGURES,
  spikes: FIGURES,
  behind: FIGURES,
  groups: FIGURES,
  audience: FIGURES,
  tried: FIGURES,
  traffic: FIGURES,
  "clicks behind": FIGURES,
  competitors: [...FIGURES, "sets"],
  benchmark: [...FIGURES, "sets"],
  axes: [...FIGURES, "sets"],
  "best posts": [...FIGURES, "sets", "looked"],
  presence: [...FIGURES, "sets"],
  works: [...FIGURES, "sets"],
  gap: [...FIGURES, "sets"],
  "peer sets": ["sets", "sources"],
  targets: [...FIGURES, "targets"],
  comments: ["posts"],
  found: ["posts"],
  caught: ["posts", "tags"],
  findings: ["findings"],
  links: ["links", "campaigns"],
  link: ["links", "campaigns"],
  "links found": ["links"],
  "links of a post": ["links"],
  "link proposal": ["rules", "campaigns"],
  "link settings": ["rules"],
  "link pages": ["pages", "links"],
  sites: ["sites"],
  attribution: OF_SITES,
  conversions: OF_SITES,
  conversion: OF_SITES,
  funnel: OF_SITES,
  timing: ["timing", "sources", "plan"],
  rhythms: ["rhythms", "sources", "trials"],
  proposal: ["timing"],
  slots: ["rhythms", "trials", "plan"],
  trials: ["trials", "posts"],
  "trial length": [],
  proposed: [],
  "under way": ["posts"],
  outlook: ["posts"],
  expected: [],
  "expected plan": ["plan", "posts"],
  calibration: ["posts"],
  plan: ["plan", "posts"],
  planned: ["plan"],
  checks: ["sources", "media"],
  "going out": ["plan"],
  "plan options": ["sources"],
  page: [],
  emoji: [],
  channels: ["sources", "plan"],
  "review rules": ["plan"],
  "to review": ["plan"],
  review: ["plan", "media"],
  log: ["plan"],
  people: ["team"],
  team: ["team"],
  programs: ["team"],
  webhooks: ["webhooks"],
  status: [],
  "webhook deliveries": ["webhooks"],
  "brand log": ["team", "campaigns", "plan", "links", "reports", "sources"],
  belongings: ["team", "campaigns", "plan", "tasks", "links", "reports"],
  "first steps": ["sources", "files", "feeds", "links", "sites"],
  tasks: ["tasks", "plan"],
  guests: ["guests"],
  batches: ["batches"],
  ideas: ["ideas", "plan"],
  idea: ["ideas", "plan", "media"],
  "idea groups": ["ideas", "plan"],
  wordings: ["posts"],
  templates: [],
  "repetition preview": ["plan", "posts"],
  repetition: ["plan"],
  season: [],
  "campaign plan": ["plan", "campaigns", "posts", "links", "boosts"],
  batch: ["batches", "media", "campaigns", "sources", "rhythms"],
  "own feed": ["own_feed", "plan", "links"],
  push: ["push", "plan", "links"],
  reports: ["reports"],
  report: ["reports"],
  "report beginnings": ["reports"],
  "report versions": ["reports"],
  "report links": ["reports"],
  deliveries: ["reports"],
  "delivery runs": ["reports"],
  "delivery run": ["reports"],
  // Its figures are of everything; while one edits they are asked anew with each edition.
  "report shown": ["reports", ...FIGURES],
  boosts: ["boosts", "posts", "links", "sites"],
  "boost terms": ["boosts", "links"],
  "feed rules": ["feed_rules", "plan"],
  "feed rule items": ["feed_rules", "plan", "ideas"],
  "feed rule preview": ["feeds", "sources"],
  "hashtag sets": ["hashtags"],
  "hashtag proposals": ["hashtags", "posts"],
  "followed hashtags": ["hashtags", "posts"],
  "hashtag course": ["hashtags", "posts"],
  writing: ["plan"],
  "brands to hand to": [],
  assets: ["media"],
  asset: ["media"],
  "asset tags": ["media"],
  collection: [],
  "asset uses": ["media", "plan"],
  sources: ["sources"],
  profile: ["sources", "posts"],
  health: ["sources", "feeds", "files"],
  connection: ["sources"],
  search: ["sources"],
  feeds: ["feeds"],
  imports: ["files"],
  import: ["files"],
} satisfies Record<string, readonly Thing[]>;

export type Asked = keyof typeof MADE_OF;

/** What is of no brand. */
export const SESSION = ["session"] as const;
export const TOKENS = ["tokens"] as const;
export const ACCOUNT = ["account"] as const;
export const DEMO = ["demo"] as const;
export const BROWSERS = ["own browsers"] as const;
export const NETWORKS = ["networks"] as const;

/** The key of a question: its name, the brand it is of, and what else it asks with. */
export function keyOf(name: Asked, brand: string, ...asked: unknown[]): readonly unknown[] {
  return [name, brand, ...asked];
}

/** Whether a question is made of any of some things of a brand. */
export function isMadeOf(key: readonly unknown[], brand: string, things: readonly Thing[]): boolean {
  const made: readonly Thing[] | undefined = MADE_OF[key[0] as Asked];
  return key[1] === brand && made !== undefined && things.some((thing) => made.includes(thing));
}

/** Say what of a brand changed: everything made of it is asked again. */
export function useChanged(brand: string): (...things: Thing[]) => Promise<void> {
  const client = useQueryClient();
  return (...things) => client.invalidateQueries({ predicate: ({ queryKey }) => isMadeOf(queryKey, brand, things) });
}
