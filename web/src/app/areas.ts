/** The areas of this front end, in the order of the loop. Their index.ts is all that is known of them. */

import { brands } from "../areas/brands";
import { competitors } from "../areas/competitors";
import { foresight } from "../areas/foresight";
import { links } from "../areas/links";
import { people } from "../areas/people";
import { plan } from "../areas/plan";
import { reports } from "../areas/reports";
import { results } from "../areas/results";
import { site } from "../areas/site";
import { sources } from "../areas/sources";
import { timing } from "../areas/timing";
import type { Area } from "../study/areas";

export const AREAS: readonly Area[] = [
  results,
  competitors,
  links,
  site,
  timing,
  foresight,
  plan,
  reports,
  sources,
  brands,
  people,
];
