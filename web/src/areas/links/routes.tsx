import { Route } from "react-router";
import { lazyPage } from "../../lib/lazyPage";

const AttributionPage = lazyPage(() => import("./AttributionPage"), "AttributionPage");
const FunnelPage = lazyPage(() => import("./FunnelPage"), "FunnelPage");
const LinkPage = lazyPage(() => import("./LinkPage"), "LinkPage");
const LinksPage = lazyPage(() => import("./LinksPage"), "LinksPage");
const PagesPage = lazyPage(() => import("./PagesPage"), "PagesPage");
const RulesPage = lazyPage(() => import("./RulesPage"), "RulesPage");
const SitesPage = lazyPage(() => import("./SitesPage"), "SitesPage");

export const linksRoutes = (
  <Route path="links">
    <Route index element={<LinksPage />} />
    <Route path="funnel" element={<FunnelPage />} />
    <Route path="attribution" element={<AttributionPage />} />
    <Route path="sites" element={<SitesPage />} />
    <Route path="pages" element={<PagesPage />} />
    <Route path="rules" element={<RulesPage />} />
    <Route path=":link" element={<LinkPage />} />
  </Route>
);
