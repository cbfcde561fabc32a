"""Who may do what with figures."""

from dakika_server.accounts.permissions import WRITERS, Permission

ROWS = {"figures.keep": Permission(WRITERS, "keep studies under a name")}
