import { Route } from "react-router";
import { LinkPage } from "./LinkPage";
import { LinksPage } from "./LinksPage";
import { PagesPage } from "./PagesPage";
import { RulesPage } from "./RulesPage";

export const linksRoutes = (
  <Route path="links">
    <Route index element={<LinksPage />} />
    <Route path="pages" element={<PagesPage />} />
    <Route path="rules" element={<RulesPage />} />
    <Route path=":link" element={<LinkPage />} />
  </Route>
);
