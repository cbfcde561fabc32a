"""Promise: every model gives each conversion away exactly once, and its answer is that of the published examples."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from dakika_core.site.attribution import (
    Model,
    Path,
    all_credits,
    credits_of,
    removal_effects,
    rounded,
    shapley_values,
    weights_of,
)


def path(*touches: str, cents: int = 100, ages: tuple[float, ...] | None = None, won: bool = True) -> Path:
    return Path(touches=touches, ages_days=ages or tuple(range(len(touches), 0, -1)), cents=cents, is_converted=won)


def test_each_rule_on_one_path_by_hand() -> None:
    walked = path("brevi", "commons", "direct", "commons", "direct")
    assert weights_of(walked, Model.LAST) == [0, 0, 0, 0, 1]
    assert weights_of(walked, Model.LAST_NON_DIRECT) == [0, 0, 0, 1, 0]
    assert weights_of(walked, Model.FIRST) == [1, 0, 0, 0, 0]
    assert weights_of(walked, Model.LINEAR) == pytest.approx([0.2] * 5)
    assert weights_of(walked, Model.POSITION) == pytest.approx([0.4, 0.2 / 3, 0.2 / 3, 0.2 / 3, 0.4])
    assert weights_of(path("a", "b"), Model.POSITION) == [0.5, 0.5]
    assert weights_of(path("direct", "direct"), Model.LAST_NON_DIRECT) == [0, 1]
    assert weights_of(walked, Model.SHAPLEY) == pytest.approx([1 / 3] * 3)  # by channel: brevi, commons, direct


def test_time_decay_halves_every_seven_days() -> None:
    """2^(-age/7): ages 0, 7, 14 give 4/7, 2/7, 1/7."""
    assert weights_of(path("c", "b", "a", ages=(14, 7, 0)), Model.DECAY) == pytest.approx([1 / 7, 2 / 7, 4 / 7])
    assert sum(weights_of(path("a", "b", ages=(9000, 8000)), Model.DECAY)) == pytest.approx(1)


def test_shapley_values_of_published_games() -> None:
    """Glove game; airport game (Littlechild and Owen 1973); weighted majority [51; 50, 49, 1]."""
    glove = shapley_values(["L", "R1", "R2"], lambda s: float("L" in s and len(s) > 1))
    assert list(glove.values()) == pytest.approx([2 / 3, 1 / 6, 1 / 6])
    costs = {"a": 8, "b": 11, "c": 13, "d": 18}
    airport = shapley_values(list(costs), lambda s: max([costs[x] for x in s], default=0))
    assert list(airport.values()) == pytest.approx([2, 3, 4, 9])
    votes = {"x": 50, "y": 49, "z": 1}
    majority = shapley_values(list(votes), lambda s: float(sum(votes[x] for x in s) >= 51))
    assert list(majority.values()) == pytest.approx([2 / 3, 1 / 6, 1 / 6])
    with pytest.raises(ValueError, match="16"):
        shapley_values([str(i) for i in range(17)], lambda s: 0.0)


def test_the_closed_form_of_shapley_is_its_definition() -> None:
    paths = [path("a", "b", "a"), path("b"), path("c", "a"), path("c", "b", "a", "d"), path("d", "d")]
    names = ["a", "b", "c", "d"]
    told = shapley_values(names, lambda s: float(sum(set(p.touches) <= s for p in paths)))
    found = credits_of(paths, Model.SHAPLEY)
    assert {name: found[name].count for name in names} == pytest.approx(told)


def test_removal_effects_of_the_worked_example() -> None:
    """C1>C2>C3 converts, C1 does not, C2>C3 does not: base 1/3, effects .5, 1, 1, shares .2, .4, .4."""
    paths = [path("C1", "C2", "C3"), path("C1", won=False), path("C2", "C3", won=False)]
    place = {"C1": 0, "C2": 1, "C3": 2}
    assert removal_effects(paths, place) == pytest.approx([0.5, 1, 1])
    assert [credits_of(paths, Model.MARKOV)[name].count for name in place] == pytest.approx([0.2, 0.4, 0.4])


def test_removal_effects_are_those_of_chains_solved_one_by_one() -> None:
    """Kemeny and Snell's absorbing chain, solved anew for each channel that is taken out."""
    chance = np.random.default_rng(4)
    names = [f"c{i}" for i in range(7)]
    paths = [
        path(*chance.choice(names, chance.integers(1, 6)).tolist(), won=bool(chance.random() < 0.4)) for _ in range(300)
    ]
    place = {name: i for i, name in enumerate(names)}

    def converting(without: str) -> float:
        moves = np.zeros((10, 10))  # start, channels, won, lost
        for walked in paths:
            states = [0, *(1 + place[t] for t in walked.touches), 8 if walked.is_converted else 9]
            for a, b in zip(states, states[1:], strict=False):
                moves[a, b] += 1
        rates = moves / np.maximum(1, moves.sum(axis=1))[:, None]
        if without:
            rates[1 + place[without]] = 0
        inside = rates[:8, :8]
        return float((np.linalg.solve(np.eye(8) - inside, rates[:8, 8]))[0])

    base = converting("")
    assert removal_effects(paths, place) == pytest.approx([1 - converting(name) / base for name in names])


