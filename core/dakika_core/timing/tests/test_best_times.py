"""Promise: the estimate is what its model says: hours on a circle, too few posts say nothing, presence is overruled by posts.

How well it does in worlds whose truth is known is held in tests/truth.
"""

from datetime import UTC, datetime, timedelta
from zoneinfo import ZoneInfo

import numpy as np
import pytest

from dakika_core.timing.best_times import Certainty, HourEffects, fit_hours, hour_effects, hour_weights

HOURS = np.arange(168)
UTC_ZONE = ZoneInfo("UTC")
START = datetime(2026, 5, 4, tzinfo=UTC)


def posts(
    seed: int, count: int, effect: np.ndarray, noise: float = 0.5
) -> tuple[list[datetime], np.ndarray, list[str]]:
    rng = np.random.default_rng(seed)
    hours = rng.integers(0, 168, count)
    times = [START + timedelta(weeks=i * 26 // count, hours=int(h), minutes=30) for i, h in enumerate(hours)]
    values = np.exp(5 + effect[hours] + rng.normal(0, noise, count))
    return times, values, [str(rng.choice(["text", "image"])) for _ in range(count)]


def evening(strength: float = 0.3) -> np.ndarray:
    return strength * np.cos(2 * np.pi * (HOURS % 24 + 0.5 - 19) / 24)


def test_a_post_shares_its_weight_between_the_hours_around() -> None:
    weights = hour_weights(np.array([0.5, 10.0, 167.9]))
    assert np.allclose(weights.sum(axis=1), 1)
    assert weights[0, 0] == 1
    assert weights[1, 9] == weights[1, 10] == pytest.approx(0.5)
    assert weights[2, 167] == pytest.approx(0.6)
    assert weights[2, 0] == pytest.approx(0.4)


@pytest.mark.parametrize("count", [0, 1, 29])
def test_too_few_posts_say_nothing(count: int) -> None:
    times, values, formats = posts(1, 40, evening())
    values[count:] = np.nan
    assert hour_effects(published_at=times, values=values, formats=formats, zone=UTC_ZONE) is None


def found(times: list[datetime], values: np.ndarray, formats: list[str], **more: object) -> HourEffects:
    effects = hour_effects(published_at=times, values=values, formats=formats, zone=UTC_ZONE, **more)  # type: ignore[arg-type]
    assert effects is not None
    return effects


def test_the_level_of_everything_makes_no_difference() -> None:
    times, values, formats = posts(2, 400, evening(), noise=0.3)
    small, large = found(times, values * 10, formats), found(times, values * 1000, formats)
    assert np.allclose(np.log(small.index), np.log(large.index), atol=0.02)
    assert small.certainty.count(Certainty.SURE) > 10
    assert small.posts == 400


def test_a_week_is_a_circle() -> None:
    """Half a day later in the data is half a day later in the answer, over the end of the week too."""
    times, values, formats = posts(3, 400, evening(), noise=0.3)
    later = found([at + timedelta(hours=24) for at in times], values, formats)
    assert np.allclose(np.roll(np.log(found(times, values, formats).index), 24), np.log(later.index), atol=0.12)


def test_values_of_zero_and_one_gone_viral_break_nothing() -> None:
    times, values, formats = posts(4, 300, evening(), noise=0.3)
    before = found(times, values, formats)
    values[::60] *= 5000
    after = found(times, values, formats)
    assert np.abs(np.log(before.index) - np.log(after.index)).max() < 0.12
    nothing = found(times, np.zeros(300), formats)
    assert np.isfinite(nothing.index).all()
    assert not nothing.has_effect


def test_presence_speaks_where_posts_do_not_and_is_overruled_where_they_do() -> None:
    presence = np.exp(evening(1.0))
    rng = np.random.default_rng(5)
    noons = [START + timedelta(days=day, hours=12) for day in range(60)]
    few = found(noons, np.exp(5 + rng.normal(0, 0.6, 60)), ["text"] * 60, presence=presence)
    assert np.corrcoef(np.log(few.index), evening())[0, 1] > 0.8
    times, values, formats = posts(6, 3000, -evening(), noise=0.5)
    many = found(times, values, formats, presence=presence)
    assert np.corrcoef(np.log(many.index), -evening())[0, 1] > 0.95
    # Its slope is unknown too, and widens what rests on it.
    assert (np.log(few.high80) - np.log(few.low80)).mean() > 3 * (np.log(many.high80) - np.log(many.low80)).mean()


def test_profiles_share_what_they_have_in_common_and_each_is_told_by_its_name() -> None:
    rows = [posts(10 + n, 60, evening(), noise=0.4) for n in range(6)]
    names = [str(n) for n in range(6) for _ in range(60)]
    model = fit_hours(
        published_at=[at for times, _, _ in rows for at in times], values=np.concatenate([v for _, v, _ in rows]),
        formats=[kind for _, _, kinds in rows for kind in kinds], profiles=names, zone=UTC_ZONE,
    )  # fmt: skip
    assert model is not None
    one = model.of("3")
    alone = found(*rows[3])
    assert one.has_effect
    assert (one.posts, one.alone < 0.5) == (60, True)
    wide = [(np.log(f.high80) - np.log(f.low80)).mean() for f in (one, alone)]
    assert wide[0] < 0.8 * wide[1]
    assert model.of().posts == 360
    with pytest.raises(KeyError):
        model.of("elsewhere")
