"""At which age can the posts of a study be compared, and of which days is there anything at all?"""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, datetime, timedelta
from typing import Any

from dakika_core.values.period import Period
from django.db.models import Count, Max, Q, QuerySet, Sum

from dakika_server.measures.models import FINAL, LATEST, PostMeasure, ProfilePublished
from dakika_server.sources.models import Post

USUAL_AGE = 72
# An age will do that at least half of the posts have which are old enough for it.
ENOUGH = 0.5


@dataclass(frozen=True, kw_only=True)
class Footing:
    """The age that a study stands on, and why it is not the usual one (empty where it is).

    posts: how many there are in the period; known: how many of them have interactions at each age.
    """

    age_hours: int
    why: str
    posts: int
    known: dict[int, int]


def footing_of(
    profiles: Sequence[int], period: Period, now: datetime, *, narrowed: QuerySet[PostMeasure] | None = None
) -> Footing:
    """Choose the age: 72 hours where most posts that are old enough were read about then, else the final count.

    Where that is not known either, posts are read as they were last seen, each held against what
    is typical at that age. narrowed: measures of the posts studied, where kept sums do not answer.
    """
    known, posts = _known(profiles, period, narrowed)
    old = _old_enough(profiles, period, now, posts)
    if posts == 0 or (old and known[USUAL_AGE] >= ENOUGH * old):
        return Footing(age_hours=USUAL_AGE, why="", posts=posts, known=known)
    if not old and known[LATEST]:
        return Footing(
            age_hours=LATEST, posts=posts, known=known,
            why="none is 3 days old yet: each against what is typical at its own age",
        )  # fmt: skip
    if known[FINAL] and known[FINAL] >= known[USUAL_AGE]:
        return Footing(
            age_hours=FINAL, posts=posts, known=known,
            why=f"{known[USUAL_AGE]:,} of {posts:,} were read at 3 days, the final count of {known[FINAL]:,} is known",
        )  # fmt: skip
    if known[LATEST] > known[USUAL_AGE]:
        return Footing(
            age_hours=LATEST, posts=posts, known=known,
            why=f"{known[USUAL_AGE]:,} of {posts:,} were read at 3 days: each against what is typical at its own age",
        )  # fmt: skip
    return Footing(age_hours=USUAL_AGE, why="", posts=posts, known=known)


def _known(
    profiles: Sequence[int], period: Period, narrowed: QuerySet[PostMeasure] | None
) -> tuple[dict[int, int], int]:
    ages = (USUAL_AGE, FINAL, LATEST)
    if narrowed is not None:
        rows: Any = (
            narrowed.filter(age_hours__in=ages).values("age_hours")
            .annotate(known=Count("pk", filter=Q(interactions__isnull=False)), every=Count("pk"))
            .values_list("age_hours", "known", "every")
        )  # fmt: skip
    else:
        rows = (
            ProfilePublished.objects.filter(
                profile__in=profiles, age_hours__in=ages, day__gte=period.first, day__lte=period.last
            )
            .values("age_hours").annotate(known=Sum("interactions_n"), every=Sum("posts"))
            .values_list("age_hours", "known", "every")
        )  # fmt: skip
    found = {age: (known or 0, every or 0) for age, known, every in rows}
    return {age: found.get(age, (0, 0))[0] for age in ages}, max((every for _, every in found.values()), default=0)


def _old_enough(profiles: Sequence[int], period: Period, now: datetime, posts: int) -> int:
    before = now - timedelta(hours=USUAL_AGE)
    if period.end <= before:
        return posts
    young = Post.objects.filter(
        profile__in=profiles, published_at__gte=max(before, period.start), published_at__lt=period.end
    ).count()
    return max(0, posts - young)


def newest_day(profiles: Sequence[int], period: Period) -> date | None:
    """The day of the newest post of some profiles, by the period's zone; None where there is none."""
    at = Post.objects.filter(profile__in=profiles).aggregate(at=Max("published_at"))["at"]
    return at.astimezone(period.zone).date() if at else None


def age_words(age_hours: int) -> str:
    """An age in words, as it stands in sentences."""
    if age_hours == LATEST:
        return "as last seen"
    if age_hours == FINAL:
        return "at their final count"
    return f"at {age_hours} hours" if age_hours < 100 else f"at {age_hours // 24} days"
