"""Promise: a first wording is made of the brand's own words, and says that they do well only where they do."""

from typing import Any

import numpy as np
import pytest

from dakika_core.plan.wording import close_of, learn, opening_of, wordings

OPENINGS = ("Did you know that", "Tonight at the", "New in the", "A quiet word")
CLOSES = ("Book your place", "Tell us what you think", "More in the shop")
SEEDS = 120


def world(seed: int, effect: float, n: int = 160) -> tuple[list[str], list[list[str]], Any, Any]:
    """Posts of one profile whose openings, closes and hashtags are put together at random; the first opening does
    better by a factor of exp(effect).
    """
    rng = np.random.default_rng(seed)
    opening = rng.integers(0, len(OPENINGS), n)
    texts = [
        f"{OPENINGS[o]} house number {i} has a bell{'?' if o == 0 else '.'} Words in between. {CLOSES[c]}: https://a.example/{i}"
        for i, (o, c) in enumerate(zip(opening, rng.integers(0, len(CLOSES), n), strict=True))
    ]  # fmt: skip
    tags = [["clocks"] if one else ["bells", "night"] for one in rng.integers(0, 2, n)]
    index = np.exp(rng.normal(0, 0.6, n) + effect * (opening == 0))
    return texts, tags, index, np.empty((n, 0))


@pytest.mark.parametrize(("text", "opening", "close"), [
    ("Did you know? The bell rings. Book now: https://a.example", "did you", "Book now"),
    ("\u201cDon't\u201d wait", "don't wait", ""),
    ("One", "", ""),
    ("", "", ""),
    ("#clocks https://a.example/x", "", ""),
    ("A first line\nA second one #clocks", "a first", "A second one"),
    ("Olá a todos! Venham ver.", "olá a", "Venham ver."),
])  # fmt: skip
def test_what_opens_and_what_closes(text: str, opening: str, close: str) -> None:
    assert (opening_of(text), close_of(text).rstrip(".")) == (opening, close.rstrip("."))


def test_an_opening_is_as_long_as_its_posts_share_it() -> None:
    found = learn(*world(1, 1.0))
    best = found.openings[0]
    assert (best.words, best.ends, best.result.verdict) == ("Did you know that house", "?", "better")


def test_a_wording_holds_the_subject_the_brands_words_and_the_page() -> None:
    found = wordings("the moon globe.", "https://orrery.example/moon", learn(*world(1, 1.0)))
    first, plainest = found[0], found[-1]
    assert first.text.startswith("Did you know that house the moon globe \u2026?")
    assert first.text.count("https://orrery.example/moon") == 1
    assert plainest.text.startswith("The moon globe: \u2026")
    assert {one.kind for one in first.patterns} == {"opening", "close", "hashtag"}
    own = " ".join(world(1, 1.0)[0]).casefold()
    for one in first.patterns:
        assert one.words.removeprefix("#").casefold() in (own + " clocks bells night")


def test_few_posts_give_a_plain_beginning_and_no_pattern() -> None:
    found = learn(["Bells at noon."] * 4, [["a"]] * 4, np.ones(4), np.empty((4, 0)))
    assert (found.openings, found.closes, found.hashtags, found.characters) == ((), (), (), None)
    assert [one.text for one in wordings("bells", "", found)] == ["Bells: \u2026"]
    nothing = learn([], [], np.empty(0), np.empty((0, 0)))
    assert wordings("bells", "", nothing)[0].patterns == ()


def test_posts_whose_figures_are_unknown_are_no_pattern() -> None:
    texts, tags, index, controls = world(3, 1.0)
    found = learn(texts, tags, np.full(len(index), np.nan), controls)
    assert (found.openings, found.posts) == ((), 0)


def test_what_does_worse_is_not_proposed() -> None:
    texts, tags, index, controls = world(5, -2.0)
    found = learn(texts, tags, index, controls)
    assert next(one for one in found.openings if one.words.startswith("Did you")).result.verdict == "worse"
    assert not any(one.text.startswith("Did you") for one in wordings("bells", "", found))


def test_in_a_world_without_effect_hardly_anything_is_said_to_do_better() -> None:
    claims = sum(
        any(one.result.verdict == "better" for one in (*found.openings, *found.closes, *found.hashtags))
        for found in (learn(*world(seed, 0.0)) for seed in range(SEEDS))
    )  # fmt: skip
    # Three families, each bounded at five in a hundred: at most about one world in seven.
    assert claims / SEEDS < 0.2


def test_in_a_world_with_an_effect_it_is_found_and_the_interval_holds() -> None:
    effect, found_it, held = 0.5, 0, 0
    for seed in range(SEEDS):
        best = next(one for one in learn(*world(seed, effect)).openings if one.words.startswith("Did you"))
        found_it += best.result.verdict == "better"
        assert best.result.raw is not None
        held += best.result.raw.interval.low <= np.exp(effect) <= best.result.raw.interval.high
    assert found_it / SEEDS > 0.8
    assert held / SEEDS > 0.9
