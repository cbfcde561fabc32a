import { Route } from "react-router";
import { lazyPage } from "../../lib/lazyPage";

const CompetitorsPage = lazyPage(() => import("./CompetitorsPage"), "CompetitorsPage");

export const routes = <Route path="competitors" element={<CompetitorsPage />} />;
