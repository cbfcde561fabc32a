"""Who may do what with timing."""

from dakika_server.accounts.permissions import KEEPERS, MAKERS, Permission

ROWS = {
    "timing.rhythm": Permission(MAKERS, "set the rhythm of profiles"),
    "timing.trial": Permission(KEEPERS, "start and end trials of publishing times"),
}
