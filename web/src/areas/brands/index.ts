export { brandsRoutes } from "./routes";
