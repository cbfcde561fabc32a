"""The area competitors."""

from django.apps import AppConfig


class CompetitorsConfig(AppConfig):
    """Django's handle."""

    name = "dakika_server.competitors"
