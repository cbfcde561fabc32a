"""Promise: profiles are held side by side by the same rules, and missing figures stay missing."""

import numpy as np
import pytest

from dakika_core.competitors.standing import standing_of


def test_a_worked_example() -> None:
    # By hand: (30 + 50) / 2 posts = 40; 1,000 x 80 / 4,000 = 20; 3 posts in 14 days = 1.5 a week; 100 on 2,000 = 5 %.
    found = standing_of(
        interactions_at_age=np.array([30.0, 50.0, np.nan]), followers_at_publishing=np.array([2000.0, 2000.0, 2000.0]),
        posts=3, days=14, followers_start=2000, followers_end=2100,
    )  # fmt: skip
    assert found.interactions_per_post.value == 40
    assert found.interactions_per_post.missing == 1
    assert found.interactions_per_1000.value == 20
    assert found.posts_per_week.value == 1.5
    assert found.growth.value == pytest.approx(0.05)


def test_nothing_known_is_missing() -> None:
    none = np.array([])
    found = standing_of(
        interactions_at_age=none,
        followers_at_publishing=none,
        posts=0,
        days=7,
        followers_start=None,
        followers_end=None,
    )
    assert found.interactions_per_post.value is None
    assert found.growth.value is None
    assert found.posts_per_week.value == 0
