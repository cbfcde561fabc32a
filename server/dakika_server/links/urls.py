"""Addresses of links."""

from django.urls import path

from dakika_server.links import api
from dakika_server.links.api import visits

BASE = "brands/<slug:brand>/links"

urlpatterns = [
    path(BASE, api.LinksView.as_view()),
    path(f"{BASE}/traffic", api.TrafficView.as_view()),
    path(f"{BASE}/behind", api.DayBehindView.as_view()),
    path(f"{BASE}/preview", api.PreviewView.as_view()),
    path(f"{BASE}/check", api.CheckView.as_view()),
    path(f"{BASE}/bulk", api.BulkView.as_view()),
    path(f"{BASE}/bulk/preview", api.BulkPreviewView.as_view()),
    path(f"{BASE}/settings", api.LinkSettingsView.as_view()),
    path(f"{BASE}/domains", api.DomainChoiceView.as_view()),
    path(f"{BASE}/domains/<int:pk>", api.DomainView.as_view()),
    path(f"{BASE}/pages", api.LinkPagesView.as_view()),
    path(f"{BASE}/pages/<int:pk>", api.LinkPageView.as_view()),
    path(f"{BASE}/sites", visits.SitesView.as_view()),
    path(f"{BASE}/sites/<int:pk>", visits.SiteView.as_view()),
    path(f"{BASE}/sites/<int:pk>/logs", visits.SiteLogsView.as_view()),
    path(f"{BASE}/goals", visits.GoalsView.as_view()),
    path(f"{BASE}/goals/<int:pk>", visits.GoalView.as_view()),
    path(f"{BASE}/conversions", visits.ConversionsView.as_view()),
    path(f"{BASE}/conversions/<int:pk>", visits.ConversionView.as_view()),
    path(f"{BASE}/attribution", visits.AttributionView.as_view()),
    path(f"{BASE}/funnel", visits.FunnelView.as_view()),
    path(f"{BASE}/<int:pk>", api.LinkDetailView.as_view()),
    path(f"{BASE}/<int:pk>/code", api.QrView.as_view()),
]
