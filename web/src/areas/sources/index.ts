import type { Area } from "../../study/areas";
import { routes } from "./routes";

export { useFeeds } from "./queries";

export const sources: Area = {
  path: "sources",
  name: "Sources",
  routes,
  letter: "s",
  acts: [{ name: "Import a file", path: "sources/import", permission: "sources.files" }],
};
