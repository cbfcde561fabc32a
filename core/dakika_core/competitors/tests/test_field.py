"""Promise: a member is told from public figures alone, and what nobody read makes it neither better nor worse."""

from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from dakika_core.competitors.field import PUBLIC, ProfileSums, Sums


def sums_of(interactions: list[float], followers: list[float], days: float = 28, **more: float | None) -> Sums:
    i, f = np.array(interactions), np.array(followers)
    return Sums(
        posts=len(i), days=days, measured=len(i), interactions=i.sum(), squares=(i * i).sum(), paired=len(i),
        paired_interactions=i.sum(), paired_squares=(i * i).sum(), followers_sum=f.sum(),
        followers_squares=(f * f).sum(), product=(i * f).sum(),
        followers=more.get("end"), grown_from=more.get("start"), grown_to=more.get("end"),
    )  # fmt: skip


def together(*profiles: Sums) -> Sums:
    """Some profiles as one member, over one part of time."""

    def column(name: str) -> np.ndarray:
        return np.array([[np.nan if (v := getattr(one, name)) is None else v] for one in profiles], dtype=float)

    found = ProfileSums(
        posts=column("posts"), days=column("days"), start=column("grown_from"), end=column("followers"),
        added={name: column(name) for name in ("measured", "interactions", "squares")},
    )  # fmt: skip
    ((whole,),) = found.of([range(len(profiles))])
    return whole


def test_figures_of_a_member_by_hand() -> None:
    sums = sums_of([10, 20, 30, 40], [1000, 1000, 1000, 1000], start=900.0, end=1080.0)
    values = {key: metric.of(sums).value for key, metric in PUBLIC.items()}
    assert values["followers"] == 1080
    assert values["growth"] == pytest.approx(0.2)
    assert values["gained"] == 180
    assert values["posts_per_week"] == 1
    assert values["interactions_per_week"] == 25
    assert values["interactions_per_post"] == 25
    assert values["interactions_per_1000"] == pytest.approx(25)
    assert values["comments_per_post"] is None


@given(st.lists(st.floats(1, 1e5), min_size=3, max_size=40), st.integers(1, 20))
def test_posts_that_nobody_read_change_no_rate_and_no_total_of_those_that_were(
    values: list[float], unread: int
) -> None:
    whole = sums_of(values, [500.0] * len(values))
    holed = replace(whole, posts=whole.posts + unread)
    for key in ("interactions_per_post", "interactions_per_1000"):
        assert PUBLIC[key].of(holed).value == pytest.approx(PUBLIC[key].of(whole).value)
        assert PUBLIC[key].of(holed).missing == unread
    # As many posts as there were, each as good as those that were read.
    more = PUBLIC["interactions_per_week"].of(holed).value
    assert more is not None
    assert more / holed.posts == pytest.approx((PUBLIC["interactions_per_week"].of(whole).value or 0) / whole.posts)


@given(st.floats(1, 27))
def test_days_of_which_nothing_is_known_change_no_pace(days: float) -> None:
    known = sums_of([5.0] * 7, [10.0] * 7, days=days)
    assert PUBLIC["posts_per_week"].of(known).value == pytest.approx(7 * 7 / days)


def test_profiles_add_up_and_one_that_tells_no_followers_is_counted_and_neither_a_loss_nor_a_gain() -> None:
    one = sums_of([10, 20, 30], [100, 100, 100], start=90.0, end=110.0)
    other = sums_of([1, 2, 3], [50, 50, 50], start=40.0, end=60.0)
    both = together(one, other)
    assert (both.posts, both.interactions, both.followers) == (6, 66, 170)
    silent = replace(other, followers=None, untold=1, grown_from=None, grown_to=None, ungrown=1)
    told = {key: PUBLIC[key].of(together(one, silent)) for key in ("followers", "growth", "gained")}
    assert [(f.value, f.missing) for f in told.values()] == [(110, 1), (pytest.approx(20 / 90), 1), (20, 1)]
    assert PUBLIC["followers"].of(together(silent, silent)).value is None


def test_a_profile_known_for_half_the_days_counts_at_its_own_pace() -> None:
    whole, half = sums_of([1.0] * 8, [10.0] * 8), sums_of([1.0] * 4, [10.0] * 4, days=14)
    assert PUBLIC["posts_per_week"].of(together(whole, half)).value == pytest.approx(2 + 2)


def test_nothing_known_is_missing_and_no_posts_are_none() -> None:
    assert PUBLIC["posts_per_week"].of(Sums(posts=0, days=0)).value is None
    assert PUBLIC["interactions_per_week"].of(Sums(posts=0, days=7)).value == 0
    assert PUBLIC["interactions_per_post"].of(Sums(posts=0, days=7)).value is None
