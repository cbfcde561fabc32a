import { Navigate, Route, useLocation } from "react-router";
import { lazyPage } from "../../lib/lazyPage";
import { useBrand } from "../../study/brand";

const AttributionPage = lazyPage(() => import("./AttributionPage"), "AttributionPage");
const FunnelPage = lazyPage(() => import("./FunnelPage"), "FunnelPage");
const SitesPage = lazyPage(() => import("./SitesPage"), "SitesPage");

export const routes = (
  <>
    <Route path="site">
      <Route index element={<FunnelPage />} />
      <Route path="attribution" element={<AttributionPage />} />
      <Route path="sites" element={<SitesPage />} />
    </Route>
    {/* Where they stood before: addresses that somebody kept still lead there. */}
    <Route path="links/funnel" element={<Moved to="site" />} />
    <Route path="links/attribution" element={<Moved to="site/attribution" />} />
    <Route path="links/sites" element={<Moved to="site/sites" />} />
  </>
);

function Moved({ to }: { to: string }) {
  const { brand } = useBrand();
  const { search } = useLocation();
  return <Navigate to={`/${brand.slug}/${to}${search}`} replace />;
}
