"""Who may do what with sources."""

from dakika_server.accounts.permissions import KEEPERS, Permission

ROWS = {
    "sources.collect": Permission(KEEPERS, "have profiles collected"),
    "sources.connect": Permission(KEEPERS, "connect and leave profiles"),
    "sources.files": Permission(KEEPERS, "bring files in and undo them"),
    "sources.follow": Permission(KEEPERS, "follow competitors and feeds"),
}
