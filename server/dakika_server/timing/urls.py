"""Addresses of timing."""

from django.urls import path

from dakika_server.timing.api import TimingView

urlpatterns = [path("brands/<slug:brand>/timing", TimingView.as_view())]
