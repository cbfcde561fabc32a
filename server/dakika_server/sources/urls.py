"""Addresses of sources."""

from django.urls import path

from dakika_server.sources.api.competitors import CompetitorView, MergeView, MoveProfileView
from dakika_server.sources.api.connecting import (
    CompetitorsByHandleView,
    ConnectionsView,
    ConnectionView,
    ConsentReturnView,
    FollowView,
    SearchView,
    SiteView,
)
from dakika_server.sources.api.files import (
    ExportView,
    FeedsView,
    FeedView,
    ImportsView,
    ImportUndoView,
    ImportView,
    RefusedRowsView,
    RowsView,
)
from dakika_server.sources.api.profiles import (
    CollectView,
    HealthView,
    PictureView,
    PostCommentsView,
    ProfileView,
    SourcesView,
)

HOME = "brands/<slug:brand>/sources"
urlpatterns = [
    path("connections/return", ConsentReturnView.as_view()),
    path(HOME, SourcesView.as_view()),
    path(f"{HOME}/health", HealthView.as_view()),
    path(f"{HOME}/picture", PictureView.as_view()),
    path(f"{HOME}/collect", CollectView.as_view()),
    path(f"{HOME}/profiles/<int:pk>", ProfileView.as_view()),
    path(f"{HOME}/posts/<int:pk>/comments", PostCommentsView.as_view()),
    path(f"{HOME}/competitors", CompetitorsByHandleView.as_view()),
    path(f"{HOME}/competitors/<int:pk>", CompetitorView.as_view()),
    path(f"{HOME}/competitors/<int:pk>/merge", MergeView.as_view()),
    path(f"{HOME}/profiles/<int:pk>/move", MoveProfileView.as_view()),
    path(f"{HOME}/search", SearchView.as_view()),
    path(f"{HOME}/site", SiteView.as_view()),
    path(f"{HOME}/follow", FollowView.as_view()),
    path(f"{HOME}/connections", ConnectionsView.as_view()),
    path(f"{HOME}/connections/<int:pk>", ConnectionView.as_view()),
    path(f"{HOME}/imports", ImportsView.as_view()),
    path(f"{HOME}/rows", RowsView.as_view()),
    path(f"{HOME}/imports/<int:pk>", ImportView.as_view()),
    path(f"{HOME}/imports/<int:pk>/undo", ImportUndoView.as_view()),
    path(f"{HOME}/imports/<int:pk>/refused", RefusedRowsView.as_view()),
    path(f"{HOME}/export", ExportView.as_view()),
    path(f"{HOME}/feeds", FeedsView.as_view()),
    path(f"{HOME}/feeds/<int:pk>", FeedView.as_view()),
]
