"""manage.py let_in: for who lost their device and their codes, or gets no mail."""

from typing import Any

from django.core.management.base import BaseCommand, CommandError, CommandParser

from dakika_server.accounts.models import User, normal_name
from dakika_server.accounts.reset import let_in


class Command(BaseCommand):
    """Take a person's second factors away and print an address that sets a new password, once and within an hour."""

    help = (
        "Let somebody in who lost their device: their codes and passkeys end, and a new password is set by an address."
    )

    def add_arguments(self, parser: CommandParser) -> None:
        """Whom."""
        parser.add_argument("email")

    def handle(self, *args: Any, **options: Any) -> None:
        """To the one who reads the terminal alone. Raises CommandError for an address that nobody signs in with."""
        person = User.objects.filter(email=normal_name(options["email"]), is_active=True, is_program=False).first()
        if person is None:
            raise CommandError(f"Nobody signs in with {options['email']}.")
        address = let_in(person)
        self.stdout.write(f"  {person.name} signs in with a password alone now, and sets it, once within an hour, at")
        self.stdout.write(f"  {address}")
