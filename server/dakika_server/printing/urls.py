"""Addresses of printed pages."""

from django.urls import path

from dakika_server.printing.api import PrintedFileView, PrintedPageView

urlpatterns = [
    path("brands/<slug:brand>/printed/<int:pk>", PrintedPageView.as_view()),
    path("brands/<slug:brand>/printed/<int:pk>/file", PrintedFileView.as_view()),
]
