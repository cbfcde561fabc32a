import { lazy } from "react";
import { Route } from "react-router";
import { SummaryPage } from "./summary/SummaryPage";

const DifferencePage = lazy(() => import("./difference/DifferencePage").then((m) => ({ default: m.DifferencePage })));
const PostsPage = lazy(() => import("./posts/PostsPage").then((m) => ({ default: m.PostsPage })));
const PostPage = lazy(() => import("./posts/PostPage").then((m) => ({ default: m.PostPage })));
const GroupsPage = lazy(() => import("./groups/GroupsPage").then((m) => ({ default: m.GroupsPage })));
const FollowersPage = lazy(() => import("./FollowersPage").then((m) => ({ default: m.FollowersPage })));
const AudiencePage = lazy(() => import("./AudiencePage").then((m) => ({ default: m.AudiencePage })));
const AudienceSheet = lazy(() => import("./AudienceSheet").then((m) => ({ default: m.AudienceSheet })));
const TrafficPage = lazy(() => import("./TrafficPage").then((m) => ({ default: m.TrafficPage })));
const FindingsPage = lazy(() => import("./FindingsPage").then((m) => ({ default: m.FindingsPage })));
const MetricsPage = lazy(() => import("./metrics/MetricsPage").then((m) => ({ default: m.MetricsPage })));

export const resultsRoutes = (
  <Route path="results">
    <Route index element={<SummaryPage />} />
    <Route path="difference" element={<DifferencePage />} />
    <Route path="posts" element={<PostsPage />} />
    <Route path="posts/:post" element={<PostPage />} />
    <Route path="groups" element={<GroupsPage />} />
    <Route path="followers" element={<FollowersPage />} />
    <Route path="audience" element={<AudiencePage />} />
    <Route path="audience/sheet" element={<AudienceSheet />} />
    <Route path="traffic" element={<TrafficPage />} />
    <Route path="findings" element={<FindingsPage />} />
    <Route path="metrics" element={<MetricsPage />} />
  </Route>
);
