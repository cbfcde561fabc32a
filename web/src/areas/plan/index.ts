import { lazyPage } from "../../lib/lazyPage";
import type { Area } from "../../study/areas";
import { routes } from "./routes";

export { registerShareWorker } from "./ideas/shared";
export const GuestPage = lazyPage(() => import("./review/GuestPage"), "GuestPage");

export const plan: Area = {
  path: "plan",
  name: "Plan",
  routes,
  letter: "p",
  acts: [
    { name: "Write a post", path: "plan/new", permission: "plan.write" },
    { name: "Keep an idea", path: "plan/ideas/new", permission: "plan.write" },
    { name: "Look through the ideas", path: "plan/ideas", permission: "plan.read" },
    { name: "Look at the hashtags", path: "plan/hashtags", permission: "plan.read" },
    { name: "Let a feed’s items become posts by rule", path: "plan/rules", permission: "plan.read" },
    { name: "Look at the site’s own feed", path: "plan/feed", permission: "plan.read" },
    { name: "Look at messages to browsers", path: "plan/messages", permission: "plan.read" },
    { name: "Look at the campaigns", path: "plan/campaigns", permission: "plan.read" },
    { name: "Bring many posts from a table", path: "plan/many", permission: "plan.write" },
    { name: "Look through the files", path: "plan/files", permission: "media.change" },
  ],
};
