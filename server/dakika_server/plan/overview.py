"""What the plan tells of a brand in overview: what goes out in the days ahead, and what did not."""

from datetime import datetime, timedelta

from dakika_core.plan.states import State

from dakika_server.brands.models import Brand
from dakika_server.brands.overview import Noted, OverviewPart, Planned
from dakika_server.plan.models import PlannedPost, Version

AHEAD = timedelta(days=7)
# What failed longer ago is no longer waiting for anybody.
LOOKED_BACK = timedelta(days=14)


def part_of(brand: Brand, now: datetime) -> OverviewPart:
    """Posts that are scheduled, and versions that failed or were missed."""
    ahead = PlannedPost.objects.filter(
        brand=brand, state=State.SCHEDULED.value, scheduled_at__gte=now, scheduled_at__lt=now + AHEAD
    ).order_by("scheduled_at")
    first = ahead.first()
    text = first and (first.title or (first.versions.order_by("pk").values_list("text", flat=True).first() or ""))
    failed = Version.objects.filter(
        planned_post__brand=brand, state__in=[State.FAILED.value, State.MISSED.value, State.BY_HAND.value],
        due_at__gt=now - LOOKED_BACK,
    )  # fmt: skip
    rows = failed.order_by("-due_at").values_list("planned_post_id", flat=True)
    numbers = list(dict.fromkeys(rows))  # a post counts once, however many of its versions failed
    hands = []
    if numbers:
        count = "1 post was" if len(numbers) == 1 else f"{len(numbers)} posts were"
        hands = [Noted(text=f"{count} not published", path=f"plan/{numbers[0]}")]
    return OverviewPart(
        planned=Planned(
            count=ahead.count(), next_at=first.scheduled_at if first else None, next_title=(text or "")[:80]
        ),
        hands=hands,
    )
