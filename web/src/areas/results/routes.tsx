import { Route } from "react-router";
import { lazyPage } from "../../lib/lazyPage";
import { SummaryPage } from "./summary/SummaryPage";

const DifferencePage = lazyPage(() => import("./difference/DifferencePage"), "DifferencePage");
const PostsPage = lazyPage(() => import("./posts/PostsPage"), "PostsPage");
const PostPage = lazyPage(() => import("./posts/PostPage"), "PostPage");
const GroupsPage = lazyPage(() => import("./groups/GroupsPage"), "GroupsPage");
const FollowersPage = lazyPage(() => import("./FollowersPage"), "FollowersPage");
const AudiencePage = lazyPage(() => import("./AudiencePage"), "AudiencePage");
const AudienceSheet = lazyPage(() => import("./AudienceSheet"), "AudienceSheet");
const TrafficPage = lazyPage(() => import("./TrafficPage"), "TrafficPage");
const PaidPage = lazyPage(() => import("./paid/PaidPage"), "PaidPage");
const FindingsPage = lazyPage(() => import("./FindingsPage"), "FindingsPage");
const MetricsPage = lazyPage(() => import("./metrics/MetricsPage"), "MetricsPage");

export const routes = (
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
    <Route path="paid" element={<PaidPage />} />
    <Route path="findings" element={<FindingsPage />} />
    <Route path="metrics" element={<MetricsPage />} />
  </Route>
);
