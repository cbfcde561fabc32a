"""Promise: midnight is no edge: 23:00 and 01:00 gather at midnight, and evenness is not taken for gathering."""

import numpy as np
import pytest

from dakika_core.timing.circular import gathering


def test_the_textbooks_example() -> None:
    """J. Zar, Biostatistical Analysis, data D1 (the reference package pycircstat2 carries them): eight trees' angles."""
    found = gathering(np.array([45.0, 55, 81, 96, 110, 117, 132, 154]), whole=360.0)
    assert found is not None
    assert found.mean == pytest.approx(98.99, abs=0.05)
    assert found.r == pytest.approx(0.82522, abs=5e-5)
    assert found.z == pytest.approx(5.448, abs=1e-3)
    assert 0.001 < found.p < 0.002


def test_hours_round_midnight_gather_there() -> None:
    found = gathering(np.array([23.0, 1.0]))
    assert found is not None
    assert min(found.mean, 24 - found.mean) == pytest.approx(0, abs=1e-9)


def test_weights_count_as_so_many_and_nothing_is_nothing() -> None:
    weighed = gathering(np.array([6.0, 12.0]), weights=np.array([3.0, 1.0]))
    listed = gathering(np.array([6.0, 6.0, 6.0, 12.0]))
    assert weighed is not None
    assert listed is not None
    assert (weighed.mean, weighed.r, weighed.z) == pytest.approx((listed.mean, listed.r, listed.z))
    assert gathering(np.array([])) is None
    assert gathering(np.array([3.0]), weights=np.zeros(1)) is None


def test_evenness_is_rejected_as_rarely_as_it_should_be() -> None:
    rng = np.random.default_rng(4)
    found = [gathering(rng.uniform(0, 24, 30)) for _ in range(1000)]
    assert np.mean([g is not None and g.p < 0.05 for g in found]) == pytest.approx(0.05, abs=0.025)
