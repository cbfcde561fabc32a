import { lazy } from "react";
import type { Area, View } from "../../study/areas";
import { routes } from "./routes";

/** Fetched when somebody makes a link where they are: every area's index is among the first scripts. */
export const MakeLinkForm = lazy(() => import("./MakeLinkForm").then((found) => ({ default: found.MakeLinkForm })));
export { type TrackedLink, useMakeLinks } from "./queries";

/** What was clicked, pages of links, and the rules they are made by. */
const views: readonly View[] = [
  { path: "", name: "Clicks", has: ["network", "campaign", "against"] },
  { path: "pages", name: "Pages", has: [] },
  { path: "rules", name: "Rules", has: null },
];

export const links: Area = {
  path: "links",
  name: "Links",
  routes,
  letter: "l",
  views,
  acts: [{ name: "Make a tracked link", path: "links?new=1", permission: "links.make" }],
};
