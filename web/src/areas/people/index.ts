import type { Area } from "../../study/areas";
import { routes } from "./routes";

export const people: Area = {
  path: "team",
  name: "Team",
  routes,
  acts: [
    { name: "Invite somebody", path: "team", permission: "brand.people" },
    { name: "Who changed what", path: "team/log", permission: "brand.log" },
    { name: "Tokens for programs", path: "team/programs", permission: "brand.read" },
    { name: "Other programs that are told what happens", path: "team/webhooks", permission: "brand.webhooks" },
    { name: "How the installation runs", path: "team/status", permission: "brand.status" },
    { name: "Which notices I get, and by mail", path: "team/notices", permission: "brand.read" },
    { name: "Password, devices, where I am signed in", path: "team/you", permission: "brand.read" },
  ],
};
