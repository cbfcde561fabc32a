"""Promise: what the older weeks said is tried on the newer, and no gain is claimed that these do not show."""

from datetime import UTC, datetime, timedelta
from zoneinfo import ZoneInfo

import numpy as np
import pytest

from dakika_core.timing.held_out import held_out

ZONE = ZoneInfo("UTC")


def _posts(evening: float, *, n: int = 360, weeks: int = 30, turned: bool = False, seed: int = 1):  # type: ignore[no-untyped-def]
    """Posts at noon and in the evening; evenings do `evening` times as well, turned round in the newer third."""
    rng = np.random.default_rng(seed)
    days = np.sort(rng.integers(0, weeks * 7, n))
    at = [datetime(2026, 1, 5, 12 if rng.random() < 0.5 else 20, tzinfo=UTC) + timedelta(days=int(d)) for d in days]
    values = []
    for day, one in zip(days, at, strict=True):
        lift = evening if one.hour == 20 else 1.0
        if turned and day > weeks * 7 * 2 / 3:
            lift = 1 / lift
        values.append(float(np.exp(4 + rng.normal(0, 0.4)) * lift))
    return {"published_at": at, "values": np.array(values), "formats": ["text"] * n, "zone": ZONE}


def test_hours_that_hold_are_shown_to_hold() -> None:
    found = held_out(**_posts(1.8))
    assert found is not None
    assert found.is_shown
    assert found.gain == pytest.approx(1.8**0.5, rel=0.12)
    assert {hour % 24 for hour in found.hours} == {20}
    assert found.thirds[-1].came > found.thirds[0].came
    assert found.older + found.newer == 360


def test_hours_that_turned_are_shown_to_have_failed() -> None:
    found = held_out(**_posts(1.8, turned=True))
    assert found is not None
    assert found.gain is not None
    assert found.gain < 1
    assert found.claimed is not None
    assert found.claimed > 1
    assert not found.is_shown


def test_without_an_effect_hardly_any_gain_is_shown() -> None:
    shown = [
        found is not None and found.is_shown for found in (held_out(**_posts(1.0, n=150, seed=s)) for s in range(25))
    ]
    assert sum(shown) <= 2


def test_too_little_to_try_it_on_says_so() -> None:
    few = held_out(**_posts(1.8, n=40))
    assert few is not None
    assert few.gain is None
    assert not few.is_shown
    assert held_out(published_at=[], values=np.empty(0), formats=[], zone=ZONE) is None


def test_a_part_of_a_total_is_tried_like_a_count() -> None:
    posts = _posts(1.0)
    rng = np.random.default_rng(9)
    totals = rng.integers(500, 1500, 360).astype(float)
    chance = np.array([0.06 if at.hour == 20 else 0.03 for at in posts["published_at"]])
    posts["values"] = rng.binomial(totals.astype(int), chance).astype(float)
    found = held_out(**posts, totals=totals)
    assert found is not None
    assert found.is_shown
