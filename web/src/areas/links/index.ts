export { MakeLinkForm } from "./MakeLinkForm";
export { linksRoutes } from "./routes";
