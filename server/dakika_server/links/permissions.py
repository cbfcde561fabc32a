"""Who may do what with links."""

from dakika_server.accounts.permissions import KEEPERS, MAKERS, Permission

ROWS = {
    "links.make": Permission(MAKERS, "make and change tracked links"),
    "links.pages": Permission(MAKERS, "make and change pages of links"),
    "links.rules": Permission(KEEPERS, "change the rules and hosts of links"),
}
