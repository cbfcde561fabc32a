import { Route } from "react-router";
import { CompetitorsPage } from "./CompetitorsPage";

export const competitorsRoutes = <Route path="competitors" element={<CompetitorsPage />} />;
