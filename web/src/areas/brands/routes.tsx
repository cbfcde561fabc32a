import { Route } from "react-router";
import { lazyPage } from "../../lib/lazyPage";

const BrandsPage = lazyPage(() => import("./BrandsPage"), "BrandsPage");

export const routes = <Route path="brands" element={<BrandsPage />} />;
