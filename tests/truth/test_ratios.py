"""Promise: the interval of a rate holds the true one as often as it says, for five posts as for fifty."""

import numpy as np
import pytest

from truth.worlds.ratios import holds


@pytest.mark.parametrize("posts", [5, 10, 50])
@pytest.mark.parametrize("spread", [0.6, 1.0])
def test_intervals_hold(posts: int, spread: float) -> None:
    assert 0.89 <= np.mean([holds(seed, posts, spread) for seed in range(500)]) <= 0.985
