"""Entry points of the worker for the plan."""

from collections.abc import Iterable
from datetime import timedelta

from dakika_core.plan.states import State
from procrastinate.contrib.django import app

from dakika_server.jobs.forgotten import Waiting
from dakika_server.jobs.tasks import in_database
from dakika_server.shared import clock

OVERDUE_AFTER = timedelta(seconds=20)


@app.task(queue="publish", name="plan.publish", priority=10)
@in_database
def publish(version_id: int) -> None:
    """Publish one version; when the network is away, the same again later."""
    from dakika_server.plan.publish import TryLater, publish_version

    try:
        publish_version(version_id)
    except TryLater as later:
        publish.configure(schedule_in={"seconds": int(later.seconds) + 1}).defer(version_id=version_id)


@app.task(queue="files", name="plan.bring")
@in_database
def bring(version_id: int) -> None:
    """Bring a version's files to its network before the minute."""
    from dakika_server.plan.publish import bring_ahead

    bring_ahead(version_id)


@app.task(queue="publish", name="plan.say_first", priority=9)
@in_database
def first_comment(version_id: int) -> None:
    """Write a first comment; when the network is away, the same again later."""
    from dakika_server.plan.publish import TryLater, say_first

    try:
        say_first(version_id)
    except TryLater as later:
        first_comment.configure(schedule_in={"seconds": int(later.seconds) + 1}).defer(version_id=version_id)


@app.task(queue="bulk", name="plan.make_batch")
@in_database
def make_batch(batch_id: int) -> None:
    """Make the posts of a table, from where it stopped."""
    from dakika_server.plan.bulk import make_posts

    make_posts(batch_id)


def _making() -> Iterable[int]:
    from dakika_server.plan.bulk import making

    return making()


@app.periodic(cron="* * * * *")
@app.task(queue="upkeep", name="plan.look_after_reviews", queueing_lock="plan.look_after_reviews")
@in_database
def look_after_reviews(timestamp: int) -> None:
    """Remind of what waits for a yes, and miss what nobody said yes to by its minute."""
    from dakika_server.plan.saying import look_after_reviews as look_after

    del timestamp
    look_after()


@app.periodic(cron="* * * * *")
@app.task(queue="upkeep", name="plan.run_feed_rules", queueing_lock="plan.run_feed_rules")
@in_database
def run_feed_rules(timestamp: int) -> None:
    """Make of new items of feeds what rules say."""
    from dakika_server.plan.feed_rules.running import run_feed_rules as run

    del timestamp
    run(clock.now())


@app.task(queue="collect", name="plan.refresh_calendar")
@in_database
def refresh_calendar(calendar_id: int) -> None:
    """Ask for a followed calendar anew."""
    from dakika_server.plan.followed import refresh_calendar as refresh

    refresh(calendar_id)


@app.periodic(cron="*/10 * * * *")
@app.task(queue="upkeep", name="plan.refresh_calendars", queueing_lock="plan.refresh_calendars")
@in_database
def refresh_calendars(timestamp: int) -> None:
    """Ask for followed calendars that are due."""
    from dakika_server.plan.followed import claim_due

    del timestamp
    for pk in claim_due():
        refresh_calendar.defer(calendar_id=pk)


@app.periodic(cron="40 5 * * *")
@app.task(queue="upkeep", name="plan.bring_back", queueing_lock="plan.bring_back")
@in_database
def bring_back(timestamp: int) -> None:
    """Write drafts of posts whose season comes, and forget what cannot be undone any more."""
    from dakika_server.plan.returning import bring_back as bring
    from dakika_server.plan.several import forget_changes

    del timestamp
    bring(clock.now())
    forget_changes(clock.now())


@app.periodic(cron="* * * * *")
@app.task(queue="upkeep", name="plan.put_up_feed_items", queueing_lock="plan.put_up_feed_items")
@in_database
def put_up_feed_items(timestamp: int) -> None:
    """Put what is out into brands' own feeds, and make messages to browsers of it."""
    from dakika_server.plan.own_feed.putting_up import put_up_due
    from dakika_server.plan.web_push.sending import make_due, messages_due

    del timestamp
    put_up_due(clock.now())
    make_due(clock.now())
    for pk in messages_due(clock.now()):
        send_push.defer(message_id=pk)


@app.task(queue="collect", name="plan.send_push")
@in_database
def send_push(message_id: int) -> None:
    """Send what is due of a message to browsers."""
    from dakika_server.plan.web_push.sending import send

    send(message_id)


@app.task(queue="collect", name="plan.look_after_boost")
@in_database
def look_after_boost(boost_id: int) -> None:
    """Tell a boost's network of it, or ask how it stands."""
    from dakika_server.plan.boosts.following import look_after

    look_after(boost_id)


@app.periodic(cron="* * * * *")
@app.task(queue="upkeep", name="plan.look_after_boosts", queueing_lock="plan.look_after_boosts")
@in_database
def look_after_boosts(timestamp: int) -> None:
    """Ask about the boosts whose time it is."""
    from dakika_server.plan.boosts.following import claim_due

    del timestamp
    for pk in claim_due(clock.now()):
        look_after_boost.defer(boost_id=pk)


@app.task(queue="collect", name="plan.look_at_hashtags")
@in_database
def look_at_hashtags(brand_id: int, tags: list[str]) -> None:
    """Ask the networks what they know of some hashtags."""
    from dakika_server.plan.hashtags.seen import look_at

    look_at(brand_id, tags)


@app.periodic(cron="20 4 * * *")
@app.task(queue="upkeep", name="plan.look_at_followed_hashtags", queueing_lock="plan.look_at_followed_hashtags")
@in_database
def look_at_followed_hashtags(timestamp: int) -> None:
    """Read what is followed, once a day."""
    from dakika_server.plan.hashtags.seen import look_at_followed

    del timestamp
    look_at_followed()


def _silent() -> Iterable[int]:
    """First comments that nobody writes any more."""
    from dakika_server.plan.models import Version

    waiting = Version.objects.filter(first_comment_state=Version.Said.WAITING)
    return waiting.filter(published_at__lt=clock.now() - OVERDUE_AFTER).values_list("pk", flat=True)


def _overdue() -> Iterable[int]:
    """What should have been published and was not, or is *publishing* and nobody is at it.

    Asking twice is harmless: a version is published once per idempotency key.
    """
    from dakika_server.plan.models import Version
    from dakika_server.plan.pauses import not_paused

    overdue = Version.objects.filter(due_at__lt=clock.now() - OVERDUE_AFTER)
    waiting = overdue.filter(state__in=[State.SCHEDULED.value, State.PUBLISHING.value])
    return not_paused(waiting).values_list("pk", flat=True)


# What of ours may wait, told to the net below the queue.
WAITING = (
    Waiting(
        task="plan.publish",
        argument="version_id",
        found=_overdue,
        ask=lambda pk: publish.defer(version_id=pk),
    ),
    Waiting(task="plan.make_batch", argument="batch_id", found=_making, ask=lambda pk: make_batch.defer(batch_id=pk)),
    Waiting(
        task="plan.say_first", argument="version_id", found=_silent, ask=lambda pk: first_comment.defer(version_id=pk)
    ),
)
