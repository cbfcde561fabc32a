"""Promise: every number in a made sentence is its figure's, in every language; and it claims no more than they allow."""

import re
from collections.abc import Mapping
from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from dakika_core.metrics.rates import wilson_interval
from dakika_core.reports.languages import LANGUAGES, catalogue, days_text, number_text, translated
from dakika_core.reports.words import (
    Rows,
    Segment,
    ShownCell,
    ShownSet,
    What,
    direction,
    read_number,
    read_text,
    sentences,
)
from dakika_core.values.figure import Figure, Interval

values = st.one_of(st.none(), st.floats(0, 1e7, allow_nan=False).map(lambda value: round(value, 4)))


@st.composite
def sets(draw: st.DrawFn) -> ShownSet:
    rows = draw(st.sampled_from([("",), ("Commons", "Brevi", "Pictor")]))
    cells = []
    for row in rows:
        for column in ("Reach", "Visits", "Interactions"):
            now, before = draw(values), draw(values)
            has_interval = now is not None and draw(st.booleans())
            interval = Interval(low=0.9 * (now or 0), high=1.1 * (now or 0)) if has_interval else None
            cells.append(
                ShownCell(
                    key=f"{row}.{column}", name=column, unit=draw(st.sampled_from(["count", "rate", "index"])),
                    now=Figure(value=now, interval=interval), row=row, column=column,
                    before=Figure(value=before) if draw(st.booleans()) else None,
                )
            )  # fmt: skip
    return ShownSet(item="f1", title="T", cells=cells, rows=draw(st.sampled_from(list(Rows))))


@given(sets(), st.sampled_from(sorted(LANGUAGES)))
def test_no_number_stands_in_a_sentence_but_its_figures(one: ShownSet, language: str) -> None:
    known: Mapping[str, ShownSet] = {"f1": one}
    cells = {cell.key: cell for cell in one.cells}
    for sentence in sentences([one], language):
        for segment in sentence:
            if not segment.is_number:
                assert not re.search(r"\d", segment.text), segment.text
                assert "{" not in segment.text
                continue
            cell, read = cells[segment.cell], read_number(segment, known, language)
            assert not read.is_gone
            assert not read.has_turned
            if segment.what is What.NOW:
                assert read.text == number_text(cell.now.value, cell.unit, language)
            if segment.what is What.BEFORE:
                assert cell.before is not None
                assert read.text == number_text(cell.before.value, cell.unit, language)


def told(now: float, before: float | None, **more: object) -> str:
    cell = ShownCell(
        key="reach", name="Reach", unit="count", now=Figure(value=now),
        before=None if before is None else Figure(value=before), **more,
    )  # fmt: skip
    one = ShownSet(item="a", title="", cells=[cell])
    return " ".join(read_text(sentence, {"a": one}, "en") for sentence in sentences([one], "en"))


def test_what_a_figure_did_is_said() -> None:
    assert told(1200, 1000) == "Reach rose by 20%, to 1,200."
    assert told(800, 1000) == "Reach fell by 20%, to 800."
    assert told(1010, 1000) == "Reach stayed about the same: 1,010, after 1,000."
    assert told(10, 0) == "Reach: 10, after 0."
    # Five after four is no rise, nor is an average without an interval one.
    assert told(5, 4) == "Reach: 5, after 4."
    assert told(10, None) == "Reach: 10."


def test_what_did_not_follow_is_said() -> None:
    cells = [
        ShownCell(key=key, name=key, unit="count", now=Figure(value=now), before=Figure(value=before))
        for key, now, before in (("Reach", 1300, 1000), ("Visits", 501, 500), ("Posts", 40, 10))
    ]
    one = ShownSet(item="a", title="", cells=cells)
    read = [read_text(sentence, {"a": one}, "en") for sentence in sentences([one], "en")]
    assert read == [
        "Reach rose by 30%, to 1,300.",
        "Posts rose by 300%, to 40.",
        "Visits did not follow: 501, after 500.",
    ]


def rival(row: str, value: float, low: float, high: float) -> ShownCell:
    interval = Interval(low=low, high=high)
    return ShownCell(
        key=row, name=row, unit="index", now=Figure(value=value, interval=interval), row=row, column="Index"
    )


