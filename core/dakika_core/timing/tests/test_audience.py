"""Promise: the audience is looked at by its own clocks, also in the weeks in which only one of two has changed."""

from datetime import UTC, date, datetime
from zoneinfo import ZoneInfo

import numpy as np
import pytest

from dakika_core.timing.audience import Group, country_of, groups_of, habits, presence_in_week, zones_of
from dakika_core.values.period import HOURS_PER_WEEK

LISBON, SAO_PAULO = "Europe/Lisbon", "America/Sao_Paulo"
EVENING = np.exp(-0.5 * ((np.arange(HOURS_PER_WEEK) % 24 - 20.0) / 2.0) ** 2)
TWO = [Group(zone=LISBON, share=0.7, countries=("PT",)), Group(zone=SAO_PAULO, share=0.3, countries=("BR",))]


def test_a_country_of_several_zones_is_spread_by_its_towns() -> None:
    zones = zones_of({"BR": 0.3, "PT": 0.6, "XX": 0.1})
    assert sum(zones.values()) == pytest.approx(1)
    assert zones[SAO_PAULO] == max(share for zone, share in zones.items() if zone.startswith("America"))
    assert zones["America/Manaus"] > 0
    assert zones_of({}) == zones_of({"XX": 1.0}) == {}


def test_zones_of_one_clock_are_one_group_and_small_ones_join_the_nearest() -> None:
    zones = {LISBON: 0.5, "Europe/London": 0.1, SAO_PAULO: 0.3, "America/Fortaleza": 0.06, "Asia/Tokyo": 0.04}
    groups = groups_of(zones, {"PT": 0.5, "GB": 0.1, "BR": 0.36, "JP": 0.04}, 2026)
    assert [group.zone for group in groups] == [LISBON, SAO_PAULO]
    assert sum(group.share for group in groups) == pytest.approx(1)
    assert groups[0].countries == ("PT", "GB")
    assert groups[1].share == pytest.approx(0.36)
    assert groups_of({"Nowhere/Land": 1.0}, {}, 2026) == []


def test_habits_are_found_again_from_what_the_network_tells_of_all() -> None:
    told_on = date(2026, 1, 14)
    utc = 0.7 * EVENING + 0.3 * np.roll(EVENING, 3)  # in January Lisbon keeps UTC, Sao Paulo lives three hours later
    found = habits(utc, TWO, told_on)
    assert np.corrcoef(found, EVENING)[0, 1] > 0.99
    assert found.max() == pytest.approx(1)
    assert habits(np.zeros(HOURS_PER_WEEK), TWO, told_on).max() == 0


def test_two_groups_overlap_an_hour_less_once_only_one_has_changed_its_clocks() -> None:
    before = presence_in_week(EVENING, TWO, ZoneInfo(LISBON), date(2026, 3, 16))
    after = presence_in_week(EVENING, TWO, ZoneInfo(LISBON), date(2026, 4, 6))
    assert np.argmax(before[LISBON][:24]) == np.argmax(after[LISBON][:24]) == 20
    assert np.argmax(before[SAO_PAULO][:24]) == 23
    assert np.argmax(after[SAO_PAULO][24:48]) == 0, "four hours apart in summer: midnight in Lisbon"
    both = sum(after.values())
    assert isinstance(both, np.ndarray)
    assert 0.7 <= both.max() < 0.75, "a few of Sao Paulo are up at eight in Lisbon"


def test_the_week_of_the_change_itself_keeps_each_hour_by_the_clock_of_that_instant() -> None:
    changed = presence_in_week(EVENING, TWO, ZoneInfo(LISBON), date(2026, 3, 23))
    sunday = changed[SAO_PAULO][6 * 24 :]
    assert np.argmax(changed[SAO_PAULO][:24]) == 23, "Monday: three hours"
    # On the Sunday evening it is four hours: its 20 o'clock falls on Monday.
    assert sunday[23] < changed[SAO_PAULO][23]


def test_a_zone_of_half_hours_lies_between_two_hours() -> None:
    india = [Group(zone="Asia/Kolkata", share=1.0, countries=("IN",))]
    curve = (np.arange(HOURS_PER_WEEK) == 20).astype(float)
    found = presence_in_week(curve, india, ZoneInfo("UTC"), date(2026, 1, 5))["Asia/Kolkata"]
    # 20:00 to 21:00 in Kolkata is 14:30 to 15:30 UTC.
    assert found[14] == pytest.approx(found[15], abs=0.01)
    assert datetime(2026, 1, 5, 14, 30, tzinfo=UTC).astimezone(ZoneInfo("Asia/Kolkata")).hour == 20


@pytest.mark.parametrize(
    ("zone", "country"), [("Europe/Lisbon", "PT"), ("America/Sao_Paulo", "BR"), ("Africa/Nairobi", "KE"), ("UTC", None)]
)
def test_a_zone_is_of_a_country(zone: str, country: str | None) -> None:
    assert country_of(zone) == country
