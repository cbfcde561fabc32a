"""Who decides what other programs are told."""

from dakika_server.accounts.permissions import ADMINS, Permission

ROWS = {"brand.webhooks": Permission(ADMINS, "decide which other programs are told what happens in the brand")}
