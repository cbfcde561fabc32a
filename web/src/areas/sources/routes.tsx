import { Route } from "react-router";
import { BrandPage, NewBrandPage } from "./BrandPage";
import { FeedsPage } from "./FeedsPage";
import { HealthPage } from "./HealthPage";
import { ImportPage } from "./ImportPage";
import { ImportsPage } from "./ImportsPage";
import { NetworksPage } from "./NetworksPage";
import { ProfilePage } from "./ProfilePage";
import { SourcesPage } from "./SourcesPage";

export const sourcesRoutes = (
  <Route path="sources">
    <Route index element={<SourcesPage />} />
    <Route path="profiles/:profile" element={<ProfilePage />} />
    <Route path="health" element={<HealthPage />} />
    <Route path="networks" element={<NetworksPage />} />
    <Route path="feeds" element={<FeedsPage />} />
    <Route path="brand" element={<BrandPage />} />
    <Route path="brand/new" element={<NewBrandPage />} />
    <Route path="import" element={<ImportsPage />} />
    <Route path="import/:item" element={<ImportPage />} />
  </Route>
);
