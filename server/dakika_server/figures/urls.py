"""Addresses of figures."""

from django.urls import path

from dakika_server.figures import api

_FIGURES = "brands/<slug:brand>/figures"
urlpatterns = [
    path("brands/<slug:brand>/studies", api.StudiesView.as_view()),
    path("brands/<slug:brand>/studies/<int:pk>", api.KeptStudyView.as_view()),
    path(_FIGURES, api.KindsView.as_view()),
    path(f"{_FIGURES}/<str:kind>", api.FigureView.as_view()),
    path(f"{_FIGURES}/<str:kind>/basis", api.FigureBasisView.as_view()),
    path(f"{_FIGURES}/<str:kind>/table", api.FigureTableView.as_view()),
]
