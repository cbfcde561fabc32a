"""Promise: a plan that gets in its own way is told, each pair once, and one that does not is left alone."""

from datetime import UTC, datetime, timedelta

from hypothesis import given
from hypothesis import strategies as st

from dakika_core.plan.clashes import AT_ONCE, Planned, clashes

NOON = datetime(2026, 11, 2, 12, tzinfo=UTC)
WORDS = "The night sky opens at eight"


def at(hours: float, post: int, **more: object) -> Planned:
    return Planned(post=post, profile=1, at=NOON + timedelta(hours=hours), **more)  # type: ignore[arg-type]


def kinds(*plan: Planned) -> list[tuple[str, int, int]]:
    return [(one.kind, one.first, one.second) for one in clashes(plan)]


def test_two_at_once_on_one_profile_and_not_on_two() -> None:
    assert kinds(at(0, 1), at(0.1, 2)) == [("at_once", 1, 2)]
    assert kinds(at(0, 1), Planned(post=2, profile=2, at=NOON)) == []
    assert kinds(at(0, 1), at(0.5, 2)) == []


def test_the_same_link_within_a_day_and_the_same_words_within_two_weeks() -> None:
    assert kinds(at(0, 1, link=7), at(20, 2, link=7), at(70, 3, link=7)) == [("same_link", 1, 2)]
    again = f"{WORDS.upper()}! https://a.example/2"
    assert kinds(at(0, 1, text=f"{WORDS}."), at(200, 2, text=again)) == [("same_text", 1, 2)]
    assert kinds(at(0, 1, text=WORDS), at(14 * 24, 2, text=WORDS)) == []
    assert kinds(at(0, 1, text="Soon!"), at(20, 2, text="Soon!")) == [], "too few words to say anything"


def test_a_campaign_that_falls_silent() -> None:
    assert kinds(at(0, 1, campaign=3), at(8 * 24, 2, campaign=3)) == [("gap", 1, 2)]
    assert kinds(at(0, 1, campaign=3), at(6 * 24, 2, campaign=3)) == []


def test_versions_of_one_post_do_not_clash() -> None:
    other = Planned(post=1, profile=2, at=NOON, text=WORDS, link=7)
    assert kinds(at(0, 1, text=WORDS, link=7), other) == []


@given(st.lists(st.tuples(st.integers(0, 5000), st.integers(1, 4)), max_size=25))
def test_at_once_is_told_exactly_where_neighbours_are_too_near(rows: list[tuple[int, int]]) -> None:
    plan = [Planned(post=i, profile=profile, at=NOON + timedelta(minutes=m)) for i, (m, profile) in enumerate(rows)]
    told = any(one.kind == "at_once" for one in clashes(plan))
    near = any(a.profile == b.profile and abs(a.at - b.at) < AT_ONCE for i, a in enumerate(plan) for b in plan[i + 1 :])
    assert told == near
