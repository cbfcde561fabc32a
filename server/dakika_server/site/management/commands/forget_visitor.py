"""manage.py forget_visitor KEY NUMBER: take out what is kept of somebody who asks to be forgotten."""

from typing import Any

from django.core.management.base import BaseCommand, CommandError, CommandParser

from dakika_server.shared import clock
from dakika_server.site.collecting import REMEMBERED, visitor_of
from dakika_server.site.models import Site
from dakika_server.site.visiting import forget_visitor


class Command(BaseCommand):
    """Forget one visitor of one site."""

    help = "Takes out the visits of a visitor, by the number that their browser keeps under the name dakika."

    def add_arguments(self, parser: CommandParser) -> None:
        """The site's key and the visitor's number."""
        parser.add_argument("key")
        parser.add_argument("number", help="32 signs, as the browser shows them in its local storage")

    def handle(self, *args: Any, **options: Any) -> None:
        """Find and forget."""
        site = Site.objects.filter(key=options["key"]).first()
        if site is None or not REMEMBERED.match(options["number"]):
            raise CommandError("Give a site's key and the 32 signs that the visitor's browser keeps.")
        count = forget_visitor(site.brand_id, visitor_of(site, "", "", clock.now(), options["number"]))
        self.stdout.write(f"{count} visits are forgotten.")
