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


def measure_timing(seeds: int = SEEDS) -> None:
    """Best times, the check on newer weeks, trials and projections: the table, and how long each takes."""
    sys.path[:0] = [str(ROOT / "core"), str(ROOT / "tests")]
    print(f"{'in worlds of known truth, ' + str(seeds) + ' seeds':<58}{'figure':>9}   target")
    for part in (_timing, _kinds_of_brand, _held_out, _trials, _foresight):
        part(seeds)
    _speeds()


def _kinds_of_brand(seeds: int) -> None:
    """Profiles that share their hours, that differ, and half of each: each profile's own hours held against its own."""
    import numpy as np
    from truth.worlds.timing import Held, World, held, other_effect, true_effect

    def effects_of(kind: str, seed: int) -> "tuple[np.ndarray, ...]":
        rng = np.random.default_rng(77_000 + seed)
        shared, own = true_effect(), [other_effect(rng) for _ in range(4)]
        return {"share": (shared,) * 4, "differ": tuple(own), "half": (shared, own[0], shared, own[1])}[kind]

    for kind in ("share", "differ", "half"):
        for a_week, most in ((6, 0.36), (24, 0.22)):
            found: list[Held] = []
            for seed in range(max(8, seeds // (4 if a_week == 6 else 5))):
                effects = effects_of(kind, seed)
                world = World(seed=20_000 + seed, profiles=4, effects=effects, a_week=a_week)
                model = world.model()
                found += [held(model.of(str(p)), effects[p], world.used()) for p in range(4)]
            means = {name: float(np.mean([getattr(one, name) for one in found])) for name in Held.__dataclass_fields__}
            name = f"four profiles that {kind}, {a_week} posts a week each"
            _at_most(f"{name}: regret", means["regret"], most)
            _between(f"{name}: 90 % hold", means["covered90"], 0.86, 0.94)
            _between(f"{name}: 90 % hold, hours used", means["covered_used"], 0.86, 0.94)
            _at_most(f"{name}: claimed - true", abs(means["claimed"] - means["real"]), 0.05)


def _held_out(seeds: int) -> None:
    import numpy as np
    from dakika_core.timing.held_out import held_out
    from dakika_core.values.period import hour_of_week
    from truth.worlds.timing import UTC_ZONE, World, true_effect

    for name, effect in (("no effect", np.zeros(168)), ("an effect", true_effect())):
        shown, inside = [], []
        for seed in range(seeds):
            world = World(seed=30_000 + seed, effects=(effect,), a_week=12)
            at, values, formats, profiles = world.posts()
            found = held_out(published_at=at, values=values, formats=formats, profiles=profiles, zone=UTC_ZONE)
            if found is None or found.interval is None:
                continue
            shown.append(found.is_shown)
            hours = [int(hour_of_week(one, UTC_ZONE)) for one in at if one >= found.since]
            gain = effect[[h for h in hours if h in found.hours]].mean() - effect[hours].mean()
            inside.append(np.log(found.interval.low) <= gain <= np.log(found.interval.high))
        told = float(np.mean(shown))
        if name == "no effect":
            _at_most("newer weeks, no effect: a gain is shown", told, 0.05)
        else:
            print(f"{'newer weeks, an effect: a gain is shown':<58}{told:>9.3f}")
        _at_least(f"newer weeks, {name}: 95 % intervals hold", float(np.mean(inside)), 0.9)


def _trials(seeds: int) -> None:
    import numpy as np
    from dakika_core.timing.trials import Verdict, look_at

    def claims(effect: float, profiles: int, pairs: int, count: int) -> float:
        rng = np.random.default_rng(5)
        found = []
        for _ in range(count):
            told: list[list[float]] = []
            verdict = Verdict.RUNNING
            for _ in range(pairs):
                told.append((effect + 0.3 * rng.standard_t(3, profiles)).tolist())
                verdict = look_at(told, pairs).verdict
                if verdict in (Verdict.FIRST, Verdict.SECOND):
                    break
            found.append(verdict in (Verdict.FIRST, Verdict.SECOND))
        return float(np.mean(found))

    _at_most("trials, no difference, one profile, 8 pairs: claims", claims(0.0, 1, 8, 10 * seeds), 0.06)
    _at_most("trials, no difference, two profiles, 10 pairs: claims", claims(0.0, 2, 10, 5 * seeds), 0.07)
    print(f"{'trials, a difference of a third: found':<58}{claims(0.29, 2, 10, seeds):>9.3f}")


def _foresight(seeds: int) -> None:
    from truth.worlds.growth import GrowingWorld, Law, coverage

    for law in Law:
        found = coverage([GrowingWorld(seed=40_000 + seed, law=law) for seed in range(max(8, seeds // 5))])
        for age, share in found.by_horizon.items():
            _between(f"projections, {law.value}, at {age:g} h: 80 % hold", share, 0.75, 0.85)
        _between(f"projections, {law.value}, before: 80 % hold", found.before, 0.75, 0.85)
        _between(f"projections, {law.value}, weeks: 80 % hold", found.weeks, 0.75, 0.85)


def _speeds() -> None:
    """One time each, in this machine's hour: ratios to the limit."""
    import time

    import numpy as np
    from dakika_core.foresight.conformal import Errors
    from dakika_core.foresight.curves import assumed_curve
    from dakika_core.foresight.projection import HORIZONS_HOURS, project
    from dakika_core.metrics.growth import Growth
    from dakika_core.timing.proposals import Rules, propose_rhythm
    from truth.worlds.timing import World

    def told(what: str, limit: float, run: Callable[[], object]) -> None:
        run()
        begun = time.perf_counter()
        run()
        took = time.perf_counter() - begun
        print(f"{what:<58}{took:>8.2f} s   {limit:g} s, ratio {took / limit:.2f}", flush=True)

    told("a fit of 2,000 posts", 1.0, World(seed=1, profiles=1, a_week=77).model)
    model = World(seed=1, profiles=8, a_week=4).model()
    effects = {str(p): model.of(str(p)) for p in range(8)}
    told("proposals for eight profiles", 1.0, lambda: propose_rhythm(effects, dict.fromkeys(effects, 4), Rules()))
    rise, spread = assumed_curve(Growth(half_life_hours=5.0)).at(np.full(500, 5.0))
    errors = (Errors(low=-1.3, high=1.3, count=100),) * len(HORIZONS_HOURS)
    told("projections of 500 young posts", 2.0, lambda: project(
        ages_hours=np.full(500, 5.0), counts=np.full(500, 100.0), rise=rise, spread=spread, errors=errors,
        prior_log=np.full(500, 5.0), prior_spread=np.full(500, 0.5)))  # fmt: skip
