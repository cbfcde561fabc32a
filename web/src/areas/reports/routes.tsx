import { Route } from "react-router";
import { lazyPage } from "../../lib/lazyPage";

const PresentPage = lazyPage(() => import("./PresentPage"), "PresentPage");
const PrintPage = lazyPage(() => import("./PrintPage"), "PrintPage");
const ReportPage = lazyPage(() => import("./ReportPage"), "ReportPage");
const ReportsPage = lazyPage(() => import("./ReportsPage"), "ReportsPage");

export const routes = (
  <Route path="reports">
    <Route index element={<ReportsPage />} />
    <Route path=":report" element={<ReportPage />} />
    <Route path=":report/present" element={<PresentPage />} />
    <Route path=":report/print" element={<PrintPage />} />
  </Route>
);
