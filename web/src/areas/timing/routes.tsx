import { Route } from "react-router";
import { lazyPage } from "../../lib/lazyPage";

const TimingPage = lazyPage(() => import("./TimingPage"), "TimingPage");

export const routes = <Route path="timing" element={<TimingPage />} />;
