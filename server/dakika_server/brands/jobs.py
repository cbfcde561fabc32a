"""Entry points of the worker for brands: what was answered to programs, and what happened, have an end."""

from datetime import timedelta

from procrastinate.contrib.django import app

from dakika_server.jobs.tasks import in_database

KEPT = timedelta(hours=24)


def forget_old_answers() -> None:
    """A key of a program's is free again after a day."""
    from dakika_server.brands.models import KeptAnswer
    from dakika_server.shared import clock

    KeptAnswer.objects.filter(at__lt=clock.now() - KEPT).delete()


@app.periodic(cron="23 * * * *")
@app.task(queue="upkeep", name="brands.forget_answers", queueing_lock="brands.forget_answers")
@in_database
def forget_answers(timestamp: int) -> None:
    """What was answered long ago."""
    del timestamp
    forget_old_answers()
