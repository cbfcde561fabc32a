"""Promise: what is thrown away of an old post's readings changes none of its values at equal ages, nor its latest count."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from dakika_core.metrics.at_age import final_values, values_at_ages
from dakika_core.metrics.thinning import wanted_readings

AGES = (1, 3, 6, 12, 24, 72, 168, 672)


@st.composite
def readings(draw: st.DrawFn) -> tuple[np.ndarray, np.ndarray]:
    count = draw(st.integers(0, 120))
    rng = np.random.default_rng(draw(st.integers(0, 2**32 - 1)))
    ages = np.sort(rng.uniform(-1.0, 24.0 * rng.choice([2, 30, 400]), count))
    values = np.cumsum(rng.integers(0, 50, (count, 3)), axis=0).astype(float)
    # Networks tell some counters now and then, and some take back what was wrong.
    values[rng.random(values.shape) < draw(st.sampled_from([0.0, 0.2, 0.9]))] = np.nan
    if count and draw(st.booleans()):
        values[rng.integers(count)] -= 30
    return ages, values


@given(readings())
def test_values_at_equal_ages_stay(found: tuple[np.ndarray, np.ndarray]) -> None:
    ages, values = found
    kept = wanted_readings(ages, values, (*AGES, 400.0))
    if not len(ages):
        assert len(kept) == 0
        return
    before, after = values_at_ages(ages, values, AGES), values_at_ages(ages[kept], values[kept], AGES)
    # What is known at the same readings goes as one; columns apart need not: at most the last digits differ.
    np.testing.assert_allclose(after, before, rtol=1e-9, atol=1e-9)
    np.testing.assert_array_equal(final_values(ages[kept], values[kept], 400.0), final_values(ages, values, 400.0))
    assert kept[-1]


@given(readings())
def test_thinned_again_nothing_more_goes(found: tuple[np.ndarray, np.ndarray]) -> None:
    ages, values = found
    kept = wanted_readings(ages, values, AGES)
    assert wanted_readings(ages[kept], values[kept], AGES).all()


def test_a_post_that_was_read_every_hour_keeps_a_tenth() -> None:
    ages = np.arange(1.0, 365 * 24)
    kept = wanted_readings(ages, np.cumsum(np.ones((len(ages), 1)), axis=0), AGES)
    assert 40 < kept.sum() < 90
    assert kept.sum() == pytest.approx(28 + 12 + 2 * len(AGES), abs=20)
