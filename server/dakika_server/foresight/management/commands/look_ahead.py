"""./manage.py look_ahead: bring what is told of young and planned posts up to date, without waiting for the next
reading.
"""

from typing import Any

from django.core.management.base import BaseCommand

from dakika_server.foresight.looking import look_ahead
from dakika_server.sources.models import Profile


class Command(BaseCommand):
    """For every own profile that is followed."""

    help = "Look ahead for every own profile that is followed."

    def handle(self, *args: Any, **options: Any) -> None:
        """Profile by profile; each is told."""
        profiles = Profile.objects.filter(kind="own", is_followed=True).select_related("brand").order_by("pk")
        for profile in profiles:
            look_ahead(profile)
            self.stdout.write(f"{profile.name} on {profile.network}")
