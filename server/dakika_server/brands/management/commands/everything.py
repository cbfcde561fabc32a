"""manage.py everything: what is kept of a brand or a person as a file, or taken out for good."""

import sys
from pathlib import Path
from typing import Any

from django.core.management.base import BaseCommand, CommandError, CommandParser
from django.db import IntegrityError
from rest_framework.exceptions import APIException

from dakika_server.accounts.models import User
from dakika_server.brands.everything import erase_brand, erase_person, give_brand, person_as_text
from dakika_server.brands.models import Brand


class Command(BaseCommand):
    """Whoever erases types the name once more."""

    help = "export brand SLUG FILE, export person EMAIL FILE, erase brand SLUG, erase person EMAIL"

    def add_arguments(self, parser: CommandParser) -> None:
        """What, of whom, and where to."""
        parser.add_argument("what", choices=["export", "erase"])
        parser.add_argument("whose", choices=["brand", "person"])
        parser.add_argument("name")
        parser.add_argument("file", nargs="?", type=Path)
        parser.add_argument("--yes", action="store_true", help="do not ask")

    def handle(self, *args: Any, **options: Any) -> None:
        """Find who is meant, and do it."""
        is_brand, name = options["whose"] == "brand", options["name"]
        found: Any = (
            Brand.objects.filter(slug=name).first() if is_brand else User.objects.filter(email__iexact=name).first()
        )
        if found is None:
            raise CommandError(f"There is no {options['whose']} {name} here.")
        if options["what"] == "export":
            self._export(found, options["file"])
        else:
            self._erase(found, name, asks=not options["yes"])

    def _export(self, found: Brand | User, file: Path | None) -> None:
        if file is None:
            raise CommandError("Say which file it is written to.")
        try:
            if isinstance(found, Brand):
                counts = give_brand(found, file)
                self.stdout.write(f"{sum(counts.values())} rows and files of {found.name} stand in {file}.")
            else:
                file.touch(mode=0o600)
                file.write_text(person_as_text(found))
                self.stdout.write(f"Everything about {found.name} stands in {file}.")
        except OSError as error:
            raise CommandError(f"{file} cannot be written: {error.strerror}.") from None

    def _erase(self, found: Brand | User, name: str, *, asks: bool) -> None:
        if asks:
            self.stdout.write(f"Everything of {found} goes and cannot be brought back, but from a backup.")
            self.stdout.write(f"Type {name} to do it: ", ending="")
            self.stdout.flush()
            if sys.stdin.readline().strip() != name:
                raise CommandError("Nothing was taken out.")
        try:
            if isinstance(found, Brand):
                self.stdout.write(f"{erase_brand(found)} rows went.")
            else:
                erase_person(found)
                self.stdout.write("Nothing names them any more.")
        except IntegrityError:
            raise CommandError("Something came in while it was taken out. Nothing was changed; try again.") from None
        except APIException as error:
            said = error.detail if isinstance(error.detail, dict) else {"": [error.detail]}
            raise CommandError(" ".join(str(one) for some in said.values() for one in some)) from None
