"""Who may do what with competitors."""

from dakika_server.accounts.permissions import MAKERS, Permission

ROWS = {
    "competitors.sets": Permission(MAKERS, "make peer sets"),
}
