export { sourcesRoutes } from "./routes";
