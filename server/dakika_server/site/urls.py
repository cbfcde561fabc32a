"""Addresses of site."""

from django.urls import path

from dakika_server.site import api

BASE = "brands/<slug:brand>/site"

urlpatterns = [
    path(f"{BASE}/traffic", api.TrafficView.as_view()),
    path(f"{BASE}/sites", api.SitesView.as_view()),
    path(f"{BASE}/sites/<int:pk>", api.SiteView.as_view()),
    path(f"{BASE}/sites/<int:pk>/logs", api.SiteLogsView.as_view()),
    path(f"{BASE}/goals", api.GoalsView.as_view()),
    path(f"{BASE}/goals/<int:pk>", api.GoalView.as_view()),
    path(f"{BASE}/conversions", api.ConversionsView.as_view()),
    path(f"{BASE}/conversions/<int:pk>", api.ConversionView.as_view()),
    path(f"{BASE}/attribution", api.AttributionView.as_view()),
    path(f"{BASE}/funnel", api.FunnelView.as_view()),
]
