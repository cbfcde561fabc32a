"""Keeping the queue itself in order.

In the trade's words: heartbeat, dead worker, poison message.
"""

import logging

from procrastinate import JobContext
from procrastinate.contrib.django import app

from dakika_server.jobs.forgotten import take_up_forgotten as take_up
from dakika_server.jobs.tasks import in_database
from dakika_server.shared.callers import forget_minutes as forget

log = logging.getLogger(__name__)
MOST_ATTEMPTS = 20


# Every five seconds: the sixth field, the last one, is the seconds'.
@app.periodic(cron="* * * * * */5")
@app.task(queue="upkeep", name="jobs.take_up_stalled", queueing_lock="jobs.take_up_stalled", pass_context=True)
async def take_up_stalled(context: JobContext, timestamp: int) -> None:
    """Jobs of workers that died are taken up again; one that was tried too often is given up."""
    del timestamp
    manager = context.app.job_manager
    for job in await manager.get_stalled_jobs(seconds_since_heartbeat=20):
        if job.attempts >= MOST_ATTEMPTS:
            log.error("job %s (%s) was given up after %s attempts", job.id, job.task_name, job.attempts)
            from procrastinate.jobs import Status

            await manager.finish_job(job, Status.FAILED, delete_job=False)
        else:
            log.warning("job %s (%s) of a dead worker is taken up again", job.id, job.task_name)
            await manager.retry_job(job)


# Twice a minute.
@app.periodic(cron="* * * * * */30")
@app.task(queue="upkeep", name="jobs.take_up_forgotten", queueing_lock="jobs.take_up_forgotten")
@in_database
def take_up_forgotten(timestamp: int) -> None:
    """What waits without a job is asked for again."""
    del timestamp
    take_up()


# Every minute.
@app.periodic(cron="* * * * * 20")
@app.task(queue="upkeep", name="jobs.forget_minutes", queueing_lock="jobs.forget_minutes")
@in_database
def forget_minutes(timestamp: int) -> None:
    """Who did what how often is forgotten with the minute."""
    del timestamp
    forget()


@app.periodic(cron="10 3 * * * 0")
@app.task(queue="bulk", name="jobs.forget_what_is_over", queueing_lock="jobs.forget_what_is_over")
@in_database
def forget_what_is_over(timestamp: int) -> None:
    """What is kept for a time alone goes, every night."""
    from dakika_server.shared.retention import forget_what_is_over

    del timestamp
    log.info("what was over went: %s", ", ".join(f"{count} {name}" for name, count in forget_what_is_over().items()))
