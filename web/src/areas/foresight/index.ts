import type { Area, View } from "../../study/areas";
import { routes } from "./routes";

export { PostOutlook, usePostCourse } from "./PostOutlook";
export { useExpected, useExpectedPlan } from "./queries";
export { ageWords, expectationWords, headingWords, weekWords, youngWords } from "./rules";
export { UnderWay } from "./UnderWay";

const views: readonly View[] = [
  { path: "", name: "Under way", has: null },
  { path: "calibration", name: "Were we right?", has: null },
];

export const foresight: Area = {
  path: "foresight",
  name: "Foresight",
  routes,
  views,
};
