"""manage.py load_demo: fill an empty database from the stand-ins."""

from typing import Any

from django.core.management.base import BaseCommand

from dakika_server.brands.models import Brand


class Command(BaseCommand):
    """Load the demo unless there are brands already."""

    help = "Load the demo's half-year from the stand-ins into an empty database."

    def handle(self, *args: Any, **options: Any) -> None:
        """Do nothing when there is data."""
        from dakika_server.demo.loading import load_demo

        if Brand.objects.exists():
            self.stdout.write("There is data already; nothing is loaded.")
            return
        counts = load_demo()
        self.stdout.write(", ".join(f"{count:,} {kind}" for kind, count in counts.items()))
