/** What can be permitted, as the server's table has it (a test holds them against each other). */
export const PERMISSIONS = [
  "brand.campaigns",
  "brand.change",
  "brand.log",
  "brand.people",
  "brand.read",
  "brand.status",
  "brand.webhooks",
  "competitors.sets",
  "figures.keep",
  "links.make",
  "links.pages",
  "links.rules",
  "media.change",
  "plan.boost",
  "plan.guests",
  "plan.publish",
  "plan.read",
  "plan.write",
  "reports.read",
  "reports.share",
  "reports.write",
  "results.findings",
  "results.metrics",
  "results.tag",
  "results.targets",
  "site.conversions",
  "site.setup",
  "sources.collect",
  "sources.connect",
  "sources.files",
  "sources.follow",
  "timing.rhythm",
  "timing.trial",
] as const;

export type Permission = (typeof PERMISSIONS)[number];

/** What a role is for, as one would say it to somebody. */
export const ROLE_WORDS = {
  admin: "connects profiles, decides who may do what, and may do everything else",
  analyst: "looks after what is collected and counted, plans, publishes and reports",
  author: "writes posts, ideas and reports, makes links; others say that they may go out",
  approver: "says whether posts may go out, publishes, and gives reports to others",
  viewer: "sees everything and changes nothing",
  guest: "sees what is shared with them and says something about it, and nothing else",
} as const;

export type Role = keyof typeof ROLE_WORDS;
export const ROLES = Object.keys(ROLE_WORDS) as Role[];
