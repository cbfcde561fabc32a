"""Addresses of files of people."""

from django.urls import path

from dakika_server.media.api import AssetContentView, AssetsView, AssetView

HOME = "brands/<slug:brand>/media"
urlpatterns = [
    path(HOME, AssetsView.as_view()),
    path(f"{HOME}/<int:pk>", AssetView.as_view()),
    path(f"{HOME}/<int:pk>/<str:purpose>", AssetContentView.as_view()),
]
