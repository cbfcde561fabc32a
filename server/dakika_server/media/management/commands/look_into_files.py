"""manage.py look_into_files: what a worker would do next with the files that wait, where none runs."""

from typing import Any

from django.core.management.base import BaseCommand

from dakika_server.media.checking import check
from dakika_server.media.models import Asset


class Command(BaseCommand):
    """Look into every file that waits."""

    help = "Look into the files of people that wait for it."

    def handle(self, *args: Any, **options: Any) -> None:
        """One after the other."""
        for number in Asset.objects.filter(state=Asset.State.CHECKING).values_list("pk", flat=True):
            check(number)
