"""Addresses of sources."""

from django.urls import path

from dakika_server.sources.api import (
    CollectView,
    CompetitorsByHandleView,
    ConnectionsView,
    ConnectionView,
    ConsentReturnView,
    ImportsView,
    ImportView,
    ProfileView,
    SourcesView,
)

urlpatterns = [
    path("connections/return", ConsentReturnView.as_view()),
    path("brands/<slug:brand>/sources", SourcesView.as_view()),
    path("brands/<slug:brand>/sources/collect", CollectView.as_view()),
    path("brands/<slug:brand>/sources/profiles/<int:pk>", ProfileView.as_view()),
    path("brands/<slug:brand>/sources/competitors", CompetitorsByHandleView.as_view()),
    path("brands/<slug:brand>/sources/connections", ConnectionsView.as_view()),
    path("brands/<slug:brand>/sources/connections/<int:pk>", ConnectionView.as_view()),
    path("brands/<slug:brand>/sources/imports", ImportsView.as_view()),
    path("brands/<slug:brand>/sources/imports/<int:pk>", ImportView.as_view()),
]
