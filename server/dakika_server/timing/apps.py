"""The area timing."""

from django.apps import AppConfig


class TimingConfig(AppConfig):
    """Django's handle."""

    name = "dakika_server.timing"
