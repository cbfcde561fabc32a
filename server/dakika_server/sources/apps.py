"""The area sources."""

from django.apps import AppConfig


class SourcesConfig(AppConfig):
    """Django's handle."""

    name = "dakika_server.sources"
