"""Who may do what with reports."""

from dakika_server.accounts.permissions import PUBLISHERS, TEAM, WRITERS, Permission

ROWS = {
    "reports.read": Permission(TEAM, "look at reports", is_reading=True),
    "reports.write": Permission(WRITERS, "make and change reports"),
    "reports.share": Permission(PUBLISHERS, "give reports to people outside"),
}
