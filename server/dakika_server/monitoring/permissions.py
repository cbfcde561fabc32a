"""Who sees how the installation runs."""

from dakika_server.accounts.permissions import ADMINS, Permission

ROWS = {"brand.status": Permission(ADMINS, "see how the installation runs", is_reading=True)}
