"""Promise: losses are laid to the posts of the profile that lost, beyond what is usual there, and to no others."""

import numpy as np
import pytest

from dakika_core.results.losses import distance_of, is_hidden_often, laid_to_posts


def test_the_profile_that_lost_tells_whose_post_it_was() -> None:
    # Profile 0 lost 300 beyond its usual, profile 1 nothing; its post had more hides, as all of its posts do.
    shares = laid_to_posts(np.array([300.0, -2.0]), [0, 0, 1], np.array([4.0, 1.0, 6.0]), np.array([1.0, 1.0, 6.0]))
    assert shares == pytest.approx([1.0, 0.0, 0.0])


def test_several_profiles_share_by_what_each_lost_and_unknown_hides_lay_it_to_nobody() -> None:
    told, usual = np.array([9.0, 3.0, np.nan]), np.array([1.0, 1.0, np.nan])
    shares = laid_to_posts(np.array([100.0, 100.0]), [0, 0, 1], told, usual)
    assert shares == pytest.approx([0.4, 0.1, 0.0])
    assert laid_to_posts(np.array([0.0]), [0], np.array([5.0]), np.array([0.0])).sum() == 0
    assert laid_to_posts(np.array([5.0]), [], np.array([]), np.array([])).shape == (0,)


@pytest.mark.parametrize("usual", [0.0, 1.0, 6.0, 30.0])
def test_where_nothing_is_the_matter_hardly_any_post_is_marked(usual: float) -> None:
    counts = np.random.default_rng(3).poisson(usual, 4000)
    assert np.mean([is_hidden_often(count, usual) for count in counts]) < 0.002


@pytest.mark.parametrize(("usual", "apart"), [(4.0, 0.5), (20.0, 0.5), (60.0, 0.8)])
def test_where_posts_differ_among_themselves_few_are_marked_and_the_one_that_counts_is(
    usual: float, apart: float
) -> None:
    """Rates of hides that scatter from post to post: judged as bare counts, up to one in five would be marked."""
    draw = np.random.default_rng(7)
    counts = draw.poisson(usual * draw.lognormal(0, apart, 4000))
    distance = float(np.median([abs(distance_of(count, usual)) for count in counts]))
    assert np.mean([is_hidden_often(count, usual, distance) for count in counts]) < 0.01
    assert is_hidden_often(usual * 12 + 8, usual, distance)


def test_a_post_that_drove_people_away_is_marked() -> None:
    assert is_hidden_often(25, 1)
    assert is_hidden_often(80, 30)
    assert not is_hidden_often(4, 0)
    assert not is_hidden_often(6, 5)
