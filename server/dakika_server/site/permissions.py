"""Who may do what with site."""

from dakika_server.accounts.permissions import KEEPERS, Permission

ROWS = {
    "site.conversions": Permission(KEEPERS, "tell of conversions and their stages"),
    "site.setup": Permission(KEEPERS, "change sites, goals and access logs"),
}
