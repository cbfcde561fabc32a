"""The statistics held against worlds whose truth is known: two hundred seeds each, the target beside each figure.

./dakika bench statistics; about a quarter of an hour. The tests in tests/truth do the same with few seeds.
"""

import sys
from collections.abc import Callable

from scripts.paths import ROOT

SEEDS = 200


def _told(what: str, value: float, target: str, *, is_kept: bool) -> None:
    print(f"{what:<58}{value:>9.3f}   {target:<14}{'' if is_kept else 'missed'}", flush=True)


def _between(what: str, value: float, low: float, high: float) -> None:
    _told(what, value, f"{low:g} to {high:g}", is_kept=low <= value <= high)


def _at_most(what: str, value: float, most: float) -> None:
    _told(what, value, f"<= {most:g}", is_kept=value <= most)


def _at_least(what: str, value: float, least: float) -> None:
    _told(what, value, f">= {least:g}", is_kept=value >= least)


def measure_statistics(seeds: int = SEEDS) -> None:
    """Print the table."""
    sys.path[:0] = [str(ROOT / "core"), str(ROOT / "tests")]
    print(f"{'in worlds of known truth, ' + str(seeds) + ' seeds':<58}{'figure':>9}   target")
    for part in (_timing, _groups, _ratios, _spikes, _findings):
        part(seeds)


def _timing(seeds: int) -> None:
    import numpy as np
    from truth.worlds.timing import Held, World, held, mirrored_effect, true_effect

    def mean(
        make: Callable[[int], World], truth: "np.ndarray", of: str | None = None, count: int = seeds
    ) -> dict[str, float]:
        found = []
        for seed in range(count):
            world = make(10_000 + seed)
            effects = world.estimate(of)
            assert effects is not None
            found.append(held(effects, truth, world.used()))
        return {name: float(np.mean([getattr(one, name) for one in found])) for name in Held.__dataclass_fields__}

    plain = mean(lambda s: World(seed=s), true_effect())
    _at_most("best times: regret", plain["regret"], 0.38)
    _at_least("best times: rank correlation", plain["rank"], 0.64)
    _between("best times: 90 % intervals hold", plain["covered90"], 0.86, 0.94)
    print(f"{'best times: claimed and true log lift of the five':<58}{plain['claimed']:>9.3f}   {plain['real']:.3f}")
    reversed_ = mean(lambda s: World(seed=s, videos_at=(9, 18)), true_effect())
    _at_most("best times, videos in office hours: regret", reversed_["regret"], 0.38)
    _between("best times, videos in office hours: 90 % hold", reversed_["covered90"], 0.86, 0.94)
    nothing = (np.zeros(168),)
    claims = [World(seed=20_000 + s, effects=nothing).estimate() for s in range(seeds)]
    _at_most("best times, no effect: claimed", float(np.mean([bool(c and c.has_effect) for c in claims])), 0.08)
    wander = [World(seed=30_000 + s, effects=nothing, profiles=1, weeks=74, a_week=5, wandering=0.25).estimate()
              for s in range(seeds)]  # fmt: skip
    _at_most(
        "best times, 17 months of ups and downs: claimed",
        float(np.mean([bool(c and c.has_effect) for c in wander])),
        1 / 12,
    )
    few = max(10, seeds // 5)
    pooled = mean(lambda s: World(seed=s, profiles=8), true_effect(), "3", few)
    _at_least("best times, eight profiles alike: effect said of one", pooled["has_effect"], 0.7)
    _between("best times, eight profiles alike: 90 % hold", pooled["covered90"], 0.86, 0.94)
    effects = (mirrored_effect(), *[true_effect()] * 7)
    apart = mean(lambda s: World(seed=s, profiles=8, effects=effects), mirrored_effect(), "0", few)
    _at_most("best times, one of eight differs: its regret", apart["regret"], 0.38)
    _between("best times, one of eight differs: 90 % hold", apart["covered90"], 0.86, 0.94)
    against = np.exp(-4 * true_effect())
    wrong = mean(
        lambda s: World(seed=s, profiles=1, weeks=100, a_week=50, presence=against), true_effect(), "0", max(5, seeds // 10)
    )  # fmt: skip
    _at_most("best times, presence opposite, 5,000 posts: regret", wrong["regret"], 0.1)


def _groups(seeds: int) -> None:
    import numpy as np
    from truth.worlds.groups import compared, verdicts

    for size in (None, 6):
        for has_controls in (True, False):
            shown = np.mean([
                verdicts(compared(s, group_size=size, has_controls=has_controls)) > 0 for s in range(seeds * 5)
            ])  # fmt: skip
            name = f"groups of {size or 'about twenty'}, {'adjusted' if has_controls else 'raw'}, no effect: a verdict"
            _at_most(name, float(shown), 0.06)
    found = [next(r for r in compared(s, effect=0.5) if r.name == "g0") for s in range(seeds * 2)]
    _at_least("groups, effect of 65 %: found", float(np.mean([r.verdict == "better" for r in found])), 0.4)


def _ratios(seeds: int) -> None:
    import numpy as np
    from truth.worlds.ratios import holds

    for posts in (5, 10, 50):
        _between(
            f"rates of {posts} posts: 95 % intervals hold",
            float(np.mean([holds(s, posts) for s in range(seeds * 5)])),
            0.92,
            0.98,
        )


def _spikes(seeds: int) -> None:
    import numpy as np
    from truth.worlds.spikes import counts, flagged

    for a_day in (5, 20):
        quiet = [sum(flagged(counts(s, a_day=a_day, dispersion=d))) for s in range(seeds // 2) for d in (0.0, 0.4)]
        _at_most(f"spikes, {a_day} a day, nothing happened: days a series", float(np.mean(quiet)), 0.2)
        up = [flagged(counts(s, a_day=a_day, times=3))[0] for s in range(seeds)]
        _at_least(f"spikes, {a_day} a day, a threefold day: found", float(np.mean(up)), 0.03 if a_day == 5 else 0.27)


def _findings(seeds: int) -> None:
    import numpy as np
    from truth.worlds.findings import Brand

    worlds: list[dict[str, float]] = [
        {"posts_a_day": 0.7}, {"posts_a_day": 2.0}, {"posts_a_day": 8.0}, {"posts_a_day": 2.0, "level": 4.0},
        {"posts_a_day": 2.0, "viral": 0.0},
    ]  # fmt: skip
    for world in worlds:
        told = np.mean([bool(Brand(seed=40_000 + s, **world).said()) for s in range(seeds)])  # type: ignore[arg-type]
        name = ", ".join(f"{key.replace('_', ' ')} {value:g}" for key, value in world.items())
        _at_most(f"findings, no effects ({name}): any said", float(told), 0.1)
    found = [any(s.kind == "spike" for s in Brand(seed=s, posts_a_day=8, viral=0, event_day=75).said())
             for s in range(seeds)]  # fmt: skip
    _at_least("findings, a day of twelve times as much: said", float(np.mean(found)), 0.35)
