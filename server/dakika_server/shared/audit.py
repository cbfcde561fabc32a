"""Write down who changed what. Called inside the transaction of the change.

In the trade's words: audit log, audit trail.
"""

from collections.abc import Callable
from contextvars import ContextVar
from typing import Any

from django.db.models import Model
from django.http import HttpRequest, HttpResponse

from dakika_server.shared import clock
from dakika_server.shared.hooks import Hook
from dakika_server.shared.models import AuditEntry
from dakika_server.shared.security import client_address

# An entry was written; answered within its transaction.
recorded: Hook[[AuditEntry], None] = Hook("what was recorded")
# From where the request came that is being answered; nothing in the worker.
_asked_from: ContextVar[str] = ContextVar("asked_from", default="")


def note_address(get_response: Callable[[HttpRequest], HttpResponse]) -> Callable[[HttpRequest], HttpResponse]:
    """Middleware: what is changed while a request is answered was asked for from its client's address."""

    def middleware(request: HttpRequest) -> HttpResponse:
        before = _asked_from.set(client_address(request)[:45])
        try:
            return get_response(request)
        finally:
            _asked_from.reset(before)

    return middleware


def record(actor: Any, action: str, subject: Model, *, brand_id: int | None, **detail: Any) -> None:
    """An entry in the log; details hold no secrets and no texts of people.

    What the rows were before and are after is noted by the database (shared.row_changes).
    """
    entry = AuditEntry.objects.create(
        at=clock.now(), actor_id=getattr(actor, "pk", None), brand_id=brand_id, action=action,
        subject=type(subject).__name__, subject_id=subject.pk, detail=detail, address=_asked_from.get(),
    )  # fmt: skip
    recorded(entry)
