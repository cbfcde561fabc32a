export { useBestHours } from "./queries";
export { timingRoutes } from "./routes";
