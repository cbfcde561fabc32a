"""Promise: groups that make no difference are seldom called better or worse, small ones least of all.

Few seeds with wide gates; ./dakika bench statistics prints the same with many.
"""

import numpy as np
import pytest

from truth.worlds.groups import compared, verdicts

SEEDS = 250


@pytest.mark.parametrize("has_controls", [True, False])
@pytest.mark.parametrize("size", [None, 6])
def test_groups_without_effect_show_no_verdict(size: int | None, has_controls: bool) -> None:
    shown = [verdicts(compared(seed, group_size=size, has_controls=has_controls)) > 0 for seed in range(SEEDS)]
    assert np.mean(shown) < 0.1


def test_a_group_with_an_effect_is_found_and_held() -> None:
    found, held = 0, 0
    for seed in range(SEEDS):
        one = next(result for result in compared(seed, effect=0.5) if result.name == "g0")
        assert one.adjusted is not None
        found += one.verdict == "better"
        held += one.adjusted.interval.low <= np.exp(0.5) <= one.adjusted.interval.high
    assert found / SEEDS > 0.3
    assert held / SEEDS > 0.9
