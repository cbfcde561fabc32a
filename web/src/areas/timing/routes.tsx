import { Route } from "react-router";
import { lazyPage } from "../../lib/lazyPage";

const TimingPage = lazyPage(() => import("./TimingPage"), "TimingPage");

export const timingRoutes = <Route path="timing" element={<TimingPage />} />;
