"""Who may do what with results."""

from dakika_server.accounts.permissions import KEEPERS, MAKERS, Permission

ROWS = {
    "results.findings": Permission(KEEPERS, "have findings looked for, keep and dismiss them"),
    "results.metrics": Permission(KEEPERS, "make metrics"),
    "results.targets": Permission(KEEPERS, "set targets"),
    "results.tag": Permission(MAKERS, "tag posts and sort them into campaigns"),
}
