"""What of the invented world stands outside: the stand-ins at work, or nothing but its addresses."""

import secrets
from dataclasses import dataclass

from django.conf import settings

ALPHABET = "abcdefghijkmnpqrstuvwxyz23456789"
SITES = {"orrery": "orreryhouse", "lantern": "lanternline"}
# The stand-in sites carry these keys in their pages.
KEYS = {"orrery": "demo-orreryhouse", "lantern": "demo-lanternline"}


@dataclass(frozen=True, kw_only=True)
class Outside:
    """standins: where they answer; empty where there are none, so that nothing is followed, connected or sent out."""

    standins: str

    def site(self, owner: str) -> str:
        """The address of a brand's site."""
        return f"{self.standins}/sites/{SITES[owner]}" if self.standins else f"https://{SITES[owner]}.example"

    def key(self, owner: str) -> str:
        """By what a site's script says whose it is; among several demos each has its own."""
        return KEYS[owner] if self.standins else secrets.token_urlsafe(12)

    def code(self, told: str) -> str:
        """A short link's code; among several demos each has its own."""
        return told if self.standins else "".join(secrets.choice(ALPHABET) for _ in range(8))


def at_work() -> Outside:
    """The stand-ins of this installation. For `./dakika start` alone."""
    return Outside(standins=settings.STANDINS_ADDRESS)


ADDRESSES_ALONE = Outside(standins="")
