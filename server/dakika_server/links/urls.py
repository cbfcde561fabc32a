"""Addresses of links."""

from django.urls import path

from dakika_server.links import api

BASE = "brands/<slug:brand>/links"

urlpatterns = [
    path(BASE, api.LinksView.as_view()),
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
    path(f"{BASE}/<int:pk>", api.LinkDetailView.as_view()),
    path(f"{BASE}/<int:pk>/code", api.QrView.as_view()),
]
