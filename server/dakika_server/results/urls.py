"""Addresses of results."""

from django.urls import path

from dakika_server.results.api import BasisView, LineView, PostDetailView, PostsView, SummaryView

urlpatterns = [
    path("brands/<slug:brand>/line", LineView.as_view()),
    path("brands/<slug:brand>/results/summary", SummaryView.as_view()),
    path("brands/<slug:brand>/results/basis", BasisView.as_view()),
    path("brands/<slug:brand>/results/posts", PostsView.as_view()),
    path("brands/<slug:brand>/results/posts/<int:pk>", PostDetailView.as_view()),
]
