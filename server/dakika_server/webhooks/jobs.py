"""Entry points of the worker for webhooks."""

from procrastinate.contrib.django import app

from dakika_server.jobs.tasks import in_database


@app.task(queue="webhooks", name="webhooks.send")
@in_database
def send_webhook(webhook_id: int) -> None:
    """Send what is due to one address."""
    from dakika_server.webhooks.sending import send

    send(webhook_id)


@app.periodic(cron="* * * * * 20")
@app.task(queue="upkeep", name="webhooks.sweep", queueing_lock="webhooks.sweep")
@in_database
def sweep_webhooks(timestamp: int) -> None:
    """Have sent what is due again."""
    from dakika_server.shared import clock
    from dakika_server.webhooks.sending import webhooks_due

    del timestamp
    for pk in webhooks_due(clock.now()):
        send_webhook.defer(webhook_id=pk)


@app.periodic(cron="50 3 * * * 0")
@app.task(queue="upkeep", name="webhooks.forget_old", queueing_lock="webhooks.forget_old")
@in_database
def forget_old_events(timestamp: int) -> None:
    """What happened a month ago is told nobody any more."""
    from dakika_server.shared import clock
    from dakika_server.webhooks.sending import forget_old

    del timestamp
    forget_old(clock.now())
