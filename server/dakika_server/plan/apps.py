"""The area plan."""

from django.apps import AppConfig


class PlanConfig(AppConfig):
    """Django's handle."""

    name = "dakika_server.plan"

    def ready(self) -> None:
        """Timing leaves out the hours that are taken; it stands below and is told."""
        from dakika_server.plan.queries import times_of
        from dakika_server.timing.planned import register_planned

        register_planned(times_of)
