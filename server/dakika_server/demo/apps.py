"""The demo."""

from django.apps import AppConfig


class DemoConfig(AppConfig):
    """Django's handle."""

    name = "dakika_server.demo"
