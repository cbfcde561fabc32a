import { lazyPage } from "../../lib/lazyPage";
import type { Area } from "../../study/areas";
import { routes } from "./routes";

/** What a link opens to people outside. */
export const OpenedPage = lazyPage(() => import("./OpenedPage"), "OpenedPage");

export const reports: Area = {
  path: "reports",
  name: "Reports",
  routes,
  letter: "e",
  acts: [{ name: "Make a report", path: "reports?new=1", permission: "reports.write" }],
};
