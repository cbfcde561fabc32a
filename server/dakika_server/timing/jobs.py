"""Entry points of the worker for timing."""

from datetime import timedelta

from procrastinate.contrib.django import app

from dakika_server.jobs.tasks import in_database
from dakika_server.shared import clock

# An estimate whose figures have changed is made anew at most this often; by then a collection's other profiles are in.
AT_MOST_EVERY = timedelta(minutes=30)
MOST_AT_ONCE = 20


@app.task(queue="bulk", name="timing.refit", priority=-5)
@in_database
def refit(estimate_id: int) -> None:
    """Make one estimate anew, if it is still out of date."""
    from dakika_server.timing.refitting import make_anew

    make_anew(estimate_id)


@app.task(queue="bulk", name="timing.make_standing", priority=-5)
@in_database
def make_standing(brand_id: int) -> None:
    """What stands of a brand's own profiles, as far as it is missing."""
    from dakika_server.timing.refitting import make_standing as make

    make(brand_id)


@app.periodic(cron="*/10 * * * *")
@app.task(queue="upkeep", name="timing.refit_stale", queueing_lock="timing.refit_stale")
@in_database
def refit_stale(timestamp: int) -> None:
    """Standing estimates whose figures have changed since, a few at a time; trials that are under way."""
    from dakika_server.timing.models import Estimate, Trial
    from dakika_server.timing.refitting import forget_unasked
    from dakika_server.timing.trials import evaluate

    del timestamp
    now = clock.now()
    stale = Estimate.objects.filter(is_stale=True, is_standing=True, made_at__lt=now - AT_MOST_EVERY)
    for pk in stale.order_by("made_at").values_list("pk", flat=True)[:MOST_AT_ONCE]:
        refit.defer(estimate_id=pk)
    for trial in Trial.objects.filter(state=Trial.State.RUNNING):
        evaluate(trial, now)
    forget_unasked(now)
