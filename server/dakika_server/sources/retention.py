"""Readings and answers that have an end: old posts keep the readings from which their values follow."""

from collections.abc import Iterator, Sequence
from datetime import datetime, timedelta

import numpy as np
from dakika_core.metrics.observed import DEFAULT_AGES_HOURS, EARLY_AGES_HOURS, OBSERVED
from dakika_core.metrics.thinning import wanted_readings
from django.conf import settings

from dakika_server.networks.definitions import all_networks
from dakika_server.shared.retention import KEPT, Kept
from dakika_server.sources.forget import forget_old_answers
from dakika_server.sources.models import Post, PostReading

AGES_HOURS = (*EARLY_AGES_HOURS, *DEFAULT_AGES_HOURS)
POSTS_AT_ONCE = 500


def unwanted(before: datetime) -> Iterator[list[int]]:
    """Keys of readings that may go, of posts published before an instant; some posts' at a time."""
    finals = {key: network.half_life_hours for key, network in all_networks().items()}
    posts = Post.objects.filter(published_at__lt=before).order_by("pk").select_related("profile")
    last = 0
    while batch := list(posts.filter(pk__gt=last).only("pk", "published_at", "profile__network")[:POSTS_AT_ONCE]):
        last = batch[-1].pk
        yield _of_some(batch, finals)


def _of_some(posts: Sequence[Post], half_lives: dict[str, float]) -> list[int]:
    from dakika_core.metrics.growth import Growth

    rows: dict[int, list[tuple[int, datetime, list[float]]]] = {}
    found = PostReading.objects.filter(post__in=posts).order_by("post_id", "taken_at")
    for pk, post, taken_at, *counts in found.values_list("pk", "post_id", "taken_at", *OBSERVED):
        known = [np.nan if count is None else float(count) for count in counts]
        rows.setdefault(post, []).append((pk, taken_at, known))
    gone: list[int] = []
    for one in posts:
        readings = rows.get(one.pk, [])
        if not readings:
            continue
        ages = np.array([(at - one.published_at).total_seconds() / 3600 for _, at, _ in readings])
        final = Growth(half_life_hours=half_lives.get(one.profile.network)).final_after_hours
        kept = wanted_readings(ages, np.array([known for _, _, known in readings]), (*AGES_HOURS, final))
        gone += [pk for (pk, _, _), is_kept in zip(readings, kept, strict=True) if not is_kept]
    return gone


def thin_readings(before: datetime) -> int:
    """Take out what may go; how many."""
    count = 0
    for gone in unwanted(before):
        count += PostReading.objects.filter(pk__in=gone)._raw_delete("default") if gone else 0
    return count


def _forget_answers(before: datetime) -> int:
    count = PostReading.objects.filter(raw__isnull=False, taken_at__lt=before).count()
    # Counted from now on by the setting, as the job does it.
    while forget_old_answers(before + timedelta(days=settings.ANSWERS_KEPT_DAYS)):
        pass
    return count


def connect() -> None:
    """Say what of sources has an end."""
    KEPT.add("readings", Kept(
        words="Readings of posts that nothing follows from", setting="DAKIKA_READINGS_THINNED_DAYS",
        days=lambda: settings.READINGS_THINNED_DAYS, would_go=lambda before: sum(map(len, unwanted(before))),
        forget=thin_readings,
    ))  # fmt: skip
    KEPT.add("answers", Kept(
        words="Answers of networks in their own words", setting="DAKIKA_ANSWERS_KEPT_DAYS",
        days=lambda: settings.ANSWERS_KEPT_DAYS,
        would_go=lambda before: PostReading.objects.filter(raw__isnull=False, taken_at__lt=before).count(),
        forget=_forget_answers,
    ))  # fmt: skip
