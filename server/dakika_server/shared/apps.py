"""The parts that know no area."""

from django.apps import AppConfig


class SharedConfig(AppConfig):
    """Django's handle."""

    name = "dakika_server.shared"
