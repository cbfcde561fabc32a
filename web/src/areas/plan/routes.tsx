import { Route } from "react-router";
import { lazyPage } from "../../lib/lazyPage";
import { LibraryPage } from "../media";

const ComposePage = lazyPage(() => import("./ComposePage"), "ComposePage");
const PlanPage = lazyPage(() => import("./PlanPage"), "PlanPage");

const ToReviewPage = lazyPage(() => import("./review/ToReviewPage"), "ToReviewPage");
const CampaignPage = lazyPage(() => import("./campaigns/CampaignPage"), "CampaignPage");
const CampaignsPage = lazyPage(() => import("./campaigns/CampaignsPage"), "CampaignsPage");
const BulkPage = lazyPage(() => import("./bulk/BulkPage"), "BulkPage");
const FeedRulesPage = lazyPage(() => import("./feedRules/FeedRulesPage"), "FeedRulesPage");
const MessagesPage = lazyPage(() => import("./ownFeed/MessagesPage"), "MessagesPage");
const OwnFeedPage = lazyPage(() => import("./ownFeed/OwnFeedPage"), "OwnFeedPage");
const HashtagsPage = lazyPage(() => import("./hashtags/HashtagsPage"), "HashtagsPage");
const IdeasPage = lazyPage(() => import("./ideas/IdeasPage"), "IdeasPage");
const NewIdeaPage = lazyPage(() => import("./ideas/NewIdeaPage"), "NewIdeaPage");
const TasksPage = lazyPage(() => import("./review/TasksPage"), "TasksPage");

export const routes = (
  <Route path="plan">
    <Route index element={<PlanPage />} />
    <Route path="files" element={<LibraryPage />} />
    <Route path="campaigns" element={<CampaignsPage />} />
    <Route path="campaigns/:campaign" element={<CampaignPage />} />
    <Route path="many" element={<BulkPage />} />
    <Route path="many/:batch" element={<BulkPage />} />
    <Route path="review" element={<ToReviewPage />} />
    <Route path="hashtags" element={<HashtagsPage />} />
    <Route path="ideas" element={<IdeasPage />} />
    <Route path="ideas/new" element={<NewIdeaPage />} />
    <Route path="feed" element={<OwnFeedPage />} />
    <Route path="messages" element={<MessagesPage />} />
    <Route path="rules" element={<FeedRulesPage />} />
    <Route path="tasks" element={<TasksPage />} />
    <Route path="new" element={<ComposePage key="new" />} />
    <Route path=":planned" element={<ComposePage />} />
  </Route>
);
