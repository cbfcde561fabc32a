"""manage.py retention: what would go of what is kept for a time alone, and with --apply, that it goes."""

from typing import Any

from django.core.management.base import BaseCommand, CommandParser

from dakika_server.shared.retention import KEPT


class Command(BaseCommand):
    """Nothing is changed without --apply; the worker does it every night."""

    help = "What is over by the settings: how much would go. --apply lets it go now."

    def add_arguments(self, parser: CommandParser) -> None:
        """Whether to do it."""
        parser.add_argument("--apply", action="store_true")

    def handle(self, *args: Any, **options: Any) -> None:
        """A line for each."""
        for _, one in sorted(KEPT.items()):
            before = one.before
            if before is None:
                self.stdout.write(f"{one.words}: kept for ever ({one.setting})")
                continue
            what = f"{one.words} of before {before:%-d %B %Y} ({one.setting}={one.days()})"
            if options["apply"]:
                self.stdout.write(f"{what}: {one.forget(before)} went")
            else:
                self.stdout.write(f"{what}: {one.would_go(before)} would go")
