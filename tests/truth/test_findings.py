"""Promise: on a morning on which nothing is worth saying, fewer than one brand in ten is told a finding.

Few seeds with wide gates; ./dakika bench statistics prints the same with two hundred.
"""

import numpy as np
import pytest
from dakika_core.results.findings import Statement

from truth.worlds.findings import Brand

SEEDS = 24


@pytest.mark.parametrize(
    "world",
    [{"posts_a_day": 0.7}, {"posts_a_day": 2.0}, {"posts_a_day": 8.0}, {"posts_a_day": 2.0, "level": 4.0},
     {"posts_a_day": 2.0, "viral": 0.0}],
    ids=str,
)  # fmt: skip
def test_brands_without_effects_are_told_little(world: dict[str, float]) -> None:
    told = [bool(Brand(seed=seed, **world).said()) for seed in range(SEEDS)]  # type: ignore[arg-type]
    assert np.mean(told) <= 0.2


def test_what_goes_on_in_several_metrics_and_days_is_said_once() -> None:
    """A day that stands out in all four series that follow from posts, made by hand in a quiet brand."""
    spikes: list[Statement] = []
    for seed in range(SEEDS):
        said = [s for s in Brand(seed=seed, posts_a_day=8, viral=0, event_day=75).said() if s.kind == "spike"]
        assert len(said) <= 1, "one thing is one finding"
        spikes += said
    assert len(spikes) > SEEDS / 4, "it is found"
    assert sum(len(s.evidence["also"]) >= 1 for s in spikes) > len(spikes) / 2  # type: ignore[arg-type]
