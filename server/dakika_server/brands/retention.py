"""What happened has an end."""

from django.conf import settings

from dakika_server.shared import clock
from dakika_server.shared.log import forget_old
from dakika_server.shared.models import AuditEntry
from dakika_server.shared.retention import KEPT, Kept


def connect() -> None:
    """Say what of brands has an end."""
    KEPT.add("log", Kept(
        words="Entries of who changed what", setting="DAKIKA_LOG_KEPT_DAYS", days=lambda: settings.LOG_KEPT_DAYS,
        would_go=lambda before: AuditEntry.objects.filter(at__lt=before).count(),
        forget=lambda before: forget_old(clock.now() - before)[0],
    ))  # fmt: skip