def test_the_absorbing_chain_of_kemeny_and_snell() -> None:
    """The walk on five states: N = [[1.5, 1, .5], [1, 2, 1], [.5, 1, 1.5]], B = [[.75, .25], [.5, .5], [.25, .75]]."""
    inside = np.array([[0, 0.5, 0], [0.5, 0, 0.5], [0, 0.5, 0]])
    reached = np.linalg.inv(np.eye(3) - inside)
    assert reached == pytest.approx(np.array([[1.5, 1, 0.5], [1, 2, 1], [0.5, 1, 1.5]]))
    assert reached @ np.array([[0.5, 0], [0, 0], [0, 0.5]]) == pytest.approx(
        np.array([[0.75, 0.25], [0.5, 0.5], [0.25, 0.75]])
    )


walks = st.lists(
    st.builds(
        lambda touches, cents, won: path(*touches, cents=cents, won=won),
        st.lists(st.sampled_from(["a", "b", "c", "direct"]), min_size=1, max_size=6), st.integers(0, 99_999), st.booleans(),
    ), max_size=12,
)  # fmt: skip


@given(walks)
def test_credits_sum_to_the_conversions_to_the_last_cent(paths: list[Path]) -> None:
    won = [p for p in paths if p.is_converted]
    for model, given_ in all_credits(paths).items():
        assert sum(c.count for c in given_.values()) == pytest.approx(len(won), abs=1e-9), model
        assert sum(c.cents for c in given_.values()) == sum(p.cents for p in won), model
        assert all(c.cents >= 0 and c.count >= 0 for c in given_.values())


@given(walks, st.randoms())
def test_the_order_in_which_paths_arrive_changes_nothing(paths: list[Path], chance: object) -> None:
    mixed = list(paths)
    chance.shuffle(mixed)  # type: ignore[attr-defined]
    for model in Model:
        one, other = credits_of(paths, model), credits_of(mixed, model)
        assert one.keys() == other.keys()
        for name in one:
            assert one[name].count == pytest.approx(other[name].count, abs=1e-9)
            assert abs(one[name].cents - other[name].cents) <= 1  # a cent that does not divide may fall elsewhere


def test_a_path_without_touches_is_refused_and_nothing_gives_nothing() -> None:
    with pytest.raises(ValueError, match="at least one"):
        Path(touches=(), ages_days=())
    assert all_credits([]) == {model: {} for model in Model}
    assert rounded(np.array([0.5, 0.5]), 1).tolist() == [1, 0]
