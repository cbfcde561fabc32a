"""manage.py first_key: where the first person of an installation begins."""

from typing import Any

from django.conf import settings
from django.core.management.base import BaseCommand

from dakika_server.brands.beginning import KEY_LASTS, first_key


class Command(BaseCommand):
    """Print an address that lets one person in, once; nothing where somebody is there already."""

    help = "Print where the first person begins, if nobody is there yet."

    def handle(self, *args: Any, **options: Any) -> None:
        """To the one who reads the terminal alone: it is kept nowhere."""
        key = first_key()
        if key is not None:
            hours = int(KEY_LASTS.total_seconds() // 3600)
            # After the #: it is told to no server, and stands in no log.
            self.stdout.write(f"  Nobody is there yet. Begin, once and within {hours} hours, at")
            self.stdout.write(f"  {settings.PUBLIC_ADDRESS}/begin#{key}")
