export { LikeNames } from "./LikeNames";
export { resultsRoutes } from "./routes";
