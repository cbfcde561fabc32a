import { Route } from "react-router";
import { PostPage } from "./PostPage";
import { PostsPage } from "./PostsPage";
import { SummaryPage } from "./SummaryPage";

export const resultsRoutes = (
  <Route path="results">
    <Route index element={<SummaryPage />} />
    <Route path="posts" element={<PostsPage />} />
    <Route path="posts/:post" element={<PostPage />} />
  </Route>
);
