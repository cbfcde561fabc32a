"""Addresses of the demo, below /api/."""

from django.urls import path

from dakika_server.demo import api

urlpatterns = [path("account/demo", api.DemoView.as_view())]
