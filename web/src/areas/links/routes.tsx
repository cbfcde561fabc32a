import { Route } from "react-router";
import { lazyPage } from "../../lib/lazyPage";

const LinkPage = lazyPage(() => import("./LinkPage"), "LinkPage");
const LinksPage = lazyPage(() => import("./LinksPage"), "LinksPage");
const PagesPage = lazyPage(() => import("./PagesPage"), "PagesPage");
const RulesPage = lazyPage(() => import("./RulesPage"), "RulesPage");

export const routes = (
  <Route path="links">
    <Route index element={<LinksPage />} />
    <Route path="pages" element={<PagesPage />} />
    <Route path="rules" element={<RulesPage />} />
    <Route path=":link" element={<LinkPage />} />
  </Route>
);
