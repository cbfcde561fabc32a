"""Addresses of results."""

from django.urls import path

from dakika_server.results.api import (
    audience,
    decomposition,
    findings,
    groups,
    line,
    metrics,
    posts,
    spikes,
    summary,
    tags,
    targets,
)

_RESULTS = "brands/<slug:brand>/results"
urlpatterns = [
    path("brands/<slug:brand>/line", line.LineView.as_view()),
    path(f"{_RESULTS}/summary", summary.SummaryView.as_view()),
    path(f"{_RESULTS}/footing", summary.FootingView.as_view()),
    path(f"{_RESULTS}/decomposition", decomposition.DecompositionView.as_view()),
    path(f"{_RESULTS}/posts", posts.PostsView.as_view()),
    path(f"{_RESULTS}/posts/totals", posts.TotalsView.as_view()),
    path(f"{_RESULTS}/posts/top", posts.TopView.as_view()),
    path(f"{_RESULTS}/posts/tags", tags.TagPostsView.as_view()),
    path(f"{_RESULTS}/posts/<int:pk>", posts.PostDetailView.as_view()),
    path(f"{_RESULTS}/tags", tags.TagsView.as_view()),
    path(f"{_RESULTS}/tags/caught", tags.TryRuleView.as_view()),
    path(f"{_RESULTS}/tags/<int:pk>", tags.TagDetailView.as_view()),
    path(f"{_RESULTS}/tags/<int:pk>/merge", tags.MergeTagView.as_view()),
    path(f"{_RESULTS}/tags/<int:pk>/rules", tags.TagRulesView.as_view()),
    path(f"{_RESULTS}/tags/<int:pk>/rules/<int:rule>", tags.TagRuleDetailView.as_view()),
    path(f"{_RESULTS}/targets", targets.TargetsView.as_view()),
    path(f"{_RESULTS}/targets/<int:pk>", targets.TargetView.as_view()),
    path(f"{_RESULTS}/findings", findings.FindingsView.as_view()),
    path(f"{_RESULTS}/findings/<int:pk>", findings.FindingStateView.as_view()),
    path(f"{_RESULTS}/audience", audience.AudienceView.as_view()),
    path(f"{_RESULTS}/audience/pdf", audience.AudiencePdfView.as_view()),
    path(f"{_RESULTS}/groups", groups.GroupsView.as_view()),
    path(f"{_RESULTS}/spikes", spikes.SpikesView.as_view()),
    path(f"{_RESULTS}/spikes/behind", spikes.BehindView.as_view()),
    path(f"{_RESULTS}/metrics", metrics.MetricsView.as_view()),
    path(f"{_RESULTS}/metrics/tried", metrics.TryFormulaView.as_view()),
    path(f"{_RESULTS}/metrics/<int:pk>", metrics.OwnMetricView.as_view()),
]
