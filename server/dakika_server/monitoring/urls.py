"""Addresses of monitoring."""

from django.urls import path

from dakika_server.monitoring import api

urlpatterns = [path("brands/<slug:brand>/status", api.StatusView.as_view())]
