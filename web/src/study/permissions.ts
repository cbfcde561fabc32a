/** What can be permitted, as the server's table has it (a test holds them against each other). */
export const PERMISSIONS = [
  "brand.campaigns",
  "brand.change",
  "brand.read",
  "competitors.sets",
  "figures.keep",
  "links.make",
  "links.pages",
  "links.rules",
  "media.change",
  "plan.publish",
  "plan.read",
  "plan.write",
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
