import { Route } from "react-router";
import { lazyPage } from "../../lib/lazyPage";

const TimingPage = lazyPage(() => import("./TimingPage"), "TimingPage");
const RhythmPage = lazyPage(() => import("./RhythmPage"), "RhythmPage");
const TrialsPage = lazyPage(() => import("./TrialsPage"), "TrialsPage");

export const routes = (
  <Route path="timing">
    <Route index element={<TimingPage />} />
    <Route path="rhythm" element={<RhythmPage />} />
    <Route path="trials" element={<TrialsPage />} />
  </Route>
);
