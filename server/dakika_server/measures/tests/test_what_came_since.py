"""Promise: whatever came, went or changed, measuring what is new gives what measuring everything would give."""

import random
from collections.abc import Callable, Iterator
from contextlib import contextmanager, nullcontext
from datetime import UTC, datetime, timedelta
from typing import Any

import pytest
from django.db import connection

from dakika_server.brands.models import Brand
from dakika_server.measures import measuring, series, typical
from dakika_server.measures.changes import ask_anew
from dakika_server.measures.measuring import measure_profile
from dakika_server.measures.models import (
    MeasureChange,
    PostDay,
    PostMeasure,
    ProfileDay,
    ProfileMeasured,
    ProfilePublished,
)
from dakika_server.measures.series import series_of
from dakika_server.measures.testing import make_profile
from dakika_server.sources.forget import forget_posts
from dakika_server.sources.intake import PostIn, take_posts, take_profile_days
from dakika_server.sources.models import Post, PostReading, Profile

pytestmark = pytest.mark.django_db
BEGIN = datetime(2026, 3, 1, tzinfo=UTC)
POSTS = 260
FORMATS = ["text"] * 6 + ["image"] * 3 + ["link"]


def posts_in(rng: random.Random, count: int, *, first: int = 0) -> list[PostIn]:
    """Posts of a hundred days; some are read often, some once and late, some never."""
    made = []
    for i in range(first, first + count):
        at = BEGIN + timedelta(seconds=rng.randrange(100 * 86_400))
        level = rng.lognormvariate(4, 1)
        hours = sorted(rng.sample([0.7, 2, 5, 11, 25, 60, 80, 200, 700], rng.randint(0, 6)))
        readings = [
            (at + timedelta(hours=h), {"reactions": round(level * h / (h + 9)), "reach": round(9 * level)}, None)
            for h in hours
        ]
        made.append(PostIn(
            external_id=str(i), published_at=at, format=rng.choice(FORMATS), text="x", url="", readings=readings
        ))  # fmt: skip
    return made


@pytest.fixture
def profile(brand: Brand, monkeypatch: pytest.MonkeyPatch) -> Profile:
    """Measured once, and large enough to be measured by what is new."""
    monkeypatch.setattr(measuring, "FEW_POSTS", 50)
    monkeypatch.setattr(measuring, "CHANGED_SHARE", 0.5)
    # How far formats count for themselves is that of the last whole round; here it is always the same.
    monkeypatch.setattr(typical, "prior_count", lambda *_: 6.0)
    made = make_profile(brand)
    rng = random.Random(3)
    take_posts(made, posts_in(rng, POSTS))
    days = [((BEGIN + timedelta(days=i)).date(), 1000 + 7 * i, 9, 2) for i in range(0, 100, 3)]
    take_profile_days(made, days, taken_at=BEGIN)
    measure_profile(made)
    return made


KEYS = {
    PostMeasure: ("post_id", "age_hours"), PostDay: ("post_id", "day"), ProfileDay: ("day", "format"),
    ProfilePublished: ("age_hours", "day"),
}  # fmt: skip
Kept = dict[tuple[Any, ...], dict[str, Any]]


def everything(profile: Profile) -> Kept:
    """All that is kept of it, by what it is of."""
    return {
        (table.__name__, *(row[name] for name in names)): {k: v for k, v in row.items() if k != "id"}
        for table, names in KEYS.items()
        for row in table.objects.filter(profile=profile).values()
    }


def differences(one: Kept, other: Kept) -> list[Any]:
    """Where they differ by more than the order of adding up."""
    found: list[Any] = sorted(one.keys() ^ other.keys(), key=repr)
    for key in one.keys() & other.keys():
        for name, value in one[key].items():
            is_same = value == other[key][name]
            if not is_same and not (isinstance(value, float) and value == pytest.approx(other[key][name], rel=1e-9)):
                found.append((key, name, value, other[key][name]))
    return found


@contextmanager
def only_what_is_new(monkeypatch: pytest.MonkeyPatch) -> Iterator[None]:
    """A round that goes over everything is a defect."""
    sum_up = measuring.sum_up_days

    def some(cursor: Any, profile: Profile, *days: Any) -> None:
        assert days, "all days were summed up"
        sum_up(cursor, profile, *days)

    with monkeypatch.context() as patch:
        patch.setattr(measuring, "sum_up_days", some)
        yield


