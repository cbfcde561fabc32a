import { Route } from "react-router";
import { TimingPage } from "./TimingPage";

export const timingRoutes = <Route path="timing" element={<TimingPage />} />;
