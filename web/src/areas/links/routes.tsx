import { Route } from "react-router";
import { LinkPage } from "./LinkPage";
import { LinksPage } from "./LinksPage";

export const linksRoutes = (
  <Route path="links">
    <Route index element={<LinksPage />} />
    <Route path=":link" element={<LinkPage />} />
  </Route>
);