def test_who_is_first_is_said_with_how_sure_that_is() -> None:
    sure = ShownSet(
        item="a", title="", rows=Rows.RIVALS, cells=[rival("image", 1.0, 0.9, 1.1), rival("album", 1.5, 1.3, 1.8)]
    )
    assert read_text(sentences([sure], "en")[0], {"a": sure}, "en") == "Album is first by index: 1.50 (1.30 to 1.80)."
    open_ = ShownSet(
        item="a", title="", rows=Rows.RIVALS, cells=[rival("image", 1.2, 0.9, 1.5), rival("album", 1.5, 1.3, 1.8)]
    )
    assert "may be chance" in read_text(sentences([open_], "en")[0], {"a": open_}, "en")


def test_a_number_renews_and_says_when_the_words_no_longer_fit() -> None:
    def at(now: float) -> ShownSet:
        cell = ShownCell(key="r", name="Reach", unit="count", now=Figure(value=now), before=Figure(value=1000))
        return ShownSet(item="a", title="", cells=[cell])

    sentence = sentences([at(1200)], "en")[0]
    assert read_text(sentence, {"a": at(1300)}, "en") == "Reach rose by 30%, to 1,300."
    number = next(segment for segment in sentence if segment.is_number)
    assert not read_number(number, {"a": at(1300)}, "en").has_turned
    assert read_number(number, {"a": at(700)}, "en").has_turned
    assert read_number(number, {}, "en").is_gone
    assert read_number(Segment(item="a", cell="x"), {"a": at(1)}, "en").is_gone


def rates(rng: np.random.Generator, before: float, after: float, n: int = 400) -> ShownCell:
    first, then = rng.binomial(n, before), rng.binomial(n, after)
    return ShownCell(
        key="er", name="ER", unit="rate", now=Figure(value=then / n, interval=wilson_interval(then, n)),
        before=Figure(value=first / n),
    )  # fmt: skip


def test_in_a_world_without_change_it_rarely_says_one_and_with_one_it_mostly_does() -> None:
    rng = np.random.default_rng(20)
    claimed = np.mean([direction(rates(rng, 0.2, 0.2)) != 0 for _ in range(4000)])
    assert claimed < 0.06, claimed
    found = np.mean([direction(rates(rng, 0.2, 0.32)) == 1 for _ in range(1000)])
    assert found > 0.9, found


def test_counts_of_one_rate_are_rarely_said_to_have_moved() -> None:
    rng = np.random.default_rng(22)

    def counted(before: float, after: float) -> ShownCell:
        now, was = (Figure(value=float(rng.poisson(rate))) for rate in (after, before))
        return ShownCell(key="v", name="Visits", unit="count", now=now, before=was)

    for rate in (4, 30, 1000):
        assert np.mean([direction(counted(rate, rate)) != 0 for _ in range(3000)]) < 0.06
    assert np.mean([direction(counted(1000, 1200)) == 1 for _ in range(1000)]) > 0.9


def test_what_is_left_of_two_counts_is_told_without_a_direction() -> None:
    rng = np.random.default_rng(24)

    def net() -> ShownCell:
        now, was = (Figure(value=float(rng.poisson(500) - rng.poisson(480))) for _ in range(2))
        return ShownCell(key="n", name="Net followers", unit="count", now=now, before=was, is_net=True)

    # As counts of their own, most of these would be said to have moved.
    assert np.mean([direction(replace(net(), is_net=False)) != 0 for _ in range(500)]) > 0.3
    cells = [net() for _ in range(500)]
    assert {direction(cell) for cell in cells} == {0}
    made = [sentences([ShownSet(item="a", title="", cells=[cell])], "en")[0] for cell in cells[:50]]
    texts = ["".join(part.text for part in sentence) for sentence in made]
    assert not any(word in text for text in texts for word in ("rose", "fell", "stayed"))


def test_a_rate_without_an_interval_is_told_without_a_direction() -> None:
    cell = ShownCell(key="er", name="ER", unit="rate", now=Figure(value=0.083), before=Figure(value=0.055))
    one = ShownSet(item="a", title="", cells=[cell])
    assert read_text(sentences([one], "en")[0], {"a": one}, "en") == "ER: 8.3%, after 5.5%."
    led = ShownCell(key="r", name="Reach", unit="count", now=Figure(value=2000), before=Figure(value=1000))
    both = ShownSet(item="a", title="", cells=[led, replace(cell, before=Figure(value=0.0829))])
    assert [read_text(s, {"a": both}, "en") for s in sentences([both], "en")] == ["Reach rose by 100%, to 2,000."]


