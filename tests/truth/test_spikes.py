"""Promise: days that stand out are found at every size of counts, and quiet series are left in peace.

Few seeds with wide gates; ./dakika bench statistics prints the same with two hundred.
"""

import numpy as np
import pytest

from truth.worlds.spikes import counts, flagged

SEEDS = 40


@pytest.mark.parametrize("a_day", [5, 20])
@pytest.mark.parametrize("dispersion", [0.0, 0.4])
def test_series_without_an_event_are_left_in_peace(a_day: float, dispersion: float) -> None:
    many = [sum(flagged(counts(seed, a_day=a_day, dispersion=dispersion))) for seed in range(SEEDS)]
    assert np.mean(many) < 0.25, "days a series of three months"


@pytest.mark.parametrize(("a_day", "times", "at_least"), [(5, 3, 0.1), (5, 5, 0.5), (20, 3, 0.7), (20, 5, 0.95)])
def test_a_day_that_stands_out_is_found(a_day: float, times: float, at_least: float) -> None:
    found = [flagged(counts(seed, a_day=a_day, times=times))[0] for seed in range(SEEDS)]
    assert np.mean(found) >= at_least
