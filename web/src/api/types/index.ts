/** The API as its areas describe it, put together: addresses, and shapes by name. */

import type * as accounts from "./accounts.gen";
import type * as brands from "./brands.gen";
import type * as competitors from "./competitors.gen";
import type * as demo from "./demo.gen";
import type * as figures from "./figures.gen";
import type * as foresight from "./foresight.gen";
import type * as links from "./links.gen";
import type * as media from "./media.gen";
import type * as monitoring from "./monitoring.gen";
import type * as networks from "./networks.gen";
import type * as notices from "./notices.gen";
import type * as plan from "./plan.gen";
import type * as printing from "./printing.gen";
import type * as reports from "./reports.gen";
import type * as results from "./results.gen";
import type * as site from "./site.gen";
import type * as sources from "./sources.gen";
import type * as timing from "./timing.gen";
import type * as webhooks from "./webhooks.gen";

// biome-ignore format: a line each
export interface paths extends
  accounts.paths,
  brands.paths,
  competitors.paths,
  demo.paths,
  figures.paths,
  foresight.paths,
  links.paths,
  media.paths,
  monitoring.paths,
  networks.paths,
  notices.paths,
  plan.paths,
  printing.paths,
  reports.paths,
  results.paths,
  site.paths,
  sources.paths,
  timing.paths,
  webhooks.paths {}

// biome-ignore format: a line each
export interface Schemas extends
  Of<accounts.components>,
  Of<brands.components>,
  Of<competitors.components>,
  Of<demo.components>,
  Of<figures.components>,
  Of<foresight.components>,
  Of<links.components>,
  Of<media.components>,
  Of<monitoring.components>,
  Of<networks.components>,
  Of<notices.components>,
  Of<plan.components>,
  Of<printing.components>,
  Of<reports.components>,
  Of<results.components>,
  Of<site.components>,
  Of<sources.components>,
  Of<timing.components>,
  Of<webhooks.components> {}

type Of<C extends { schemas: object }> = C["schemas"];
