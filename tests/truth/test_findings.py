"""Promise: on a morning on which nothing is worth saying, fewer than one brand in ten is told a finding.

Few seeds with wide gates; ./dakika bench statistics prints the same with two hundred.
"""

import numpy as np
import pytest

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
    said = [s for seed in range(SEEDS) for s in Brand(seed=seed, viral=0.1).said() if s.kind == "spike"]
    days = [(s.evidence["day"], id(s)) for s in said]
    assert len(days) == len(set(days))
    assert all(s.subject == s.evidence["day"] for s in said)
