"""manage.py read_access_log KEY FILE_OR_FOLDER ...: the visits of a declared site from its access logs."""

from pathlib import Path
from typing import Any

from django.core.management.base import BaseCommand, CommandError, CommandParser

from dakika_server.site.logs import LogError, LogRead, files_of, lines_of, read_log
from dakika_server.site.models import Site


class Command(BaseCommand):
    """Read access logs."""

    help = "Reads access logs (Common, Combined, W3C Extended; plain or .gz) into a site's visits; again adds nothing."

    def add_arguments(self, parser: CommandParser) -> None:
        """The site's key and what to read."""
        parser.add_argument("key", help="the site's key, as in Links, Sites and goals")
        parser.add_argument("paths", nargs="+", type=Path)

    def handle(self, *args: Any, **options: Any) -> None:
        """Read and tell."""
        site = Site.objects.filter(key=options["key"]).first()
        if site is None:
            raise CommandError("There is no site of this key. It stands in Links, Sites and goals.")
        try:
            files = files_of(options["paths"])
        except FileNotFoundError as error:
            raise CommandError(f"There is no {error}.") from None

        def tell(done: LogRead) -> None:
            self.stdout.write(f"{done.lines:,} lines, {done.visits:,} visits", ending="\r")

        try:
            done = read_log(site, lines_of(files), tell)
        except LogError as error:
            raise CommandError(f"{error} What was read before is kept.") from None
        self.stdout.write(
            f"{done.lines:,} lines of {len(files)} files: {done.new_visits:,} new visits of {done.visits:,}; left out "
            f"{done.not_pages:,} that are no pages, {done.bots:,} of bots, {done.unreadable:,} that cannot be read."
        )
