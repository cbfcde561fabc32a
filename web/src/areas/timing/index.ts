import type { Area } from "../../study/areas";
import { routes } from "./routes";

export { useBestHours } from "./queries";

export const timing: Area = {
  path: "timing",
  name: "Timing",
  routes,
  letter: "t",
};
