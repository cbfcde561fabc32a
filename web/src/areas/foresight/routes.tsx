import { Route } from "react-router";
import { lazyPage } from "../../lib/lazyPage";

const ForesightPage = lazyPage(() => import("./ForesightPage"), "ForesightPage");
const CalibrationPage = lazyPage(() => import("./CalibrationPage"), "CalibrationPage");

export const routes = (
  <Route path="foresight">
    <Route index element={<ForesightPage />} />
    <Route path="calibration" element={<CalibrationPage />} />
  </Route>
);
