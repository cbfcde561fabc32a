"""Promise: every metric can be explained and worked out, and says who supplies it."""

import pytest

from dakika_core.metrics.catalogue import CATALOGUE, AddsUp, Over, Unit, team_metric, with_team
from dakika_core.metrics.formula import FormulaError


@pytest.mark.parametrize("metric", CATALOGUE.values(), ids=lambda m: m.key)
def test_an_entry_is_whole(metric) -> None:
    assert metric.name
    assert metric.definition.endswith(".")
    if metric.over is Over.PROFILE or metric.key == "index":
        return
    assert metric.read.names == metric.needs
    is_ratio = metric.read.unit != "count" or "/ posts" in metric.formula or "/ followers" in metric.formula
    assert (metric.adds_up is AddsUp.RATIO_OF_SUMS) == (is_ratio and "/" in metric.formula)
    if metric.over is Over.RECEIVED:
        assert set(metric.needs) <= {"impressions", "reach", "interactions", "link_clicks"}


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
