"""Tickets: with one a browser may listen to a person's brands for a while; the session stays with the web server."""

from typing import Any

from django.core import signing

SALT = "dakika.events"
# Seconds within which a ticket must be shown.
GOOD_FOR = 60


def ticket_for(person: Any, brands: dict[int, str]) -> str:
    """A ticket to listen to some brands, number to slug."""
    return signing.dumps({"person": person.pk, "brands": brands}, salt=SALT, compress=True)


def read_ticket(ticket: str) -> tuple[int, dict[int, str]]:
    """Person and brands of a ticket. Raises BadSignature for one that is not ours, or too old."""
    told = signing.loads(ticket, salt=SALT, max_age=GOOD_FOR)
    return int(told["person"]), {int(number): str(slug) for number, slug in told["brands"].items()}
