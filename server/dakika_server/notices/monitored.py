"""Whether letters go out."""

from datetime import timedelta

from dakika_server.monitoring.gauges import GAUGES, Gauge, total
from dakika_server.monitoring.status import PARTS, Part, Standing
from dakika_server.notices.models import Mail
from dakika_server.shared import clock

WAITING, FAILED = "dakika_mail_waiting", "dakika_mail_failed"
LATE = timedelta(minutes=15)


def _waiting() -> int:
    return Mail.objects.filter(state=Mail.State.WAITING, made_at__lt=clock.now() - LATE).count()


def _failed() -> int:
    since = clock.now() - timedelta(days=1)
    return Mail.objects.filter(state__in=[Mail.State.FAILED, Mail.State.UNSURE], ended_at__gte=since).count()


def _look() -> Standing:
    late, failed = total(WAITING), total(FAILED)
    if not late and not failed:
        return Standing(told="All of a day went out.")
    return Standing(
        told=f"{late:.0f} wait for more than a quarter of an hour; {failed:.0f} failed within a day.", is_well=False,
        advice="Look at DAKIKA_SMTP and what the mail server says; those who look after the brand were told of each.",
    )  # fmt: skip


def connect() -> None:
    """Add to what is measured and looked at."""
    GAUGES.add(WAITING, Gauge(words="Letters that wait for long", read=lambda: [((), float(_waiting()))]))
    GAUGES.add(FAILED, Gauge(words="Letters that failed within a day", read=lambda: [((), float(_failed()))]))
    PARTS.add("mail", Part(words="Letters", look=_look))
