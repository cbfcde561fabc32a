"""Posts in groups that make no difference, or one that does, among profiles and formats that do."""

import numpy as np
from dakika_core.results.groups import GroupResult, compare_groups, indicators
from numpy.typing import NDArray

Array = NDArray[np.float64]


def compared(
    seed: int, *, posts: int = 120, groups: int = 6, group_size: int | None = None, effect: float = 0.0,
    has_controls: bool = True, viral: float = 0.03,
) -> list[GroupResult]:  # fmt: skip
    """Groups of posts, each post in one of them, or of group_size posts drawn at random; the first has the effect.

    Log indices scatter by .6 (video .8), some go viral; profiles and formats have levels of their own.
    """
    rng = np.random.default_rng(seed)
    profile = rng.integers(0, 3, posts)
    kind = rng.choice(["text", "image", "video"], posts, p=[0.5, 0.3, 0.2])
    logs = rng.normal(0, np.where(kind == "video", 0.8, 0.6)) + 0.1 * profile + 0.3 * (kind == "video")
    logs += np.where(rng.random(posts) < viral, rng.exponential(1.5, posts), 0.0)
    if group_size is None:
        of = rng.integers(0, groups, posts)
        masks = {f"g{g}": of == g for g in range(groups)}
    else:
        masks = {
            f"g{g}": np.isin(np.arange(posts), rng.choice(posts, group_size, replace=False)) for g in range(groups)
        }
    logs = logs + effect * masks["g0"]
    controls = (
        np.column_stack([indicators([str(p) for p in profile]), indicators(list(kind))]) if has_controls else None
    )
    return compare_groups(np.exp(logs), masks, controls)


def verdicts(found: list[GroupResult]) -> int:
    """How many groups are called better or worse."""
    return sum(result.verdict in ("better", "worse") for result in found)
