"""Addresses of networks."""

from django.urls import path

from dakika_server.networks.api import NetworksView

urlpatterns = [path("networks", NetworksView.as_view())]
