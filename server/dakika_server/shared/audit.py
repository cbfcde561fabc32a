"""Write down who changed what. Called inside the transaction of the change."""

from typing import Any

from django.db.models import Model

from dakika_server.shared import clock
from dakika_server.shared.models import AuditEntry


def record(actor: Any, action: str, subject: Model, *, brand_id: int | None, **detail: Any) -> None:
    """An entry in the log; details hold no secrets and no texts of people."""
    AuditEntry.objects.create(
        at=clock.now(), actor_id=getattr(actor, "pk", None), brand_id=brand_id, action=action,
        subject=type(subject).__name__, subject_id=subject.pk, detail=detail,
    )  # fmt: skip
