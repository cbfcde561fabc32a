"""Promise: we say how often we were right, and say so when a plain rival is nearer."""

import numpy as np
import pytest

from dakika_core.foresight.calibration import Rival, calibration


def _world(n: int, ours: float, theirs: float, seed: int = 1) -> dict[str, np.ndarray]:
    rng = np.random.default_rng(seed)
    truth = np.exp(rng.normal(6, 1, n))
    said = truth * np.exp(rng.normal(0, ours, n))
    return {"truth": truth, "said": said, "rival": truth * np.exp(rng.normal(0, theirs, n)),
            "low": said * np.exp(-1.2816 * ours), "high": said * np.exp(1.2816 * ours)}  # fmt: skip


def _held(world: dict[str, np.ndarray]):  # type: ignore[no-untyped-def]
    blocks = (np.arange(len(world["truth"])) // 8).tolist()
    return calibration(said=world["said"], low=world["low"], high=world["high"], truth=world["truth"],
                       rivals={Rival.MEDIAN: world["rival"]}, blocks=blocks)  # fmt: skip


def test_honest_intervals_are_found_honest_and_narrow_ones_not() -> None:
    found = _held(_world(400, 0.4, 0.8))
    assert found.coverage == pytest.approx(0.8, abs=0.06)
    assert found.is_honest
    assert found.error == pytest.approx(np.exp(0.4 * (2 / np.pi) ** 0.5), rel=0.08)
    narrow = _world(400, 0.4, 0.8)
    narrow["low"], narrow["high"] = narrow["said"] * 0.9, narrow["said"] * 1.1
    assert _held(narrow).is_honest is False


def test_the_better_of_two_is_named_whichever_it_is() -> None:
    assert _held(_world(300, 0.3, 0.8)).versus[0].is_better
    worse = _held(_world(300, 0.8, 0.3)).versus[0]
    assert worse.is_worse
    assert worse.ratio > 1


def test_rivals_as_good_as_we_are_rarely_named_worse() -> None:
    claims = [_held(_world(120, 0.5, 0.5, seed)).versus[0] for seed in range(200)]
    assert np.mean([c.is_better or c.is_worse for c in claims]) <= 0.09


def test_little_says_nothing_and_a_rival_without_a_say_is_left_out() -> None:
    found = _held(_world(10, 0.3, 0.3))
    assert (found.coverage, found.error, found.versus, found.is_honest) == (None, None, (), None)
    silent = _world(50, 0.3, 0.3)
    silent["rival"][:] = np.nan
    assert _held(silent).versus == ()


def test_weeks_that_err_together_widen_the_interval_of_the_coverage() -> None:
    world = _world(200, 0.4, 0.8)
    alone = _held(world)
    hit = np.repeat(np.random.default_rng(3).random(25) < 0.8, 8)
    world["low"], world["high"] = np.where(hit, 0, world["truth"] * 2), np.where(hit, 1e9, world["truth"] * 3)
    together = _held(world)
    assert alone.interval is not None
    assert together.interval is not None
    assert together.interval.high - together.interval.low > 1.5 * (alone.interval.high - alone.interval.low)
