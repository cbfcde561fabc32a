export { competitorsRoutes } from "./routes";