def a_reading(profile: Profile) -> None:
    post = Post.objects.filter(profile=profile).order_by("published_at")[POSTS // 2]
    at = post.published_at + timedelta(hours=90)
    PostReading.objects.create(brand_id=profile.brand_id, post=post, taken_at=at, reactions=4000, reach=9000)


def a_reading_of_the_newest(profile: Profile) -> None:
    post = Post.objects.filter(profile=profile).latest("published_at")
    at = post.published_at + timedelta(hours=1)
    PostReading.objects.create(brand_id=profile.brand_id, post=post, taken_at=at, reactions=2, reach=30)


def a_post(profile: Profile) -> None:
    take_posts(profile, posts_in(random.Random(8), 1, first=POSTS))


def a_correction(profile: Profile) -> None:
    reading = PostReading.objects.filter(post__profile=profile).order_by("taken_at")[300]
    PostReading.objects.filter(pk=reading.pk).update(reactions=1)


def a_reading_out(profile: Profile) -> None:
    PostReading.objects.filter(post__profile=profile).latest("taken_at").delete()


def another_format(profile: Profile) -> None:
    Post.objects.filter(pk=Post.objects.filter(profile=profile, format="text").earliest("pk").pk).update(format="link")


def another_moment(profile: Profile) -> None:
    post = Post.objects.filter(profile=profile).order_by("published_at")[30]
    Post.objects.filter(pk=post.pk).update(published_at=post.published_at - timedelta(days=2))


def followers(profile: Profile) -> None:
    take_profile_days(profile, [((BEGIN + timedelta(days=80)).date(), 4321, 9, 2)], taken_at=BEGIN)


SMALL = (a_reading, a_reading_of_the_newest, a_post, a_correction, a_reading_out, followers)
# A post that stands elsewhere among the others touches those that it left behind, and everything is gone over.
CHANGES = (*SMALL, another_format, another_moment)


@pytest.mark.parametrize("change", CHANGES)
def test_what_is_new_is_measured_as_if_all_were(
    profile: Profile, change: Callable[[Profile], None], monkeypatch: pytest.MonkeyPatch
) -> None:
    before = everything(profile)
    change(profile)
    with only_what_is_new(monkeypatch) if change in SMALL else nullcontext():
        assert measure_profile(profile) <= 1
    by_and_by = everything(profile)
    assert by_and_by != before
    ask_anew([profile])
    assert measure_profile(profile) == Post.objects.filter(profile=profile).count()
    assert differences(by_and_by, everything(profile)) == []


def test_a_rare_format_is_looked_for_among_all_posts(profile: Profile, monkeypatch: pytest.MonkeyPatch) -> None:
    """Where the posts around it hold all that stands near, those are read; else all are."""
    spans = []

    def noted(*asked: Any) -> Any:
        spans.append(asked[-1])
        return series_of(*asked)

    monkeypatch.setattr(series, "AROUND", 100)
    monkeypatch.setattr(measuring, "series_of", noted)
    a_reading(profile)
    with only_what_is_new(monkeypatch):
        measure_profile(profile)
    assert [span == series.EVERYTHING for span in spans] == [False, True]
    by_and_by = everything(profile)
    ask_anew([profile])
    measure_profile(profile)
    assert differences(by_and_by, everything(profile)) == []


def test_posts_near_by_are_enough_where_all_are_alike(profile: Profile, monkeypatch: pytest.MonkeyPatch) -> None:
    Post.objects.filter(profile=profile).update(format="text")
    PostReading.objects.filter(post__profile=profile).delete()
    PostReading.objects.bulk_create(
        PostReading(
            brand_id=profile.brand_id, post=post, taken_at=post.published_at + timedelta(hours=hours),
            reactions=20 + post.pk % 17 * hours, reach=900,
        )
        for post in Post.objects.filter(profile=profile) for hours in (0.5, 2, 5, 11, 30, 90, 200, 700)
    )  # fmt: skip
    measure_profile(profile)
    monkeypatch.setattr(series, "AROUND", 125)
    a_reading_of_the_newest(profile)
    with monkeypatch.context() as patch:
        patch.setattr(measuring, "EVERYTHING", "all are read")
        assert measure_profile(profile) == 1
    by_and_by = everything(profile)
    ask_anew([profile])
    measure_profile(profile)
    assert differences(by_and_by, everything(profile)) == []


def test_one_after_another_they_stay_as_if_all_were_measured(profile: Profile) -> None:
    for change in CHANGES:
        change(profile)
        measure_profile(profile)
    by_and_by = everything(profile)
    ask_anew([profile])
    measure_profile(profile)
    assert differences(by_and_by, everything(profile)) == []


def test_posts_that_are_no_more_leave_nothing(profile: Profile) -> None:
    gone = list(Post.objects.filter(profile=profile).values_list("pk", flat=True)[:5])
    forget_posts(gone)
    measure_profile(profile)
    by_and_by = everything(profile)
    assert not PostMeasure.objects.filter(post_id__in=gone).exists()
    ask_anew([profile])
    measure_profile(profile)
    assert differences(by_and_by, everything(profile)) == []


def test_a_whole_round_comes_once_enough_has_changed(profile: Profile, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(measuring, "CHANGED_SHARE", 3.5 / POSTS)
    for n, since in enumerate((1, 2, 3, 0, 1)):
        post = Post.objects.filter(profile=profile).order_by("published_at")[10 * n]
        at = post.published_at + timedelta(hours=100)
        PostReading.objects.create(brand_id=profile.brand_id, post=post, taken_at=at, reactions=40, reach=900)
        measure_profile(profile)
        assert ProfileMeasured.objects.get().changed == since


def test_nothing_new_is_nothing_to_do_and_no_note_is_lost(
    profile: Profile, monkeypatch: pytest.MonkeyPatch, django_assert_num_queries: Any
) -> None:
    assert not MeasureChange.objects.exists()
    with django_assert_num_queries(4):  # the lock, what is noted, what is kept, the lock's return
        assert measure_profile(profile) == 0
    a_reading(profile)
    seen = measuring.changes_of(profile)
    a_correction(profile)
    monkeypatch.setattr(measuring, "changes_of", lambda _: seen)
    measure_profile(profile)
    monkeypatch.undo()
    assert MeasureChange.objects.count() == 1, "what came while it was measured is for the next time"
    assert measure_profile(profile) == 1


def test_nothing_is_noted_of_a_profile_that_is_no_more(profile: Profile) -> None:
    a_reading(profile)
    profile.delete()
    assert not MeasureChange.objects.exists()
    assert not ProfileMeasured.objects.exists()


def test_what_changes_nothing_is_not_noted(profile: Profile) -> None:
    with connection.cursor() as cursor:
        cursor.execute("UPDATE sources_post SET next_reading_at = now(), text = 'y'")
        cursor.execute("UPDATE sources_profilereading SET gained = 1")
    assert not MeasureChange.objects.exists()
