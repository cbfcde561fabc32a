"""Promise: every metric can be explained and worked out, and says who supplies it."""

import pytest

from dakika_core.metrics.catalogue import (
    CATALOGUE,
    MEASURES,
    SUBJECTS,
    AddsUp,
    Over,
    Unit,
    Way,
    team_metric,
    with_team,
)
from dakika_core.metrics.formula import FormulaError
from dakika_core.metrics.metric import OF_ONE_POST


@pytest.mark.parametrize("metric", CATALOGUE.values(), ids=lambda m: m.key)
def test_an_entry_is_whole(metric) -> None:
    assert metric.name
    assert metric.definition.endswith(".")
    assert (metric.measure in MEASURES, metric.name[0].isupper()) == (True, True)
    if metric.of is not None:
        assert metric.of.over is metric.over
        assert metric.of.way is Way.TOTAL
        assert metric.needs == metric.of.needs
        return
    if metric.over is Over.PROFILE or metric.key == "index" or metric.way in OF_ONE_POST:
        return
    assert metric.read.names == metric.needs
    is_ratio = metric.read.unit != "count" or "/ posts" in metric.formula or "/ followers" in metric.formula
    assert (metric.adds_up is AddsUp.RATIO_OF_SUMS) == (is_ratio and "/" in metric.formula)
    if metric.over is Over.RECEIVED:
        assert set(metric.needs) <= {"impressions", "reach", "interactions", "link_clicks"}


def test_the_catalogue_is_measures_times_ways() -> None:
    """Every base measure in every way that says something of it, each once, under names that differ."""
    assert len(MEASURES) >= 45
    assert len(CATALOGUE) > 300
    pairs = [(metric.measure, metric.way) for metric in CATALOGUE.values()]
    assert len(set(pairs)) == len(pairs)
    assert len({metric.name.casefold() for metric in CATALOGUE.values()}) == len(CATALOGUE)
    assert {measure for measure, way in pairs if way is Way.TOTAL} == set(MEASURES)
    of_comments = {metric.way for metric in CATALOGUE.values() if metric.measure == "comments"}
    assert of_comments >= {
        Way.TOTAL, Way.PER_POST, Way.MEDIAN_POST, Way.BEST_POST, Way.PER_DAY, Way.PER_1000, Way.SHARE, Way.CHANGE
    }  # fmt: skip
    assert {measure.subject for measure in MEASURES.values()} == set(SUBJECTS)


def test_what_adds_up_to_nothing_is_not_offered() -> None:
    assert "daily_reach_share" not in CATALOGUE  # people of several days cannot be added up
    assert "followers_per_day" not in CATALOGUE  # a level has no day
    assert "net_followers_change" not in CATALOGUE  # what may be below zero is no part of itself
    assert "reach_by_reach" not in CATALOGUE
    assert CATALOGUE["comments_share"].is_supplied_by(("comments",))
    assert not CATALOGUE["reactions_like_per_post"].is_supplied_by(("reactions",))


def test_names_of_a_querys_columns_are_whole() -> None:
    """PostgreSQL cuts identifiers at 63 bytes: two that are cut alike would be one."""
    for metric in CATALOGUE.values():
        if metric.is_of_posts:
            assert all(len(f"sum_{metric.key}_of_{name}") <= 63 for name in metric.needs), metric.key


def test_plain_ratios_know_their_parts() -> None:
    assert (CATALOGUE["er_reach"].numerator, CATALOGUE["er_reach"].denominator) == ("interactions", "reach")
    assert CATALOGUE["interactions_per_1000"].numerator is None
    assert CATALOGUE["followers"].denominator is None


def test_a_network_without_reach_does_not_supply_rates_by_reach() -> None:
    told = ("impressions", "reactions", "comments")
    assert not CATALOGUE["er_reach"].is_supplied_by(told)
    assert CATALOGUE["er_impressions"].is_supplied_by(told)
    assert CATALOGUE["er_followers"].is_supplied_by(told)
    assert not CATALOGUE["interactions"].is_supplied_by(("impressions", "link_clicks"))
    assert CATALOGUE["followers"].is_supplied_by(())


def test_a_teams_metric_takes_its_unit_from_its_formula() -> None:
    made = team_metric("talk", "Talk", "", "comments / reach", more_is_better=True)
    assert (made.unit, made.adds_up, made.is_team) == (Unit.RATE, AddsUp.RATIO_OF_SUMS, True)
    assert "comments / reach" in made.definition
    assert team_metric("s", "S", "x", "comments + 2 * shares", more_is_better=True).adds_up is AddsUp.SUM
    assert team_metric("s", "S", "x", "video_seconds / video_views", more_is_better=True).unit is Unit.SECONDS
    assert list(with_team({"talk": made}))[-1] == "talk"
    with pytest.raises(FormulaError):
        team_metric("x", "X", "", "comments +", more_is_better=True)
