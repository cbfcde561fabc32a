"""The area links."""

from django.apps import AppConfig


class LinksConfig(AppConfig):
    """Django's handle."""

    name = "dakika_server.links"
