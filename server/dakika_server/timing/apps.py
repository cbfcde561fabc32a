"""The area timing."""

from django.apps import AppConfig


class TimingConfig(AppConfig):
    """Django's handle."""

    name = "dakika_server.timing"

    def ready(self) -> None:
        """Findings hold missed hours too; results stand below and cannot ask for them."""
        from datetime import datetime

        from dakika_server.brands.models import Brand
        from dakika_server.results.findings import MORE_FINDERS, Found

        def find_missed_hours(brand: Brand, now: datetime) -> list[Found]:
            from dakika_server.timing.findings import missed_hours

            return missed_hours(brand, now)

        MORE_FINDERS.append(find_missed_hours)
