"""Promise: a profile without posts gets hours to begin with, and nothing is claimed of them."""

import numpy as np

from dakika_core.timing.presumed import presumed
from dakika_core.timing.proposals import Rules, propose_rhythm
from dakika_core.values.period import HOURS_PER_WEEK


def test_presence_stands_in_then_the_networks_usual_hours_then_nothing() -> None:
    presence = np.where(np.arange(HOURS_PER_WEEK) % 24 == 21, 1.0, 0.1)
    assert int(np.argmax(presumed(presence, (8,)).index)) % 24 == 21
    assert int(np.argmax(presumed(None, (8, 13)).index)) % 24 in (8, 13)
    assert np.ptp(presumed(None).index) == 0
    assert np.ptp(presumed(np.zeros(HOURS_PER_WEEK), ()).index) == 0


def test_nothing_is_claimed_and_every_interval_holds_one() -> None:
    found = presumed(None, (8, 13, 20))
    assert not found.has_effect
    assert (found.low80 < 1).all()
    assert found.from_posts.max() == 0
    assert set(found.certainty) == {"open"}


def test_a_rhythm_can_be_proposed_from_it() -> None:
    slots = propose_rhythm({"new": presumed(None, (8, 13, 20))}, {"new": 3}, Rules()).slots
    assert len(slots) == 3
    assert np.isfinite(np.linalg.cholesky(presumed(None, (8,)).covariance + 1e-9 * np.eye(HOURS_PER_WEEK))).all()
