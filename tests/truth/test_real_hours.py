"""Promise: on real figures by the hour the estimate finds the hours that all of the data show, from a few of them.

Held against the bike share of Washington, D.C., in 2011 (data `Bikeshare` of ISLR2, James et al., 2nd ed., in the
package islp; UCI Machine Learning Repository, CC BY 4.0): 8,645 hours with the bikers of each. What is known of
it: on working days the most are out at 17, 18 and 8 o'clock, on days off in the early afternoon.
"""

import csv
from datetime import UTC, datetime, timedelta
from functools import lru_cache
from importlib.resources import files

import numpy as np
import pytest
from dakika_core.timing.best_times import HourEffects, hour_effects

from truth.worlds.timing import UTC_ZONE

NEW_YEAR = datetime(2011, 1, 1, tzinfo=UTC)
SAMPLE = 468


@lru_cache(maxsize=1)
def bikers() -> tuple[list[datetime], np.ndarray]:
    """Middles of hours, and how many bikes were out in each."""
    packed = files("ISLP").joinpath("data", "Bikeshare.csv").read_text()
    rows = list(csv.DictReader(packed.splitlines()))
    at = [NEW_YEAR + timedelta(days=int(row["day"]) - 1, hours=int(row["hr"]), minutes=30) for row in rows]
    return at, np.array([float(row["bikers"]) for row in rows])


def hours_of(at: list[datetime]) -> np.ndarray:
    return np.array([moment.weekday() * 24 + moment.hour for moment in at])


@lru_cache
def estimated(seed: int, *, shuffled: bool = False) -> HourEffects:
    """From a sample as large as three profiles' half-year of posts; its hours taken from other rows if so wished."""
    at, values = bikers()
    rng = np.random.default_rng(seed)
    chosen = np.sort(rng.choice(len(at), SAMPLE, replace=False))
    found = hour_effects(
        published_at=[at[i] for i in chosen], values=values[rng.permutation(chosen) if shuffled else chosen],
        formats=["text"] * SAMPLE, zone=UTC_ZONE,
    )  # fmt: skip
    assert found is not None
    return found


def test_the_whole_year_says_what_is_known_of_it() -> None:
    at, values = bikers()
    hours = hours_of(at)
    assert len(at) == 8645
    means = np.array([values[hours == hour].mean() for hour in range(168)])
    working, off = means[:120].reshape(5, 24).mean(axis=0), means[120:].reshape(2, 24).mean(axis=0)
    assert {int(hour) for hour in np.argsort(-working)[:3]} == {17, 18, 8}
    assert int(np.argmax(off)) == 13


@pytest.mark.parametrize("seed", range(4))
def test_a_sample_finds_the_hours_of_the_whole_year(seed: int) -> None:
    at, values = bikers()
    hours = hours_of(at)
    truth = np.array([np.log1p(values[hours == hour]).mean() for hour in range(168)])
    found = estimated(seed)
    said = np.log(found.index)
    assert found.has_effect
    assert np.corrcoef(said, truth)[0, 1] > 0.97
    # As strong as it is: neither shrunk away nor blown up.
    assert np.std(said) / np.std(truth) == pytest.approx(1, abs=0.1)
    working = said[:120].reshape(5, 24).mean(axis=0)
    assert {int(hour) for hour in np.argsort(-working)[:4]} >= {17, 18, 8}
    off = said[120:].reshape(2, 24).mean(axis=0)
    assert 11 <= int(np.argmax(off)) <= 17


def test_hours_that_say_nothing_are_not_said_to() -> None:
    """The same figures at hours that are not theirs: how often an effect is claimed of them."""
    claimed = [estimated(100 + seed, shuffled=True).has_effect for seed in range(12)]
    assert sum(claimed) <= 2
