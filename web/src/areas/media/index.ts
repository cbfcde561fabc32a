import { lazyPage } from "../../lib/lazyPage";

export { useBringing } from "./Bring";
export { EditSheet } from "./EditSheet";
export { Picker } from "./Picker";
export { type Asset, contentOf, useAssetsOf } from "./queries";
export { filesIn } from "./rules";
export { Thumb } from "./Thumb";

/** Pictures, videos and documents: brought, found again, worked on, and where they are used. Plan gives it its place. */
export const LibraryPage = lazyPage(() => import("./LibraryPage"), "LibraryPage");
