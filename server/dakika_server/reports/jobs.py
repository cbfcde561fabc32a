"""Entry points of the worker for reports."""

from procrastinate.contrib.django import app

from dakika_server.jobs.tasks import in_database


@app.periodic(cron="52 5 * * *")
@app.task(queue="upkeep", name="reports.forget", queueing_lock="reports.forget")
@in_database
def forget(timestamp: int) -> None:
    """Reports that were taken away long ago."""
    from dakika_server.reports.keeping import forget_reports

    del timestamp
    forget_reports()
