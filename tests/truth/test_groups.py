"""Promise: held against the stand-ins' true effects, group results hold the truth as often as their intervals say."""

from datetime import date

import numpy as np
import pytest
from dakika_core.results.groups import compare_groups, indicators
from dakika_standins.world.model import World, WorldPost
from dakika_standins.world.scenario import FORMAT_EFFECT, TOPIC_EFFECT

ACCOUNTS = (
    "commons-orreryhouse",
    "brevi-orreryhouse",
    "commons-halfmoon",
    "brevi-gnomongallery",
    "commons-gnomongallery",
)
PARTS = ("reactions", "comments", "shares", "saves")
SEEDS = range(40, 54)


def posts_of(seed: int) -> list[WorldPost]:
    world = World(seed=seed, anchor=date(2026, 11, 24))
    return [post for key in ACCOUNTS for post in world._make_posts(world.accounts[key])]


def target(effects: np.ndarray, mask: np.ndarray, controls: np.ndarray) -> float:
    """What the comparison would give without luck: the same regression on the true log effects."""
    design = np.column_stack([mask.astype(float), np.ones(len(mask)), controls])
    return float(np.exp(np.linalg.lstsq(design, effects, rcond=None)[0][0]))


@pytest.fixture(scope="module")
def coverage() -> dict[str, list[bool]]:
    """Whether each adjusted interval holds the truth, over worlds: formats with profile held, topics with both."""
    held: dict[str, list[bool]] = {"format": [], "topic": []}
    for seed in SEEDS:
        posts = posts_of(seed)
        value = np.array([float(sum(post.finals.get(p, 0) for p in PARTS)) for post in posts])
        formats, topics = [post.format for post in posts], [post.topic for post in posts]
        profiles = indicators([post.account for post in posts])
        both = np.column_stack([profiles, indicators(formats)])
        # Luck apart, a post's log is made of these two; hours, campaigns and trend are the scatter.
        true = np.array([FORMAT_EFFECT[f] + TOPIC_EFFECT.get(t, 0.0) for f, t in zip(formats, topics, strict=True)])
        for by, values, controls in (("format", formats, profiles), ("topic", topics, both)):
            masks = {name: np.array(values) == name for name in sorted(set(values))}
            for result in compare_groups(value, masks, controls):
                if result.adjusted is None:
                    continue
                wanted = target(true, masks[result.name], controls)
                held[by].append(result.adjusted.interval.low <= wanted <= result.adjusted.interval.high)
    return held


@pytest.mark.parametrize("by", ["format", "topic"])
def test_intervals_hold_the_worlds_effects_as_often_as_they_say(coverage: dict[str, list[bool]], by: str) -> None:
    assert len(coverage[by]) > 60
    assert 0.87 <= np.mean(coverage[by]) <= 0.99


def test_the_largest_true_effect_is_found_in_most_worlds() -> None:
    """Short videos do exp(.5) as well as texts: with half a year of five profiles that is seldom missed."""
    found = 0
    for seed in list(SEEDS)[:5]:
        posts = posts_of(seed)
        value = np.array([float(sum(post.finals.get(p, 0) for p in PARTS)) for post in posts])
        mask = np.array([post.format == "short_video" for post in posts])
        (result,) = compare_groups(value, {"short_video": mask}, indicators([post.account for post in posts]))
        found += result.verdict == "better"
    assert found >= 4
