export { MakeLinkForm } from "./MakeLinkForm";
export { type TrackedLink, useMakeLinks } from "./queries";
export { linksRoutes } from "./routes";
