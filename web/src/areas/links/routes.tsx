import { Route } from "react-router";
import { AttributionPage } from "./AttributionPage";
import { FunnelPage } from "./FunnelPage";
import { LinkPage } from "./LinkPage";
import { LinksPage } from "./LinksPage";
import { PagesPage } from "./PagesPage";
import { RulesPage } from "./RulesPage";
import { SitesPage } from "./SitesPage";

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
