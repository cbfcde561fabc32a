"""Addresses of links."""

from django.urls import path

from dakika_server.links.api import LinkDetailView, LinksView, UtmView

urlpatterns = [
    path("brands/<slug:brand>/links", LinksView.as_view()),
    path("brands/<slug:brand>/links/utm", UtmView.as_view()),
    path("brands/<slug:brand>/links/<int:pk>", LinkDetailView.as_view()),
]
