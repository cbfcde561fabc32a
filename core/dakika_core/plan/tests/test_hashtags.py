"""Promise: hashtags that are proposed go with the text or with each other, and one is worn out only where it shows."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from dakika_core.plan.hashtags import for_text, similar, wear_of

TEXTS = [
    *["The moon stands over the harbour tonight"] * 4, *["A gear is cut by hand in the workshop"] * 4,
    *["Tonight the harbour is dark, the moon is late"] * 3,
]  # fmt: skip
TAGS = [*[["skytonight", "moon"]] * 4, *[["workshop"]] * 4, *[["SkyTonight", "harbour"]] * 3]
SEEDS = 200


def test_a_text_finds_the_hashtags_of_posts_that_speak_of_the_same() -> None:
    found = for_text("Come and see the moon over the dark harbour", TEXTS, TAGS)
    assert found[0].tag in ("harbour", "moon")  # its own words, hence certain
    assert found[0].likeness == 1.0
    names = [one.tag for one in found]
    assert "skytonight" in names
    assert "workshop" not in names[:3]


def test_words_that_a_hashtag_writes_together_count_as_named() -> None:
    found = for_text("What is in the sky tonight?", TEXTS, TAGS)
    assert (found[0].tag, found[0].likeness, found[0].posts) == ("skytonight", 1.0, 7)


def test_the_likeness_is_the_cosine_of_weights_worked_out_by_hand() -> None:
    """Two posts, three of each, no word in common: the one's words give 1, mixed words their share."""
    texts, tags = [*["bell"] * 3, *["lamp"] * 3], [*[["a"]] * 3, *[["b"]] * 3]
    found = {one.tag: one.likeness for one in for_text("bell bell lamp", texts, tags)}
    # Both words are equally rare, so that their weights are as their counts: (2, 1) / sqrt(5).
    assert found == pytest.approx({"a": 2 / np.sqrt(5), "b": 1 / np.sqrt(5)})


@pytest.mark.parametrize("text", ["", "#moon", "https://a.example/moon", "12 34", "\x00"])
def test_a_text_without_words_finds_nothing(text: str) -> None:
    assert for_text(text, TEXTS, TAGS) == []
    assert for_text("moon", [], []) == []


def test_similar_ones_are_those_of_the_same_posts() -> None:
    found = similar(["SKYTONIGHT"], TAGS)
    # moon: 4 together of 7 + 4 - 4; harbour: 3 of 7 + 3 - 3.
    assert [(one.tag, round(one.likeness, 3), one.posts) for one in found] == [
        ("moon", 0.571, 4),
        ("harbour", 0.429, 3),
    ]
    assert similar(["workshop"], TAGS) == []
    assert similar([], TAGS) == []


@given(
    st.lists(st.lists(st.sampled_from("abcd"), max_size=4), max_size=30), st.sets(st.sampled_from("abcd"), max_size=3)
)
def test_likeness_lies_between_nothing_and_one_and_leaves_out_what_was_asked(
    posts: list[list[str]], asked: set[str]
) -> None:
    for one in similar(asked, posts):
        assert 0 < one.likeness <= 1
        assert one.tag not in asked


def uses(seed: int, fall: float) -> dict[str, np.ndarray]:  # type: ignore[type-arg]
    """Ten hashtags of forty uses each; the last ten of the first do worse by a factor of exp(-fall)."""
    rng = np.random.default_rng(seed)
    found = {f"t{i}": np.exp(rng.normal(0, 0.6, 40)) for i in range(10)}
    found["t0"][-10:] *= np.exp(-fall)
    return found


def test_in_a_world_where_nothing_wears_out_hardly_anything_is_said_to() -> None:
    claims = sum(any(one.is_worn for one in wear_of(uses(seed, 0.0)).values()) for seed in range(SEEDS))
    assert claims / SEEDS < 0.06


def test_what_wears_out_is_found_and_the_interval_holds() -> None:
    fall = 0.8
    told = [wear_of(uses(seed, fall))["t0"] for seed in range(SEEDS)]
    assert sum(one.is_worn for one in told) / SEEDS > 0.6
    held = sum(one.ratio.interval.low <= np.exp(-fall) <= one.ratio.interval.high for one in told)
    assert held / SEEDS > 0.92


def test_few_uses_say_nothing() -> None:
    assert wear_of({"a": np.ones(9), "b": np.array([]), "c": np.full(30, np.nan)}) == {}
    told = wear_of({"a": np.exp(np.linspace(1, -1, 10))})["a"]
    assert (told.recent, told.earlier) == (5, 5)
