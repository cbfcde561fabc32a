import { Route } from "react-router";
import { lazyPage } from "../../lib/lazyPage";

const ProgramsPage = lazyPage(() => import("./ProgramsPage"), "ProgramsPage");
const TeamPage = lazyPage(() => import("./TeamPage"), "TeamPage");
const LogPage = lazyPage(() => import("./LogPage"), "LogPage");
const NoticesPage = lazyPage(() => import("./NoticesPage"), "NoticesPage");
const StatusPage = lazyPage(() => import("./StatusPage"), "StatusPage");
const WebhooksPage = lazyPage(() => import("./webhooks/WebhooksPage"), "WebhooksPage");
const YouPage = lazyPage(() => import("./YouPage"), "YouPage");

export const routes = (
  <Route path="team">
    <Route index element={<TeamPage />} />
    <Route path="log" element={<LogPage />} />
    <Route path="programs" element={<ProgramsPage />} />
    <Route path="status" element={<StatusPage />} />
    <Route path="webhooks" element={<WebhooksPage />} />
    <Route path="notices" element={<NoticesPage />} />
    <Route path="you" element={<YouPage />} />
  </Route>
);
