import { Route } from "react-router";
import { lazyPage } from "../../lib/lazyPage";

const TablePage = lazyPage(() => import("./TablePage"), "TablePage");
const BenchmarkPage = lazyPage(() => import("./BenchmarkPage"), "BenchmarkPage");
const AxesPage = lazyPage(() => import("./AxesPage"), "AxesPage");
const BestPostsPage = lazyPage(() => import("./BestPostsPage"), "BestPostsPage");
const PresencePage = lazyPage(() => import("./PresencePage"), "PresencePage");
const WorksPage = lazyPage(() => import("./WorksPage"), "WorksPage");
const GapPage = lazyPage(() => import("./GapPage"), "GapPage");
const SetsPage = lazyPage(() => import("./SetsPage"), "SetsPage");

export const routes = (
  <Route path="competitors">
    <Route index element={<TablePage />} />
    <Route path="benchmark" element={<BenchmarkPage />} />
    <Route path="axes" element={<AxesPage />} />
    <Route path="posts" element={<BestPostsPage />} />
    <Route path="presence" element={<PresencePage />} />
    <Route path="works" element={<WorksPage />} />
    <Route path="gap" element={<GapPage />} />
    <Route path="sets" element={<SetsPage />} />
  </Route>
);
