export { resultsRoutes } from "./routes";
