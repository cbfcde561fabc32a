import { type ComponentType, lazy } from "react";

/** A page that is fetched when somebody goes there: `lazyPage(() => import("./PlanPage"), "PlanPage")`. */
export function lazyPage<K extends string>(load: () => Promise<Record<K, ComponentType>>, name: K) {
  return lazy(() => load().then((found) => ({ default: found[name] })));
}
