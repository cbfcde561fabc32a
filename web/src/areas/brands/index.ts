import type { Area } from "../../study/areas";
import { routes } from "./routes";

export const brands: Area = {
  path: "brands",
  name: "All brands",
  routes,
};
