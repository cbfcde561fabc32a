import { Route } from "react-router";
import { ComposePage } from "./ComposePage";
import { PlanPage } from "./PlanPage";

export const planRoutes = (
  <Route path="plan">
    <Route index element={<PlanPage />} />
    <Route path="new" element={<ComposePage key="new" />} />
    <Route path=":planned" element={<ComposePage />} />
  </Route>
);