def test_in_a_world_without_a_first_one_it_rarely_says_that_the_order_is_sure() -> None:
    rng = np.random.default_rng(21)
    sure = 0
    for _ in range(2000):
        cells = []
        for name in "abcdefg":
            hits = rng.binomial(300, 0.2)
            interval = wilson_interval(hits, 300)
            cells.append(
                ShownCell(key=name, name=name, unit="rate", now=Figure(value=hits / 300, interval=interval), row=name,
                          column="ER")
            )  # fmt: skip
        one = ShownSet(item="a", title="", cells=cells, rows=Rows.RIVALS)
        sure += any("may be chance" not in read_text(s, {"a": one}, "en") for s in sentences([one], "en"))
    assert sure / 2000 < 0.02


@pytest.mark.parametrize("language", [code for code in LANGUAGES if code != "en"])
def test_a_catalogue_keeps_every_place_of_its_sentences(language: str) -> None:
    found = catalogue(language)
    assert len(found) > 100
    for english, words in found.items():
        assert sorted(re.findall(r"\{\w+\}", english)) == sorted(re.findall(r"\{\w+\}", words)), english


def test_labels_and_numbers_of_a_language() -> None:
    assert translated("Reach", "pt") == "Alcance"
    assert translated("Reach, comparison", "el") == "Απήχηση, σύγκριση"
    assert translated("Fishes", "sw") == "Fishes"
    # CLDR's own: spaces of Portuguese thousands, commas of Greek decimals.
    assert number_text(12345.6, "count", "pt").replace("\xa0", " ").replace("\u202f", " ") == "12 346"
    assert number_text(0.1934, "rate", "el") == "19,3%"
    assert number_text(None, "count", "en") == "–"
    assert number_text(-5, "count", "en") == "−5"
    from datetime import date

    assert days_text(date(2026, 9, 28), date(2026, 10, 4), "sw") == "28 Septemba 2026 – 4 Oktoba 2026"
    with pytest.raises(KeyError):
        translated("Reach", "xx")


def outstanding(half: float, posts: float, campaign: str = "") -> ShownSet:
    cells = [
        ShownCell(key=key, name=name, unit="count", now=Figure(value=value), column=column)
        for key, name, value, column in (
            ("total", "Reach", 9000.0, ""), ("posts", "Posts", posts, ""), ("half", "Half", half, campaign),
        )
    ]  # fmt: skip
    return ShownSet(item="a", title="", cells=cells, rows=Rows.POSTS)


@pytest.mark.parametrize("language", sorted(LANGUAGES))
def test_that_few_posts_brought_half_is_said_only_of_few(language: str) -> None:
    few = outstanding(2, 34, "The Repaired Hour")
    (said,) = sentences([few], language)
    text = read_text(said, {"a": few}, language)
    assert "The Repaired Hour" in text
    assert [part.cell for part in said if part.is_number].count("half") == 1
    if language == "en":
        assert text == "2 of 34 posts brought half of the reach, all of them of The Repaired Hour."
    # Where posts are alike about half of them bring half: nothing is worth saying.
    assert sentences([outstanding(12, 34)], language) == []


@pytest.mark.parametrize("language", sorted(LANGUAGES))
def test_a_finding_is_said_with_its_interval(language: str) -> None:
    interval = Interval(low=1.4, high=2.3)
    cells = [
        ShownCell(key="1", name=translated("Posts tagged Moon", language), unit="index", row="r",
                  now=Figure(value=1.8, interval=interval), column=translated("times the others", language)),
        ShownCell(key="2", name="No interval", unit="index", row="s", now=Figure(value=1.8),
                  column=translated("times the others", language)),
    ]  # fmt: skip
    one = ShownSet(item="a", title="", cells=cells, rows=Rows.FINDINGS)
    (said,) = sentences([one], language)
    text = read_text(said, {"a": one}, language)
    assert "Moon" in text
    assert all(number_text(value, "index", language) in text for value in (1.8, 1.4, 2.3))
    assert (language == "en") == ("Posts tagged" in text)
