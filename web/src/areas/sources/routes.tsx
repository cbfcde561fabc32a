import { Route } from "react-router";
import { lazyPage } from "../../lib/lazyPage";

const BrandPage = lazyPage(() => import("./BrandPage"), "BrandPage");
const NewBrandPage = lazyPage(() => import("./BrandPage"), "NewBrandPage");
const FeedsPage = lazyPage(() => import("./FeedsPage"), "FeedsPage");
const HealthPage = lazyPage(() => import("./HealthPage"), "HealthPage");
const ImportPage = lazyPage(() => import("./ImportPage"), "ImportPage");
const ImportsPage = lazyPage(() => import("./ImportsPage"), "ImportsPage");
const NetworksPage = lazyPage(() => import("./NetworksPage"), "NetworksPage");
const ProfilePage = lazyPage(() => import("./ProfilePage"), "ProfilePage");
const SourcesPage = lazyPage(() => import("./SourcesPage"), "SourcesPage");

export const routes = (
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
