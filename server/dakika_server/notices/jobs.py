"""Entry points of the worker for notices."""

from datetime import timedelta

from procrastinate.contrib.django import app

from dakika_server.jobs.forgotten import Waiting
from dakika_server.jobs.tasks import in_database

KEPT = timedelta(days=180)
# Whoever got a file has it; here it is kept as long as a letter may be tried again, and looked into.
KEPT_FILES = timedelta(days=30)


@app.task(queue="mail", name="notices.send_mail")
@in_database
def send_mail(mail_id: int) -> None:
    """Send one letter, unless it is sent."""
    from dakika_server.notices.outbox import deliver

    deliver(mail_id)


@app.task(queue="webhooks", name="notices.push")
@in_database
def push_notices() -> None:
    """Have browsers show what is due."""
    from dakika_server.notices.pushing import push_due

    push_due()


@app.periodic(cron="* * * * * 0")
@app.task(queue="upkeep", name="notices.sweep", queueing_lock="notices.sweep")
@in_database
def sweep_all(timestamp: int) -> None:
    """Everything that is due by a brand's clock, and letters that are due again."""
    from django.db.models import Count, Q

    from dakika_server.brands.models import Brand
    from dakika_server.notices.models import Notification
    from dakika_server.notices.outbox import take_up_mail
    from dakika_server.notices.schedules import DUE, ensure_schedules, sweep
    from dakika_server.notices.telling import write_due
    from dakika_server.shared import clock

    del timestamp
    has = Count("schedules", filter=Q(schedules__name__in=[*DUE]))
    for brand in Brand.objects.annotate(has=has).filter(has__lt=len(DUE)):
        ensure_schedules(brand)
    sweep()
    write_due()
    if Notification.objects.filter(push_at__lte=clock.now(), pushed_at=None).exists():
        push_notices.defer()
    take_up_mail()


@app.periodic(cron="40 3 * * * 0")
@app.task(queue="upkeep", name="notices.forget_old", queueing_lock="notices.forget_old")
@in_database
def forget_old(timestamp: int) -> None:
    """Notifications and letters go after half a year, files of letters after a month."""
    from dakika_server.notices.models import Mail, MailFile, Notification
    from dakika_server.shared import clock

    del timestamp
    before = clock.now() - KEPT
    Notification.objects.filter(at__lt=before).delete()
    Mail.objects.filter(made_at__lt=before).delete()
    MailFile.objects.filter(made_at__lt=clock.now() - KEPT_FILES).delete()


def _waiting() -> list[int]:
    from dakika_server.notices.models import Mail

    return list(Mail.objects.filter(state=Mail.State.WAITING, attempts=0).values_list("pk", flat=True)[:500])


WAITING = [
    Waiting(task="notices.send_mail", argument="mail_id", found=_waiting, ask=lambda pk: send_mail.defer(mail_id=pk))
]
