export { planRoutes } from "./routes";
