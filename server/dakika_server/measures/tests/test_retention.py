"""Promise: old posts' readings are thinned, and no figure at an equal age, no final and no latest count changes by it."""

import random
from datetime import UTC, datetime, timedelta
from typing import Any

import pytest
from django.conf import settings as configured

from dakika_server.measures.changes import ask_anew
from dakika_server.measures.measuring import measure_profile
from dakika_server.measures.models import PostMeasure
from dakika_server.shared import clock
from dakika_server.shared.retention import KEPT, forget_what_is_over
from dakika_server.sources.models import Post, PostReading, Profile
from dakika_server.sources.retention import thin_readings, unwanted

pytestmark = pytest.mark.django_db
NOW = datetime(2026, 11, 9, 8, tzinfo=UTC)
VALUES = ("post_id", "age_hours", "interactions", "reach", "impressions", "link_clicks", "typical", "index")


@pytest.fixture
def read_often(own_profile: Any, monkeypatch: pytest.MonkeyPatch) -> Profile:
    """Forty posts over two years, each read sixty times and more."""
    monkeypatch.setattr(clock, "now", lambda: NOW)
    profile: Profile = own_profile()
    rng = random.Random(4)
    for number in range(40):
        at = NOW - timedelta(days=rng.uniform(2, 700))
        post = Post.objects.create(
            brand=profile.brand, profile=profile, external_id=f"p{number}", published_at=at, format="image", text="x"
        )
        ages = sorted({*[rng.uniform(0.5, 700) for _ in range(40)], *[rng.uniform(1, 9000) for _ in range(30)]})
        count, rows = 0.0, []
        for age in ages:
            if at + timedelta(hours=age) > NOW:
                break
            count += rng.randrange(9)
            told = {"reactions": int(count), "reach": int(count * 9)} if rng.random() < 0.8 else {"shares": 3}
            rows.append(PostReading(brand=profile.brand, post=post, taken_at=at + timedelta(hours=age), **told))
        PostReading.objects.bulk_create(rows)
    measure_profile(profile)
    return profile


def measured() -> list[tuple[Any, ...]]:
    rows = PostMeasure.objects.order_by("post_id", "age_hours").values_list(*VALUES)
    return [tuple(round(v, 6) if isinstance(v, float) else v for v in row) for row in rows]


def test_what_follows_from_the_readings_stays(read_often: Profile) -> None:
    before, count = measured(), PostReading.objects.count()
    limit = NOW - timedelta(days=365)
    young = PostReading.objects.filter(post__published_at__gte=limit).count()
    would = sum(map(len, unwanted(limit)))
    assert PostReading.objects.count() == count, "who asks what would go changes nothing"
    assert thin_readings(limit) == would
    assert would > (count - young) / 4
    assert PostReading.objects.filter(post__published_at__gte=limit).count() == young, "younger posts keep all"
    # Worked out anew from what is left, not remembered from before.
    ask_anew([read_often])
    measure_profile(read_often)
    assert measured() == before
    assert thin_readings(limit) == 0


def test_nothing_goes_unless_a_setting_says_so(read_often: Profile, settings: Any) -> None:
    assert configured.READINGS_THINNED_DAYS in (None, 0)
    assert configured.CLICKS_KEPT_DAYS in (None, 0)
    count = PostReading.objects.count()
    assert "readings" not in forget_what_is_over()
    assert PostReading.objects.count() == count
    settings.READINGS_THINNED_DAYS = 365
    assert forget_what_is_over()["readings"] > 0


def test_answers_go_by_their_own_setting(read_often: Profile, settings: Any) -> None:
    settings.ANSWERS_KEPT_DAYS = 100
    PostReading.objects.update(raw={"likes": 3})
    one = KEPT["answers"]
    assert one.before is not None
    old = PostReading.objects.filter(taken_at__lt=one.before).count()
    assert one.would_go(one.before) == old > 0
    assert one.forget(one.before) == old
    assert PostReading.objects.filter(raw__isnull=True).count() == old


def test_every_one_says_what_it_is_and_by_which_setting() -> None:
    from dakika_server.config.table import SETTINGS

    assert {"answers", "clicks", "log", "readings", "sessions"} <= {*KEPT}
    for one in KEPT.values():
        assert one.words
        assert one.setting in SETTINGS
