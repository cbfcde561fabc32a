"""Promise: how a post began is told at 1, 3, 6 and 12 hours, with what is typical there, and costs nothing where nobody knows."""

from datetime import timedelta
from typing import Any

import numpy as np
import pytest
from dakika_core.metrics.observed import EARLY_AGES_HOURS

from dakika_server.measures.changes import ask_anew
from dakika_server.measures.measuring import measure_profile
from dakika_server.measures.models import PostMeasure, ProfilePublished
from dakika_server.measures.testing import START, make_profile
from dakika_server.sources.intake import PostIn, take_posts
from dakika_server.sources.models import Post, Profile

pytestmark = pytest.mark.django_db
OFTEN = (0.5, 2.0, 5.0, 10.0, 25.0)


def grown(hours: float) -> int:
    return round(1000 * (1 - 2.0 ** -((hours / 6) ** 0.8)))


@pytest.fixture
def profile(brand: Any) -> Profile:
    """Twelve posts read often, one of two hours, and one that a file brought with its total alone."""
    made = make_profile(brand)
    ages = [OFTEN] * 12 + [OFTEN[:2], (400.0,)]
    rows = [
        PostIn(
            external_id=f"p{i}", published_at=START + timedelta(days=i), url="", text=f"Post {i}", format="text",
            readings=[(START + timedelta(days=i, hours=h), {"reactions": grown(h)}, None) for h in read],
        )
        for i, read in enumerate(ages)
    ]  # fmt: skip
    take_posts(made, rows)
    measure_profile(made)
    return made


def told(profile: Profile, text: str) -> dict[int, tuple[float | None, float | None]]:
    rows = PostMeasure.objects.filter(profile=profile, post__text=text)
    return {age: (value, typical) for age, value, typical in rows.values_list("age_hours", "interactions", "typical")}


def test_a_post_that_was_read_often_stands_at_each_age_beside_the_typical(profile: Profile) -> None:
    found = told(profile, "Post 3")
    values = [found[age][0] for age in EARLY_AGES_HOURS]
    assert values == pytest.approx([grown(age) for age in EARLY_AGES_HOURS], rel=0.04)
    # All grew alike: each is typical, and typical grows with age.
    assert values == pytest.approx([found[age][1] for age in EARLY_AGES_HOURS], rel=1e-6)
    assert np.all(np.diff([found[age][1] for age in (*EARLY_AGES_HOURS, 24)]) > 0)


def test_a_young_post_is_told_what_is_typical_of_the_hours_to_come(profile: Profile) -> None:
    found = told(profile, "Post 12")
    assert found[1][0] == pytest.approx(grown(1), rel=0.04)
    assert [found[age][0] for age in (3, 6, 12)] == [None] * 3
    assert [found[age][1] for age in (3, 6, 12)] == pytest.approx([grown(age) for age in (3, 6, 12)], rel=0.04)


def test_one_late_reading_makes_no_rows_of_how_it_began(profile: Profile) -> None:
    assert not set(EARLY_AGES_HOURS) & set(told(profile, "Post 13"))


def test_no_sums_by_day_are_kept_of_ages_at_which_nobody_studies(profile: Profile) -> None:
    assert not ProfilePublished.objects.filter(profile=profile, age_hours__in=EARLY_AGES_HOURS).exists()
    assert ProfilePublished.objects.filter(profile=profile, age_hours=24).exists()


def test_measured_again_everything_is_as_before(profile: Profile) -> None:
    before = sorted(
        PostMeasure.objects.values_list("post_id", "age_hours", "interactions", "typical", "index"), key=str
    )
    ask_anew(Profile.objects.all())
    assert measure_profile(profile) == Post.objects.count()
    assert before == sorted(
        PostMeasure.objects.values_list("post_id", "age_hours", "interactions", "typical", "index"), key=str
    )


def test_the_posts_page_tells_them_in_their_order(profile: Profile, viewer: Any, client_of: Any) -> None:
    post = Post.objects.get(text="Post 3")
    ages = client_of(viewer).get(f"/api/brands/orrery-house/results/posts/{post.pk}").json()["ages"]
    assert [row["age_hours"] for row in ages] == [1, 3, 6, 12, 24, 72, 168, 672, -1, 0]
