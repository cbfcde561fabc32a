import type { Area, View } from "../../study/areas";
import { routes } from "./routes";

export { type Hour, type Rhythm, useBestHours, useKeepRhythm, useRhythms, useSlots } from "./queries";
export { SmallStrip } from "./SmallStrip";

const views: readonly View[] = [
  { path: "", name: "Week", has: null },
  { path: "rhythm", name: "Rhythm", has: null },
  { path: "trials", name: "Trials", has: null },
];

export const timing: Area = {
  path: "timing",
  name: "Timing",
  routes,
  letter: "t",
  views,
};
