"""Accounts, as they hand themselves in."""

from django.contrib.auth.signals import user_logged_in, user_logged_out

from dakika_server.accounts import retention
from dakika_server.accounts.sessions import note_begun, note_ended, note_seen
from dakika_server.shared.areas import Area
from dakika_server.shared.row_changes import Noted, note_changes
from dakika_server.shared.security import session_used


def _connect() -> None:
    note_changes({
        "accounts_user": Noted(columns=("email", "name", "language", "time_zone", "theme", "is_active")),
        "accounts_passkey": None,
    })  # fmt: skip
    retention.connect()
    user_logged_in.connect(note_begun)
    user_logged_out.connect(note_ended)
    session_used.add("accounts", note_seen)


AREA = Area(name="accounts", urls="dakika_server.accounts.urls", connect=_connect)
