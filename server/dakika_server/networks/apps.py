"""The area networks."""

from django.apps import AppConfig


class NetworksConfig(AppConfig):
    """Django's handle."""

    name = "dakika_server.networks"
