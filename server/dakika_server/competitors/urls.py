"""Addresses of competitors."""

from django.urls import path

from dakika_server.competitors.api import CompetitorsView

urlpatterns = [path("brands/<slug:brand>/competitors", CompetitorsView.as_view())]
