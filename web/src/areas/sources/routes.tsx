import { Route } from "react-router";
import { ImportPage } from "./ImportPage";
import { ImportsPage } from "./ImportsPage";
import { SourcesPage } from "./SourcesPage";

export const sourcesRoutes = (
  <Route path="sources">
    <Route index element={<SourcesPage />} />
    <Route path="import" element={<ImportsPage />} />
    <Route path="import/:item" element={<ImportPage />} />
  </Route>
);
