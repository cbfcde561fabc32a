import { Route } from "react-router";
import { lazyPage } from "../../lib/lazyPage";

const CompetitorsPage = lazyPage(() => import("./CompetitorsPage"), "CompetitorsPage");

export const competitorsRoutes = <Route path="competitors" element={<CompetitorsPage />} />;
