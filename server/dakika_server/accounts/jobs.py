"""Entry points of the worker for accounts: what is kept of people's signing in has an end."""

from datetime import timedelta

from procrastinate.contrib.django import app

from dakika_server.jobs.tasks import in_database
from dakika_server.shared import clock


def forget_old_sign_ins() -> int:
    """Forget sessions that are over, lockouts that have cooled off, records of long ago; returns how many."""
    from axes.models import AccessAttempt, AccessFailureLog, AccessLog
    from django.conf import settings
    from django.contrib.sessions.models import Session

    from dakika_server.accounts.models import UserSession, WrongCode

    now = clock.now()
    old = now - timedelta(days=settings.SIGN_IN_RECORDS_DAYS)
    cooled = now - timedelta(hours=settings.AXES_COOLOFF_TIME)
    gone = [
        Session.objects.filter(expire_date__lt=now).delete()[0],
        AccessAttempt.objects.filter(attempt_time__lt=cooled).delete()[0],
        AccessLog.objects.filter(attempt_time__lt=old).delete()[0],
        AccessFailureLog.objects.filter(attempt_time__lt=old).delete()[0],
        UserSession.objects.exclude(session_key__in=Session.objects.values("session_key")).delete()[0],
        WrongCode.objects.filter(at__lt=now - timedelta(days=1)).delete()[0],
    ]
    return sum(gone)


# Every hour, and so within an hour of any start.
@app.periodic(cron="17 * * * *")
@app.task(queue="upkeep", name="accounts.forget_old_sign_ins", queueing_lock="accounts.forget_old_sign_ins")
@in_database
def forget_hourly(timestamp: int) -> None:
    """What has come to its end."""
    del timestamp
    forget_old_sign_ins()


@app.task(queue="mail", name="accounts.write_reset")
@in_database
def write_reset_letter(email: str) -> None:
    """A letter with a key for a new password, where somebody has the address."""
    from dakika_server.accounts.reset import write_reset

    write_reset(email)
