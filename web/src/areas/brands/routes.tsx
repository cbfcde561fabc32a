import { Route } from "react-router";
import { BrandsPage } from "./BrandsPage";

export const brandsRoutes = <Route path="brands" element={<BrandsPage />} />;
