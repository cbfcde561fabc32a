"""When is what is periodic due, by the brand's clock? Rules of RFC 5545, one sweeper for all of them.

In the trade's words: scheduler, cron, recurrence.
"""

import logging
from collections.abc import Callable
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from zoneinfo import ZoneInfo

from django.db import transaction

from dakika_server.brands.models import Brand
from dakika_server.notices.models import Schedule
from dakika_server.shared import clock
from dakika_server.shared.errors import field_errors
from dakika_server.shared.hooks import Registry

log = logging.getLogger(__name__)
MOST_AT_ONCE = 200


@dataclass(frozen=True, kw_only=True)
class Due:
    """What is done when a schedule of a name is due: asks for a job, in the transaction that moves the schedule on.

    rule and hour are those of a brand that chose nothing else.
    """

    ask: Callable[[Brand, datetime], object]
    rule: str = "FREQ=DAILY"
    hour: int = 7


# By the schedule's name.
DUE: Registry[Due] = Registry("what is due")


def next_of(rule: str, begins: datetime, zone: ZoneInfo, after: datetime) -> datetime | None:
    """The first time of a rule after an instant, UTC; None when it has ended. begins is local, without a zone.

    Times are those of the local clock (RFC 5545, 3.3.5): one that a change of clocks leaves out is taken by the offset
    before the gap, one that comes twice at its first. Raises ValidationError for what is no rule.
    """
    from dateutil.rrule import rrulestr

    local = after.astimezone(zone).replace(tzinfo=None)
    try:
        found = rrulestr(rule, dtstart=begins)
    except (ValueError, TypeError, KeyError) as error:
        raise field_errors({"rule": f"This is no rule of RFC 5545: {rule[:80]}."}) from error
    # Around a change of clocks local order and order in time differ by the hour that is lost or told twice.
    at = found.after(local - timedelta(hours=3))
    while at is not None:
        instant = instant_of(at, zone)
        if instant > after:
            return instant
        at = found.after(at)
    return None


def instant_of(local: datetime, zone: ZoneInfo) -> datetime:
    """A local time as an instant, UTC."""
    aware = local.replace(tzinfo=zone, fold=0)
    return aware.astimezone(UTC)


def ensure_schedules(brand: Brand) -> None:
    """A brand's schedules of all that is due, where it has none of the name."""
    now = clock.now()
    today = now.astimezone(brand.zone).replace(tzinfo=None, minute=0, second=0, microsecond=0)
    for name, due in DUE.items():
        # Kept without a zone: the instant that stands in the column is read as local time.
        begins = (today - timedelta(days=1)).replace(hour=due.hour)
        Schedule.objects.get_or_create(
            brand=brand, name=name,
            defaults={
                "rule": due.rule, "begins": begins.replace(tzinfo=UTC),
                "next_at": next_of(due.rule, begins, brand.zone, now),
            },
        )  # fmt: skip


def move_on(schedule: Schedule, after: datetime) -> None:
    """Set when it is due next."""
    begins = schedule.begins.astimezone(UTC).replace(tzinfo=None)
    schedule.next_at = next_of(schedule.rule, begins, schedule.brand.zone, after)


def sweep() -> int:
    """Ask for everything that is due; how many were. What was missed while nobody swept is due once, not often."""
    now, done = clock.now(), 0
    with transaction.atomic():
        due = (
            Schedule.objects.select_for_update(skip_locked=True, of=("self",)).select_related("brand")
            .filter(next_at__lte=now).order_by("next_at")[:MOST_AT_ONCE]
        )  # fmt: skip
        for schedule in due:
            at = schedule.next_at
            assert at is not None
            if schedule.name in DUE:
                DUE[schedule.name].ask(schedule.brand, at)
                done += 1
            else:
                log.warning("nothing is known of the schedule %s", schedule.name)
            schedule.last_at = at
            move_on(schedule, now)
            schedule.save(update_fields=["last_at", "next_at"])
    return done


def reckon_anew(brand: Brand) -> None:
    """The brand's zone changed: its schedules stay at their local times."""
    for schedule in Schedule.objects.filter(brand=brand):
        schedule.brand = brand
        move_on(schedule, clock.now())
        schedule.save(update_fields=["next_at"])
