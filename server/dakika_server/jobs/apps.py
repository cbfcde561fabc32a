"""The area jobs."""

from django.apps import AppConfig


class JobsConfig(AppConfig):
    """Django's handle."""

    name = "dakika_server.jobs"
