"""Accounts, as they hand themselves in."""

from dakika_server.shared.areas import Area

AREA = Area(name="accounts", urls="dakika_server.accounts.urls")
